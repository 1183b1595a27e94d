import { DAMPED, factorScaled, invertNormal, jointLength, type NormalEquations, solveScaled } from './normalEquations';

/** Takes whitened residuals and adds each one's share to the normal equations. */
export interface ResidualSink {
  /**
   * @param residual already divided by its σ
   * @param indices parameters it depends on, none twice
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

const LEAST_SQUARES = { maxSteps: 100, smallestStep: 1e-6, damping: 1e-3 } as const;

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
 * Levenberg-Marquardt on whitened residuals, by damped normal equations and Cholesky, each step bent along the curve
 * of the residuals (geodesic acceleration). A tightly known length and a barely known tilt make a valley that is
 * narrow, long and curved: straight steps leave it at once and creep, bent ones follow it.
 *
 * Needs: residuals divided by their σ, so that the inverse of the normal matrix is the covariance; the same number
 * of them, in the same order, at every parameter.
 * Degenerate: parameters that nothing observes make the normal matrix singular, reported, never guessed;
 * the caller gives every parameter a prior instead.
 * Source: Nocedal & Wright, Numerical Optimization (2006), chapter 10; scaling by the diagonal after Marquardt;
 * Transtrum & Sethna (2012), Improvements to the Levenberg-Marquardt algorithm.
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
  const probe = newNormal(size);
  const work = new Float64Array(size * size);
  const step = new Float64Array(size);
  const bend = new Float64Array(size);
  if (!gather(problem, here, normal)) return { ok: false, reason: 'no-model' };
  addSquares(normal);
  let lambda: number = damping;
  let steps = 0;
  while (steps < maxSteps) {
    steps += 1;
    const scale = factorScaled(normal, lambda, work);
    if (!scale) return { ok: false, reason: 'singular' };
    solveScaled(work, scale, normal.gradient, step);
    const length = jointLength(step, normal);
    const bent = length > STRAIGHT_ENOUGH && bendStep(problem, here, normal, probe, step, work, scale, there, bend);
    if (bent) for (let k = 0; k < size; k++) step[k]! += 0.5 * bend[k]!;
    for (let k = 0; k < size; k++) there[k] = here[k]! + step[k]!;
    if (bent !== null && gather(problem, there, next) && next.cost <= normal.cost * (1 + DAMPED.costRounding)) {
      [here, there] = [there, here];
      [normal, next] = [next, normal];
      addSquares(normal);
      // A step that damping made short tells nothing of how near the end is.
      const free = lambda < DAMPED.free;
      lambda = Math.max(lambda / 200, DAMPED.least);
      if (length < smallestStep && free) break;
    } else {
      if (length < Math.min(smallestStep, ROUNDING_STEP)) break;
      lambda *= 10;
      if (lambda > DAMPED.hopeless) return { ok: false, reason: 'no-descent' };
    }
  }
  const covariance = invertNormal(normal, work);
  if (!covariance) return { ok: false, reason: 'singular' };
  return { ok: true, parameters: here, cost: normal.cost, residualCount: normal.count, covariance, steps };
}

/** Steps shorter than this, in joint σ, are straight for any model here: bending them would only cost time. */
const STRAIGHT_ENOUGH = 0.3;
/** Share of the step at which the curvature of the residuals is probed. */
const PROBE_SHARE = 0.1;
/** Twice the bend over the step beyond which the curve cannot be trusted and the step must be shortened. */
const MOST_BEND = 0.75;

/**
 * Second-order part of a step into `bend`: the residuals' curvature along it, by one probe.
 * @returns true when it is to be added, false without one, null when the step goes further than the curve holds
 */
function bendStep(
  problem: LeastSquaresProblem,
  here: Float64Array,
  normal: Normal,
  probe: Normal,
  step: Float64Array,
  work: Float64Array,
  scale: Float64Array,
  scratch: Float64Array,
  bend: Float64Array,
): boolean | null {
  const size = step.length;
  for (let k = 0; k < size; k++) scratch[k] = here[k]! + PROBE_SHARE * step[k]!;
  if (!gather(problem, scratch, probe)) return null;
  const right = new Float64Array(size);
  let at = 0;
  for (let r = 0; r < normal.count; r++) {
    const end = normal.ends[r]!;
    let along = 0;
    for (let k = at; k < end; k++) along += normal.derivatives[k]! * step[normal.indices[k]!]!;
    const curvature = (2 / PROBE_SHARE) * ((probe.residuals[r]! - normal.residuals[r]!) / PROBE_SHARE - along);
    for (let k = at; k < end; k++) right[normal.indices[k]!]! += normal.derivatives[k]! * curvature;
    at = end;
  }
  solveScaled(work, scale, right, bend);
  let bendSquare = 0;
  let stepSquare = 0;
  for (let k = 0; k < size; k++) {
    bendSquare += (bend[k]! / scale[k]!) ** 2;
    stepSquare += (step[k]! / scale[k]!) ** 2;
  }
  return 2 * Math.sqrt(bendSquare) > MOST_BEND * Math.sqrt(stepSquare) ? null : true;
}

/** Steps shorter than this, in joint σ, fail by rounding only. */
const ROUNDING_STEP = 1e-6;
interface Normal extends NormalEquations {
  count: number;
  /** Each residual, and its derivatives one after the other, ending before `ends`. Arrays only grow. */
  residuals: Float64Array;
  ends: Int32Array;
  indices: Int32Array;
  derivatives: Float64Array;
}

/** Room for so many residuals to begin with, and for so many derivatives of each. */
const ROOM = { residuals: 256, derivativesEach: 12 } as const;

function newNormal(size: number): Normal {
  return {
    matrix: new Float64Array(size * size),
    gradient: new Float64Array(size),
    cost: 0,
    count: 0,
    residuals: new Float64Array(ROOM.residuals),
    ends: new Int32Array(ROOM.residuals),
    indices: new Int32Array(ROOM.residuals * ROOM.derivativesEach),
    derivatives: new Float64Array(ROOM.residuals * ROOM.derivativesEach),
  };
}

function grown<T extends Float64Array | Int32Array>(array: T): T {
  const larger = new (array.constructor as new (length: number) => T)(2 * array.length);
  larger.set(array);
  return larger;
}

/** The residuals at some parameters, and their cost; the squares are added when a step there is taken. */
function gather(problem: LeastSquaresProblem, parameters: Float64Array, into: Normal): boolean {
  into.cost = 0;
  into.count = 0;
  let used = 0;
  let cost = 0;
  let { residuals, ends, indices: allIndices, derivatives: allDerivatives } = into;
  const ok = problem.residuals(parameters, {
    add(residual, indices, derivatives) {
      const { length } = indices;
      if (into.count === residuals.length) {
        residuals = into.residuals = grown(residuals);
        ends = into.ends = grown(ends);
      }
      while (used + length > allIndices.length) {
        allIndices = into.indices = grown(allIndices);
        allDerivatives = into.derivatives = grown(allDerivatives);
      }
      cost += 0.5 * residual * residual;
      residuals[into.count] = residual;
      for (let i = 0; i < length; i++) {
        allIndices[used + i] = indices[i]!;
        allDerivatives[used + i] = derivatives[i]!;
      }
      used += length;
      ends[into.count] = used;
      into.count += 1;
    },
  });
  into.cost = cost;
  return ok && Number.isFinite(cost);
}

/** The normal equations from what was gathered: most of the time of an estimate, so it is not spent on probes. */
function addSquares({ matrix, gradient, count, residuals, ends, indices, derivatives }: Normal): void {
  const size = gradient.length;
  matrix.fill(0);
  gradient.fill(0);
  let from = 0;
  for (let r = 0; r < count; r++) {
    const end = ends[r]!;
    addSquare(matrix, gradient, size, residuals[r]!, indices, derivatives, from, end);
    from = end;
  }
  for (let row = 1; row < size; row++)
    for (let column = 0; column < row; column++) matrix[row * size + column]! += matrix[column * size + row]!;
}

/**
 * One residual's share of the normal equations. The hot loop of every estimate: typed arrays only, and no branch in it.
 * Its indices and derivatives stand between `from` and `end`. */
function addSquare(
  matrix: Float64Array,
  gradient: Float64Array,
  size: number,
  residual: number,
  indices: Int32Array,
  derivatives: Float64Array,
  from: number,
  end: number,
): void {
  for (let i = from; i < end; i++) {
    const d = derivatives[i]!;
    const row = indices[i]!;
    gradient[row]! += d * residual;
    // Each pair once, in the half of the matrix where its order puts it; both halves are one in the end.
    const rowAt = row * size;
    for (let j = from; j <= i; j++) matrix[rowAt + indices[j]!]! += d * derivatives[j]!;
  }
}
