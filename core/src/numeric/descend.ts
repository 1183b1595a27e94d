import { DAMPED, factorScaled, invertNormal, jointLength, type NormalEquations, solveScaled } from './normalEquations';

/** A model that sums up its normal equations by itself, which is faster where its residuals have a common structure. */
export interface SummedProblem {
  /** Number of parameters. */
  size: number;
  /** Writes matrix, gradient and cost at `parameters`; returns false where the model has no answer there. */
  sum(parameters: Float64Array, into: NormalEquations): boolean;
}

export type Descent =
  | { ok: true; parameters: Float64Array; cost: number; covariance: Float64Array }
  | { ok: false; reason: 'no-model' | 'singular' | 'no-descent' | 'out-of-reach' };

export interface DescentOptions {
  maxSteps: number;
  /** Length of a step, in units of the parameters' joint scatter, at which the descent has ended. */
  smallestStep: number;
  /** Only a cost up to this is of use: the descent is given up once three times its pace would not reach it. */
  wanted?: number;
}

/** The pace is the longest way down of the last so many steps; none is given up sooner. */
const PACE_STEPS = 4;
const FASTER = 3;

/** Straight steps go wrong where bent ones do not: the first is held back more, relative to the diagonal. */
const FIRST_DAMPING = 0.1;

/**
 * Levenberg-Marquardt on normal equations that the model sums itself; straight steps. As `solveLeastSquares` otherwise,
 * which bends its steps and is meant for valleys that are narrow and curved.
 *
 * In: the model and where to begin. Out: parameters, half the sum of squares, covariance for unit weights.
 */
export function descend(
  problem: SummedProblem,
  start: Float64Array,
  { maxSteps, smallestStep, wanted = Number.POSITIVE_INFINITY }: DescentOptions,
): Descent {
  const { size } = problem;
  let [here, there] = [start.slice(), start.slice()];
  let [normal, next] = [emptyNormal(size), emptyNormal(size)];
  const work = new Float64Array(size * size);
  const step = new Float64Array(size);
  if (!sumAt(problem, here, normal)) return { ok: false, reason: 'no-model' };
  let lambda: number = FIRST_DAMPING;
  const down = new Float64Array(maxSteps);
  for (let steps = 0; steps < maxSteps; steps++) {
    if (steps >= PACE_STEPS && normal.cost > wanted) {
      const pace = Math.max(...down.subarray(steps - PACE_STEPS, steps));
      if (normal.cost - FASTER * pace * (maxSteps - steps) > wanted) return { ok: false, reason: 'out-of-reach' };
    }
    const scale = factorScaled(normal, lambda, work);
    if (!scale) return { ok: false, reason: 'singular' };
    solveScaled(work, scale, normal.gradient, step);
    const length = jointLength(step, normal);
    for (let k = 0; k < size; k++) there[k] = here[k]! + step[k]!;
    if (sumAt(problem, there, next) && next.cost <= normal.cost * (1 + DAMPED.costRounding)) {
      down[steps] = normal.cost - next.cost;
      [here, there] = [there, here];
      [normal, next] = [next, normal];
      // A step that damping made short tells nothing of how near the end is.
      const free = lambda < DAMPED.free;
      lambda = Math.max(lambda / 200, DAMPED.least);
      if (length < smallestStep && free) break;
    } else {
      if (length < smallestStep) break;
      lambda *= 10;
      if (lambda > DAMPED.hopeless) return { ok: false, reason: 'no-descent' };
    }
  }
  const covariance = invertNormal(normal, work);
  return covariance ? { ok: true, parameters: here, cost: normal.cost, covariance } : { ok: false, reason: 'singular' };
}

const emptyNormal = (size: number): NormalEquations => ({
  matrix: new Float64Array(size * size),
  gradient: new Float64Array(size),
  cost: 0,
});

const sumAt = (problem: SummedProblem, parameters: Float64Array, into: NormalEquations): boolean =>
  problem.sum(parameters, into) && Number.isFinite(into.cost);
