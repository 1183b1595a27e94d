import { factorCholesky, solveCholesky } from './cholesky';

/** Takes whitened residuals and adds each one's share to the normal equations. */
export interface ResidualSink {
  /**
   * @param residual already divided by its σ
   * @param indices parameters it depends on
   * @param derivatives of the whitened residual by those parameters
   */
  add(residual: number, indices: ArrayLike<number>, derivatives: ArrayLike<number>): void;
}

export interface LeastSquaresProblem {
  /** Number of parameters. */
  size: number;
  /** Writes every residual at `parameters`; returns false where the model has no answer there. */
  residuals(parameters: Float64Array, sink: ResidualSink): boolean;
}

export interface LeastSquaresOptions {
  maxSteps?: number;
  /** Length of a step, in units of the parameters' joint scatter, at which the descent is taken to have ended. */
  smallestStep?: number;
  /** Damping to begin with, relative to the diagonal. */
  damping?: number;
}

export const LEAST_SQUARES = { maxSteps: 100, smallestStep: 1e-6, damping: 1e-3 } as const;

export type LeastSquaresResult =
  | {
      ok: true;
      parameters: Float64Array;
      /** Half the sum of squares at the end. */
      cost: number;
      residualCount: number;
      /** Covariance of the parameters for unit-weight residuals, row by row. */
      covariance: Float64Array;
      steps: number;
    }
  | { ok: false; reason: 'no-model' | 'singular' | 'no-descent' };

/**
 * Levenberg-Marquardt on whitened residuals, by damped normal equations and Cholesky.
 *
 * Needs: residuals divided by their σ, so that the inverse of the normal matrix is the covariance.
 * Degenerate: parameters that nothing observes make the normal matrix singular, reported, never guessed;
 * the caller gives every parameter a prior instead.
 * Source: Nocedal & Wright, Numerical Optimization (2006), chapter 10; scaling by the diagonal after Marquardt.
 */
export function solveLeastSquares(
  problem: LeastSquaresProblem,
  start: Float64Array,
  options: LeastSquaresOptions = {},
): LeastSquaresResult {
  const { maxSteps, smallestStep, damping } = { ...LEAST_SQUARES, ...options };
  const { size } = problem;
  let here = start.slice();
  let there = start.slice();
  let normal = newNormal(size);
  let next = newNormal(size);
  const work = new Float64Array(size * size);
  const step = new Float64Array(size);
  if (!gather(problem, here, normal)) return { ok: false, reason: 'no-model' };
  let lambda: number = damping;
  let steps = 0;
  while (steps < maxSteps) {
    steps += 1;
    if (!dampedStep(normal, lambda, work, step)) return { ok: false, reason: 'singular' };
    for (let k = 0; k < size; k++) there[k] = here[k] + step[k];
    const length = jointLength(step, normal);
    if (gather(problem, there, next) && next.cost <= normal.cost * (1 + COST_ROUNDING)) {
      [here, there] = [there, here];
      [normal, next] = [next, normal];
      lambda = Math.max(lambda / 30, LEAST_DAMPING);
      if (length < smallestStep) break;
    } else {
      if (length < smallestStep) break;
      lambda *= 10;
      if (lambda > HOPELESS_DAMPING) return { ok: false, reason: 'no-descent' };
    }
  }
  const covariance = invertNormal(normal, work);
  if (!covariance) return { ok: false, reason: 'singular' };
  return { ok: true, parameters: here, cost: normal.cost, residualCount: normal.count, covariance, steps };
}

/** A cost that rises by rounding only counts as equal: at the minimum no step can lower it. */
const COST_ROUNDING = 1e-12;
/** Damping below this no longer changes the step. */
const LEAST_DAMPING = 1e-12;
/** Damping beyond which no downhill step exists within double precision. */
const HOPELESS_DAMPING = 1e12;

interface Normal {
  /** Lower triangle filled, row by row. */
  matrix: Float64Array;
  gradient: Float64Array;
  cost: number;
  count: number;
}

function newNormal(size: number): Normal {
  return { matrix: new Float64Array(size * size), gradient: new Float64Array(size), cost: 0, count: 0 };
}

function gather(problem: LeastSquaresProblem, parameters: Float64Array, into: Normal): boolean {
  const { size } = problem;
  const { matrix, gradient } = into;
  matrix.fill(0);
  gradient.fill(0);
  into.cost = 0;
  into.count = 0;
  const ok = problem.residuals(parameters, {
    add(residual, indices, derivatives) {
      into.cost += 0.5 * residual * residual;
      into.count += 1;
      for (let i = 0; i < indices.length; i++) {
        const row = indices[i];
        const d = derivatives[i];
        gradient[row] += d * residual;
        for (let j = 0; j < indices.length; j++)
          if (indices[j] <= row) matrix[row * size + indices[j]] += d * derivatives[j];
      }
    },
  });
  return ok && Number.isFinite(into.cost);
}

/** Scaled to a unit diagonal before factoring: parameters of very different size would otherwise cost digits. */
function factorScaled({ matrix, gradient }: Normal, lambda: number, work: Float64Array): Float64Array | null {
  const size = gradient.length;
  const scale = new Float64Array(size);
  for (let k = 0; k < size; k++) {
    const d = matrix[k * size + k];
    if (!(d > 0)) return null;
    scale[k] = 1 / Math.sqrt(d);
  }
  for (let i = 0; i < size; i++) {
    for (let j = 0; j < i; j++) work[i * size + j] = matrix[i * size + j] * scale[i] * scale[j];
    work[i * size + i] = 1 + lambda;
  }
  return factorCholesky(work, size) ? scale : null;
}

function dampedStep(normal: Normal, lambda: number, work: Float64Array, step: Float64Array): boolean {
  const scale = factorScaled(normal, lambda, work);
  if (!scale) return false;
  for (let k = 0; k < step.length; k++) step[k] = -normal.gradient[k] * scale[k];
  solveCholesky(work, step.length, step);
  for (let k = 0; k < step.length; k++) step[k] *= scale[k];
  return true;
}

function invertNormal(normal: Normal, work: Float64Array): Float64Array | null {
  const size = normal.gradient.length;
  const scale = factorScaled(normal, 0, work);
  if (!scale) return null;
  const inverse = new Float64Array(size * size);
  const column = new Float64Array(size);
  for (let j = 0; j < size; j++) {
    column.fill(0);
    column[j] = scale[j];
    solveCholesky(work, size, column);
    for (let i = 0; i < size; i++) inverse[i * size + j] = column[i] * scale[i];
  }
  return inverse;
}

/** Length of a step in units of the joint scatter of the parameters: at 1 it changes the cost by a half. */
function jointLength(step: Float64Array, { matrix }: Normal): number {
  const size = step.length;
  let sum = 0;
  for (let i = 0; i < size; i++) {
    for (let j = 0; j < i; j++) sum += 2 * step[i] * step[j] * matrix[i * size + j];
    sum += step[i] * step[i] * matrix[i * size + i];
  }
  return Math.sqrt(Math.max(0, sum));
}
