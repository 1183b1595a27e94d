import {
  type BodyDrawing,
  type BodyFile,
  type BodyFormat,
  bodyDrawing,
  type NamedBody,
  titleOf,
  variantJobs,
  writeBodies,
  writeBody,
} from '../format/body';
import type { FlatProfile } from '../format/profile';
import { bodyPlanOf, type JobDocument } from '../job';
import { createCalibrator, placingOf } from '../job/calibrated';
import { evaluatePart } from '../sketch';
import type { BodyPlan, FeatureFault } from '../solid';
import { createBuilder, type Kernel } from '../solid/kernel';

export type BodyPlanResult = { ok: true; plan: BodyPlan } | { ok: false; reason: 'nothing-is-true' | 'no-body' };

/** What the body of a job is made of, worked out from its document alone. */
export function planJob(job: JobDocument): BodyPlanResult {
  if (job.part.features.length === 0) return { ok: false, reason: 'no-body' };
  const placing = placingOf(job, createCalibrator());
  if (placing.size === 0) return { ok: false, reason: 'nothing-is-true' };
  const evaluated = evaluatePart(job.part, placing, { truly: true, draft: null });
  return { ok: true, plan: bodyPlanOf(job, evaluated, placing) };
}

export type MakeBodyResult =
  | { ok: true; file: Extract<BodyFile, { ok: true }>; faults: FeatureFault[] }
  | { ok: false; reason: 'nothing-is-true' | 'no-body' | 'nothing-made'; faults: FeatureFault[] }
  | { ok: false; reason: Extract<BodyFile, { ok: false }>['reason']; faults: FeatureFault[] };

/** The body of a job as a file's bytes. Features that cannot be made are left out and told. */
export function makeBody(
  oc: Kernel,
  job: JobDocument,
  format: BodyFormat,
  options: { date: string; toleranceMm: number },
): MakeBodyResult {
  const planned = planJob(job);
  if (!planned.ok) return { ...planned, faults: [] };
  const built = createBuilder(oc).build(planned.plan.steps);
  const faults = [...planned.plan.faults, ...built.faults];
  if (!built.state) return { ok: false, reason: 'nothing-made', faults };
  const title = titleOf(job);
  const file = writeBody(oc, built.state, format, { ...options, title, factor: job.part.bodyFactor?.factor ?? 1 });
  return file.ok ? { ok: true, file, faults } : { ok: false, reason: file.reason, faults };
}

/** A section of a job's body, or what is seen of it from a side, as a drawing; null where a section meets nothing. */
export function makeDrawing(
  oc: Kernel,
  job: JobDocument,
  what: BodyDrawing,
  date: string,
):
  | { ok: true; profile: FlatProfile | null; faults: FeatureFault[] }
  | { ok: false; reason: 'nothing-is-true' | 'no-body' | 'nothing-made'; faults: FeatureFault[] } {
  const planned = planJob(job);
  if (!planned.ok) return { ...planned, faults: [] };
  const built = createBuilder(oc).build(planned.plan.steps);
  const faults = [...planned.plan.faults, ...built.faults];
  if (!built.state) return { ok: false, reason: 'nothing-made', faults };
  const profile = bodyDrawing(oc, built.state, what, { title: titleOf(job), date, unit: job.unit });
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
  for (const { job: own, name, title } of variantJobs(job)) {
    const planned = planJob(own);
    if (!planned.ok) return planned;
    if (planned.plan.faults.length > 0) leftOut.push(title);
    else bodies.push({ name, title, steps: planned.plan.steps });
  }
  const made = writeBodies(oc, createBuilder(oc), bodies, { ...options, factor: job.part.bodyFactor?.factor ?? 1 });
  return { ok: true, bytes: made.bytes, leftOut: [...leftOut, ...made.leftOut] };
}
