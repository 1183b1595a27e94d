import Ajv from 'ajv';
import standalone from 'ajv/dist/standalone';
import { JOB_SCHEMA } from '../core/src/schema/job';

/** What a fault carries beside its place: nobody reads it, and every page would load it. */
const BESIDE_PLACE = /,schemaPath:"[^"]*",keyword:"[^"]*",params:\{[^{}]*\}/g;

/** The job document's check as the text of a module without imports. Its faults say where, nothing else. */
export function compileJobValidator(): string {
  const ajv = new Ajv({ strict: true, inlineRefs: false, messages: false, code: { source: true, esm: true } });
  ajv.addSchema(JOB_SCHEMA, 'job');
  const code = (standalone as unknown as (a: Ajv, names: Record<string, string>) => string)(ajv, {
    validateJob: 'job',
  });
  return `// Made from core/src/schema by "npm run make:validators". Do not edit.\n${code.replace(BESIDE_PLACE, '')}`;
}
