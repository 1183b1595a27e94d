import { factorCholesky, solveCholesky } from './cholesky';

/** Normal equations of whitened residuals at some parameters. */
export interface NormalEquations {
  /** Row by row; only the lower triangle counts. */
  matrix: Float64Array;
  gradient: Float64Array;
  /** Half the sum of squares. */
  cost: number;
}

/** What every damped descent here keeps to. */
export const DAMPED = {
  /** A cost that rises by rounding only counts as equal: at the minimum no step can lower it. */
  costRounding: 1e-12,
  /** Damping below this hardly shortens a step. */
  free: 0.05,
  /** Damping below this no longer changes the step. */
  least: 1e-12,
  /** Damping beyond which no downhill step exists within double precision. */
  hopeless: 1e12,
} as const;

/** Scaled to a unit diagonal before factoring: parameters of very different size would otherwise cost digits. */
export function factorScaled(
  { matrix, gradient }: NormalEquations,
  lambda: number,
  work: Float64Array,
): Float64Array | null {
  const size = gradient.length;
  const scale = new Float64Array(size);
  for (let k = 0; k < size; k++) {
    const d = matrix[k * size + k]!;
    if (!(d > 0)) return null;
    scale[k] = 1 / Math.sqrt(d);
  }
  for (let i = 0; i < size; i++) {
    for (let j = 0; j < i; j++) work[i * size + j] = matrix[i * size + j]! * scale[i]! * scale[j]!;
    work[i * size + i] = 1 + lambda;
  }
  return factorCholesky(work, size) ? scale : null;
}

/** The step against a gradient, through the factors of the scaled matrix. */
export function solveScaled(
  factors: Float64Array,
  scale: Float64Array,
  gradient: Float64Array,
  step: Float64Array,
): void {
  for (let k = 0; k < step.length; k++) step[k] = -gradient[k]! * scale[k]!;
  solveCholesky(factors, step.length, step);
  for (let k = 0; k < step.length; k++) step[k]! *= scale[k]!;
}

/** The covariance for unit-weight residuals; null where a parameter is observed by nothing. */
export function invertNormal(normal: NormalEquations, work: Float64Array): Float64Array | null {
  const size = normal.gradient.length;
  const scale = factorScaled(normal, 0, work);
  if (!scale) return null;
  const inverse = new Float64Array(size * size);
  const column = new Float64Array(size);
  for (let j = 0; j < size; j++) {
    column.fill(0);
    column[j] = scale[j]!;
    solveCholesky(work, size, column);
    for (let i = 0; i < size; i++) inverse[i * size + j] = column[i]! * scale[i]!;
  }
  return inverse;
}

/** Length of a step in units of the joint scatter of the parameters: at 1 it changes the cost by a half. */
export function jointLength(step: Float64Array, { matrix }: NormalEquations): number {
  const size = step.length;
  let sum = 0;
  for (let i = 0; i < size; i++) {
    for (let j = 0; j < i; j++) sum += 2 * step[i]! * step[j]! * matrix[i * size + j]!;
    sum += step[i]! * step[i]! * matrix[i * size + i]!;
  }
  return Math.sqrt(Math.max(0, sum));
}
