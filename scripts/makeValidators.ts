// Compiles the schemas to plain code: the strict content policy of the application forbids making code at run time.
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { compileJobValidator } from './compileJobValidator';

writeFileSync(
  fileURLToPath(new URL('../core/src/job/document/validateJob.generated.js', import.meta.url)),
  compileJobValidator(),
);
