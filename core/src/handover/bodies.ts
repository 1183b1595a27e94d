import { type Finding, featureFindings, partFindings } from '../findings';
import { stepsFor, titleOf, variantJobs } from '../format/body/prepare';
import type { Machine } from '../format/profile';
import { bodyPlanOf, type JobDocument } from '../job';
import { evaluatePart, type Placing } from '../sketch';
import type { BodyPlan, BodyStep } from '../solid';
import type { Evaluated } from './handOver';

/** What the body of a job is handed over as, and what has to be said of it. */
export interface HandedOverBody {
  title: string;
  /** What it is made of, made up for the machine where one is chosen. */
  steps: readonly BodyStep[];
  /** How many times as large as it is it goes out. */
  factor: number;
  faults: Finding[];
  /** Nothing is left of something on that machine. */
  lost: boolean;
}

/**
 * The body that goes into files: the one way from a planned body to them, of the screen and of scripts alike.
 *
 * In: the job, its part evaluated truly, and the plan of its body through the calibrations that hold; what it is made on.
 * Out: the steps for the kernel, mm, and every fault of the part and of its features.
 */
export function handedOverBody(
  job: JobDocument,
  evaluated: Evaluated,
  plan: BodyPlan,
  machine: Machine | null,
): HandedOverBody {
  const { steps, lost } = machine ? stepsFor(plan.steps, machine) : { steps: plan.steps, lost: false };
  return {
    title: titleOf(job),
    steps,
    factor: job.part.bodyFactor?.factor ?? 1,
    faults: [...partFindings(job, evaluated, null), ...featureFindings(plan.faults, job)],
    lost,
  };
}

/** The same of every variant, one after the other: without variants the part as it is. */
export function* handedOverVariants(
  job: JobDocument,
  placing: Placing,
  machine: Machine | null,
): Generator<{ name: string } & HandedOverBody> {
  for (const { job: own, name, title } of variantJobs(job)) {
    const evaluated = evaluatePart(own.part, placing, { truly: true, draft: null });
    yield { name, ...handedOverBody(own, evaluated, bodyPlanOf(own, evaluated, placing), machine), title };
  }
}
