import { type LeastSquaresOptions, type LeastSquaresProblem, type ResidualSink, solveLeastSquares } from '../numeric';
import { backProject } from './backProject';
import { CAMERA, CAMERA_SIZE, prepareCamera } from './camera';
import { layOutUnknowns, type Unknowns } from './layOutUnknowns';
import { newObserveScratch, observeYardstick } from './observe';
import { type CameraPrior, cameraPrior, pagePrior } from './priors';
import { addRulerPrior, RULER, startRuler, thinnedStrokes } from './strokes';
import type { TruingInput } from './truingInput';
import { LEAST_PICK_DISTANCE_PX, type Plane, TABLE, type Yardstick, type YardstickId } from './yardstick';

export type TruingFault = 'no-yardstick' | 'picks-coincide' | 'unknown-plane' | 'outside-model' | 'no-agreement';

/** One place where the estimate came to rest. */
export interface Solution {
  parameters: Float64Array;
  /** Row by row, size × size. */
  covariance: Float64Array;
  /** Half the sum of squared whitened residuals, priors included. */
  cost: number;
}

export type EstimateResult =
  | { ok: true; unknowns: Unknowns; prior: CameraPrior; solutions: Solution[] }
  | { ok: false; reason: TruingFault; yardstick?: YardstickId };

/**
 * The one estimate: all yardsticks of a photograph and all priors in one least-squares problem.
 *
 * In: picks in px, lengths and heights in mm. Out: every solution that the data allow, the likeliest first;
 * parameters are laid out as `unknowns` says, the camera's eight first.
 * Degenerate: no yardstick, picks in one place, or a model that cannot hold them gives a reason.
 * Source: docs/measurement.md.
 */
export function estimate(input: TruingInput): EstimateResult {
  const fault = findFault(input);
  if (fault) return fault;
  const prior = priorOf(input);
  const unknowns = layOutUnknowns(input);
  const problem = posedProblem(input, prior, unknowns, null);
  const few = posedProblem(thinned(input), prior, unknowns, null);
  const solve = (posed: LeastSquaresProblem, start: Float64Array, options?: LeastSquaresOptions): Solution | null => {
    const found = solveLeastSquares(posed, start, options);
    return found.ok ? { parameters: found.parameters, covariance: found.covariance, cost: found.cost } : null;
  };
  const rough: Solution[] = [];
  for (const [a, b] of input.lens === 'page' ? UNTILTED : STARTING_TILTS) {
    const start = startingPoint(input, prior, unknowns, a, b);
    const found = start && solve(few, start, ROUGH_DESCENT);
    if (found) keepDistinct(rough, found);
  }
  // Most starts end in the same few places: only those are worked out to the end.
  const solutions: Solution[] = [];
  for (const place of rough) {
    const found = solve(problem, place.parameters);
    if (found) keepDistinct(solutions, found);
  }
  if (solutions.length === 0) return { ok: false, reason: 'outside-model' };
  solutions.sort((p, q) => p.cost - q.cost);
  const allowed = solutions.filter((s) => s.cost - solutions[0].cost < MOST_EXTRA_COST);
  return { ok: true, unknowns, prior, solutions: allowed };
}

/** Tilts from which the descent starts, rad: flat-on and three rings, since a tilt and its opposite can look alike. */
const STARTING_TILTS: readonly (readonly [number, number])[] = [
  [0.01, 0.01],
  ...[0.15, 0.4, 0.65].flatMap((tilt) =>
    Array.from(
      { length: 6 },
      (_, k) => [tilt * Math.cos((k * Math.PI) / 3), tilt * Math.sin((k * Math.PI) / 3)] as const,
    ),
  ),
];

/** A page has no tilt. */
const UNTILTED: typeof STARTING_TILTS = [[0, 0]];

/** Near enough to tell where a start leads. */
const ROUGH_DESCENT = { maxSteps: 40, smallestStep: 0.05 } as const;

/** A solution that is exp(−6) as likely as the best is not shown. */
const MOST_EXTRA_COST = 6;
/** Two solutions nearer than this in the camera's own σ are the same one. */
const SAME_SOLUTION_SIGMAS = 0.5;

/**
 * The residuals of the estimate; with `scatter`, each one is shifted by one number of it, which poses the problem
 * as another day's readings would.
 */
export function posedProblem(
  input: TruingInput,
  prior: CameraPrior,
  unknowns: Unknowns,
  scatter: (() => number) | null,
): LeastSquaresProblem {
  const scratch = newObserveScratch();
  return {
    size: unknowns.size,
    residuals(parameters, sink) {
      const shifted = scatter ? shiftedSink(sink, scatter) : sink;
      addCameraPrior(parameters, prior, shifted);
      addHeightPriors(parameters, input.planes, unknowns, shifted);
      addRulerPriors(parameters, input.yardsticks, unknowns, shifted);
      const camera = prepareCamera(parameters, input.lens);
      return input.yardsticks.every((y) => observeYardstick(y, camera, parameters, unknowns, shifted, scratch));
    },
  };
}

/** The same input with rulers of fewer strokes. */
export function thinned(input: TruingInput): TruingInput {
  const yardsticks = input.yardsticks.map((y) => (y.strokes ? { ...y, strokes: thinnedStrokes(y.strokes) } : y));
  return { ...input, yardsticks };
}

function shiftedSink(sink: ResidualSink, scatter: () => number): ResidualSink {
  return { add: (residual, indices, derivatives) => sink.add(residual + scatter(), indices, derivatives) };
}

function addCameraPrior(parameters: Float64Array, prior: CameraPrior, sink: ResidualSink): void {
  for (let k = 0; k < CAMERA_SIZE; k++) {
    const sigma = prior.sigma[k];
    if (k === CAMERA.lnC && prior.focalMm) {
      // Focused near, a lens of f stands f·D / (D − f) before the picture.
      const near = prior.focalMm / Math.exp(parameters[CAMERA.lnD]);
      if (near < MOST_FOCUS_SHARE) {
        sink.add(
          (parameters[k] - prior.mean[k] + Math.log(1 - near)) / sigma,
          [k, CAMERA.lnD],
          [1 / sigma, near / (1 - near) / sigma],
        );
        continue;
      }
    }
    sink.add((parameters[k] - prior.mean[k]) / sigma, [k], [1 / sigma]);
  }
}

/** Beyond this share of D the thin-lens formula is past life size, which no camera of this use reaches. */
const MOST_FOCUS_SHARE = 0.5;

function addHeightPriors(parameters: Float64Array, planes: Plane[], unknowns: Unknowns, sink: ResidualSink): void {
  for (const plane of planes) {
    const index = unknowns.heights[plane.id];
    if (index === undefined) continue;
    const sigma = plane.plusMinusMm / 2;
    sink.add((parameters[index] - plane.heightMm) / sigma, [index], [1 / sigma]);
  }
}

/** A spacing is as true as its ruler, or as the length between the readings was typed to be. */
function addRulerPriors(
  parameters: Float64Array,
  yardsticks: readonly Yardstick[],
  unknowns: Unknowns,
  sink: ResidualSink,
): void {
  for (const y of yardsticks) {
    const at = unknowns.rulers[y.id];
    if (at === undefined) continue;
    addRulerPrior(parameters, at, y.plusMinusMm === null ? RULER.sigmaSpacing : y.plusMinusMm / 2 / y.lengthMm, sink);
  }
}

const priorOf = ({ facts, hold, lens, believeResolution }: TruingInput): CameraPrior =>
  lens === 'page' ? pagePrior(facts, believeResolution) : cameraPrior(facts, hold);

/** Anything at all is known of how large a picture is. */
export function knowsScale({
  yardsticks,
  lens,
  believeResolution,
  facts,
}: Omit<TruingInput, 'hold' | 'planes'>): boolean {
  return yardsticks.length > 0 || (lens === 'page' && believeResolution && facts.resolution !== null);
}

function findFault(input: TruingInput): Extract<EstimateResult, { ok: false }> | null {
  const { yardsticks, planes } = input;
  if (!knowsScale(input)) return { ok: false, reason: 'no-yardstick' };
  for (const y of yardsticks) {
    if (y.plane !== TABLE.id && !planes.some((p) => p.id === y.plane))
      return { ok: false, reason: 'unknown-plane', yardstick: y.id };
    if (Math.hypot(y.to.uPx - y.from.uPx, y.to.vPx - y.from.vPx) < LEAST_PICK_DISTANCE_PX)
      return { ok: false, reason: 'picks-coincide', yardstick: y.id };
  }
  return null;
}

/** Camera from the priors, distance from the known lengths. */
function startingPoint(
  input: TruingInput,
  prior: CameraPrior,
  unknowns: Unknowns,
  a: number,
  b: number,
): Float64Array | null {
  const start = new Float64Array(unknowns.size);
  start.set(prior.mean);
  start[CAMERA.a] = a;
  start[CAMERA.b] = b;
  for (const plane of input.planes) {
    const index = unknowns.heights[plane.id];
    if (index !== undefined) start[index] = plane.heightMm;
  }
  const place = new Float64Array(2);
  const spans = input.yardsticks.map((y) => {
    const camera = prepareCamera(start, input.lens);
    const ends = [y.from, y.to].map((p) => (backProject(camera, p.uPx, p.vPx, 0, place) ? [...place] : null));
    return ends[0] && ends[1]
      ? Math.log(y.lengthMm / Math.hypot(ends[1][0] - ends[0][0], ends[1][1] - ends[0][1]))
      : null;
  });
  const known = spans.filter((s): s is number => s !== null);
  if (known.length < spans.length) return null;
  const grow = known.length ? known.reduce((sum, s) => sum + s, 0) / known.length : 0;
  if (input.lens === 'page') start[CAMERA.lnC] -= grow;
  else start[CAMERA.lnD] += grow;
  const camera = prepareCamera(start, input.lens);
  for (const y of input.yardsticks) {
    const at = unknowns.rulers[y.id];
    if (at === undefined) continue;
    const height = unknowns.heightOf(start, y.plane);
    const ends = [y.from, y.to].map((p) => (backProject(camera, p.uPx, p.vPx, height, place) ? [...place] : null));
    if (!ends[0] || !ends[1]) return null;
    startRuler(ends[0], ends[1], start, at);
  }
  return start;
}

function keepDistinct(kept: Solution[], found: Solution): void {
  const size = Math.sqrt(found.covariance.length);
  const twin = kept.findIndex((other) => {
    for (const k of [CAMERA.a, CAMERA.b, CAMERA.lnC, CAMERA.lnD]) {
      const sigma = Math.sqrt(found.covariance[k * size + k]);
      if (Math.abs(found.parameters[k] - other.parameters[k]) > SAME_SOLUTION_SIGMAS * sigma) return false;
    }
    return true;
  });
  if (twin < 0) kept.push(found);
  else if (found.cost < kept[twin].cost) kept[twin] = found;
}
