import { type Finding, featureFindings } from '../findings';
import {
  type BodyDrawing,
  type BodyFile,
  type BodyFormat,
  bodyDrawing,
  type NamedBody,
  writeBodies,
  writeBody,
} from '../format/body';
import type { FlatProfile } from '../format/profile';
import { type HandedOverBody, handedOverBody, handedOverVariants } from '../handover';
import { bodyPlanOf, type JobDocument } from '../job';
import { createCalibrator, placingOf } from '../job/calibrated';
import { evaluatePart } from '../sketch';
import { createBuilder, type Kernel } from '../solid/kernel';

export type BodyPlanResult = { ok: true; body: HandedOverBody } | { ok: false; reason: 'nothing-is-true' | 'no-body' };

/** What the body of a job is made of, worked out from its document alone. */
export function planJob(job: JobDocument): BodyPlanResult {
  if (job.part.features.length === 0) return { ok: false, reason: 'no-body' };
  const placing = placingOf(job, createCalibrator());
  if (placing.size === 0) return { ok: false, reason: 'nothing-is-true' };
  const evaluated = evaluatePart(job.part, placing, { truly: true, draft: null });
  return { ok: true, body: handedOverBody(job, evaluated, bodyPlanOf(job, evaluated, placing), null) };
}

export type MakeBodyResult =
  | { ok: true; file: Extract<BodyFile, { ok: true }>; faults: Finding[] }
  | { ok: false; reason: 'nothing-is-true' | 'no-body' | 'nothing-made'; faults: Finding[] }
  | { ok: false; reason: Extract<BodyFile, { ok: false }>['reason']; faults: Finding[] };

/** The body of a job as a file's bytes. Features that cannot be made are left out and told. */
export function makeBody(
  oc: Kernel,
  job: JobDocument,
  format: BodyFormat,
  options: { date: string; toleranceMm: number },
): MakeBodyResult {
  const planned = planJob(job);
  if (!planned.ok) return { ...planned, faults: [] };
  const { steps, title, factor } = planned.body;
  const built = createBuilder(oc).build(steps);
  const faults = [...planned.body.faults, ...featureFindings(built.faults, job)];
  if (!built.state) return { ok: false, reason: 'nothing-made', faults };
  const file = writeBody(oc, built.state, format, { ...options, title, factor });
  return file.ok ? { ok: true, file, faults } : { ok: false, reason: file.reason, faults };
}

/** A section of a job's body, or what is seen of it from a side, as a drawing; null where a section meets nothing. */
export function makeDrawing(
  oc: Kernel,
  job: JobDocument,
  what: BodyDrawing,
  date: string,
):
  | { ok: true; profile: FlatProfile | null; faults: Finding[] }
  | { ok: false; reason: 'nothing-is-true' | 'no-body' | 'nothing-made'; faults: Finding[] } {
  const planned = planJob(job);
  if (!planned.ok) return { ...planned, faults: [] };
  const { steps, title } = planned.body;
  const built = createBuilder(oc).build(steps);
  const faults = [...planned.body.faults, ...featureFindings(built.faults, job)];
  if (!built.state) return { ok: false, reason: 'nothing-made', faults };
  const profile = bodyDrawing(oc, built.state, what, { title, date, unit: job.unit });
  return { ok: true, profile, faults };
}

/** Every variant of a job as STEP, STL and 3MF in one archive; without variants the part as it is. */
export function makeVariants(
  oc: Kernel,
  job: JobDocument,
  options: { date: string; toleranceMm: number },
): { ok: true; bytes: Uint8Array; leftOut: string[] } | { ok: false; reason: 'nothing-is-true' | 'no-body' } {
  const bodies: NamedBody[] = [];
  const leftOut: string[] = [];
  if (job.part.features.length === 0) return { ok: false, reason: 'no-body' };
  const placing = placingOf(job, createCalibrator());
  if (placing.size === 0) return { ok: false, reason: 'nothing-is-true' };
  for (const { name, title, steps, faults } of handedOverVariants(job, placing, null)) {
    if (faults.length > 0) leftOut.push(title);
    else bodies.push({ name, title, steps });
  }
  const made = writeBodies(oc, createBuilder(oc), bodies, { ...options, factor: job.part.bodyFactor?.factor ?? 1 });
  return { ok: true, bytes: made.bytes, leftOut: [...leftOut, ...made.leftOut] };
}
