import { type LeastSquaresOptions, type LeastSquaresProblem, solveLeastSquares } from '../../numeric';
import { backProject } from '../model/backProject';
import { CAMERA, prepareCamera } from '../model/camera';
import { type CameraPrior, cameraPrior, pagePrior } from '../model/priors';
import { SAVED_SIZE } from '../model/savedCamera';
import { kindOf, type Place } from '../reference/kinds';
import { hasSize, type PlaneId, type ReferenceId, TABLE } from '../reference/reference';
import type { CalibrationInput } from './calibrationInput';
import { layOutUnknowns, type Unknowns } from './layOutUnknowns';
import { posedProblem, subsampled } from './posedProblem';
import { weigh } from './weigh';

export type CalibrationFault = 'no-yardstick' | 'picks-coincide' | 'unknown-plane' | 'outside-model' | 'no-agreement';

/** One place where the estimate came to rest. */
export interface Solution {
  parameters: Float64Array;
  /** Row by row, size × size. */
  covariance: Float64Array;
  /** Half the sum of squared whitened residuals, priors included. */
  cost: number;
}

export type EstimateResult =
  | {
      ok: true /** As the places scatter among themselves. */;
      input: CalibrationInput;
      unknowns: Unknowns;
      prior: CameraPrior;
      solutions: Solution[];
    }
  | { ok: false; reason: CalibrationFault; reference?: ReferenceId };

/**
 * The one estimate: all references of a photograph and all priors in one least-squares problem.
 *
 * In: picks in px, lengths and heights in mm. Out: every solution that the data allow, the likeliest first;
 * parameters are laid out as `unknowns` says, the camera's eight first.
 * Degenerate: no reference, picks in one place, or a model that cannot hold them gives a reason.
 * Source: docs/measurement.md.
 */
export function estimate(input: CalibrationInput): EstimateResult {
  const fault = findFault(input);
  if (fault) return fault;
  const prior = priorOf(input);
  const unknowns = layOutUnknowns(input);
  const sparse = subsampled(input);
  const few = posedProblem(sparse, prior, unknowns, null, null, true);
  const solve = (posed: LeastSquaresProblem, start: Float64Array, options?: LeastSquaresOptions): Solution | null => {
    const found = solveLeastSquares(posed, start, options);
    return found.ok ? { parameters: found.parameters, covariance: found.covariance, cost: found.cost } : null;
  };
  const rough: Solution[] = [];
  const descend = (a: number, b: number): void => {
    const start = startingPoint(sparse, prior, unknowns, a, b);
    const found = start && solve(few, start, ROUGH_DESCENT);
    if (found) keepDistinct(rough, found);
  };
  if (input.lens === 'page') descend(0, 0);
  else {
    // A few lengths can each fit in several places that starts near by miss; many places can hardly.
    const fewPlaces = input.references.every((y) => kindOf(y).spread === null);
    for (const [k, [a, b]] of FIRST_TILTS.entries()) {
      // Two starts far from each other that meet in one place, well seen, leave no doubt.
      if (k > 1 && !fewPlaces && rough.length === 1 && !seesTiltBadly(rough[0]!)) break;
      descend(a, b);
    }
    // What sees the tilt well has at most its mirror image beside it; what does not may end in many places.
    if (rough.length === 1) descend(-rough[0]!.parameters[CAMERA.a]!, -rough[0]!.parameters[CAMERA.b]!);
    const least = Math.min(...rough.map((r) => r.cost));
    const rivals = rough.filter((r) => r.cost < least + HOPELESS_COST);
    if (fewPlaces || rivals.length !== 1 || seesTiltBadly(rivals[0]!)) for (const [a, b] of MORE_TILTS) descend(a, b);
  }
  if (rough.length === 0) return { ok: false, reason: 'outside-model' };
  if (input.references.some((y) => y.kind === 'disc')) {
    // What was not decided place by place is now: before that their costs say little of which is the likelier.
    const decided = posedProblem(sparse, prior, unknowns, null);
    const places = rough.splice(0);
    for (const { parameters } of places) {
      const found = solve(decided, parameters, ROUGH_DESCENT);
      if (found) keepDistinct(rough, found);
    }
    if (rough.length === 0) return { ok: false, reason: 'outside-model' };
  }
  // Most starts end in the same few places: only those are worked out to the end.
  rough.sort((p, q) => p.cost - q.cost);
  // Fewer places tell well enough where all of them lie to see how these scatter.
  const weighed = weigh(input, prior, unknowns, rough[0]!.parameters);
  const problem = posedProblem(weighed, prior, unknowns, null);
  const solutions: Solution[] = [];
  for (const place of rough) {
    if (place.cost > rough[0]!.cost + HOPELESS_COST) break;
    const found = solve(problem, place.parameters, FINE_DESCENT);
    if (found) keepDistinct(solutions, found);
  }
  if (solutions.length === 0) return { ok: false, reason: 'outside-model' };
  solutions.sort((p, q) => p.cost - q.cost);
  const allowed = solutions.filter((s) => s.cost - solutions[0]!.cost < MOST_EXTRA_COST);
  return { ok: true, input: weighed, unknowns, prior, solutions: allowed };
}

const ring = (tilt: number, count: number, from = 0) =>
  Array.from({ length: count }, (_, k) => {
    const angle = from + (2 * Math.PI * k) / count;
    return [tilt * Math.cos(angle), tilt * Math.sin(angle)] as const;
  });
/** Tilts from which the descent starts, rad: flat-on and rings, since a tilt and its opposite can look alike. */
const FIRST_TILTS = [[0.01, 0.01] as const, ...ring(0.4, 3)];
const MORE_TILTS = [...ring(0.15, 6), ...ring(0.4, 3, Math.PI), ...ring(0.65, 6)];

/** Beyond this σ of a tilt, rad, its mirror image may lie hidden. */
const BADLY_SEEN = (0.6 * Math.PI) / 180;

function seesTiltBadly({ covariance, parameters }: Solution): boolean {
  const size = parameters.length;
  return [CAMERA.a, CAMERA.b].some((k) => Math.sqrt(covariance[k * size + k]!) > BADLY_SEEN);
}

/**
 * To its very end, a step or two more than its own scatter asks for: machines compute a sine differently, and what
 * stops half way would differ in the eighth decimal between a browser and a script. Where it starts near the end,
 * damping would only hold back what is seen weakly.
 */
export const FINE_DESCENT = { smallestStep: 1e-6, maxSteps: 60, damping: 1e-9 } as const;
/** Near enough to tell where a start leads. */
const ROUGH_DESCENT = { maxSteps: 40, smallestStep: 0.05 } as const;

/** What fewer places say of a solution is near enough to leave one out from this extra cost on. */
const HOPELESS_COST = 40;
/** A solution that is exp(−6) as likely as the best is not shown. */
const MOST_EXTRA_COST = 6;
/** Two solutions nearer than this in the camera's own σ are the same one. */
const SAME_SOLUTION_SIGMAS = 0.5;

function priorOf({ facts, hold, lens, believeResolution, freeRatio, saved }: CalibrationInput): CameraPrior {
  if (lens === 'page') return pagePrior(facts, believeResolution, freeRatio ?? false);
  const prior = cameraPrior(facts, hold);
  saved?.mean.forEach((value, k) => {
    prior.mean[k] = value;
    prior.sigma[k] = Math.sqrt(saved.covariance[k * (SAVED_SIZE + 1)]!);
  });
  return prior;
}

/** Anything at all is known of how large a picture is. */
export function knowsScale({
  references,
  lens,
  believeResolution,
  facts,
}: Omit<CalibrationInput, 'hold' | 'planes'>): boolean {
  return references.some(hasSize) || (lens === 'page' && believeResolution && facts.resolution !== null);
}

function findFault(input: CalibrationInput): Extract<EstimateResult, { ok: false }> | null {
  const { references, planes } = input;
  if (!knowsScale(input)) return { ok: false, reason: 'no-yardstick' };
  for (const y of references) {
    if (y.plane !== TABLE.id && !planes.some((p) => p.id === y.plane))
      return { ok: false, reason: 'unknown-plane', reference: y.id };
    if (kindOf(y).coincides(y)) return { ok: false, reason: 'picks-coincide', reference: y.id };
  }
  return null;
}

/** Camera from the priors, distance from the known lengths. */
function startingPoint(
  input: CalibrationInput,
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
  const out = new Float64Array(2);
  const placer = (heightOf: (plane: PlaneId) => number) => {
    const camera = prepareCamera(start, input.lens);
    return (plane: PlaneId): Place =>
      (pick, raise = 0) =>
        backProject(camera, pick.uPx, pick.vPx, heightOf(plane) + raise, out) ? [out[0]!, out[1]!] : null;
  };
  const flat = placer(() => 0);
  const spans = input.references.map((y) => kindOf(y).logScale(y, flat(y.plane)));
  if (spans.some((s) => s === undefined)) return null;
  const known = spans.filter((s): s is number => typeof s === 'number');
  const grow = known.length ? known.reduce((sum, s) => sum + s, 0) / known.length : 0;
  if (input.lens === 'page') start[CAMERA.lnC]! -= grow;
  else start[CAMERA.lnD]! += grow;
  const settled = placer((plane) => unknowns.heightOf(start, plane));
  const all = input.references.every((y) => kindOf(y).start(y, settled(y.plane), start, unknowns.own[y.id]!));
  return all ? start : null;
}

function keepDistinct(kept: Solution[], found: Solution): void {
  const size = Math.sqrt(found.covariance.length);
  const twin = kept.findIndex((other) => {
    for (const k of [CAMERA.a, CAMERA.b, CAMERA.lnC, CAMERA.lnD]) {
      const sigma = Math.sqrt(found.covariance[k * size + k]!);
      if (Math.abs(found.parameters[k]! - other.parameters[k]!) > SAME_SOLUTION_SIGMAS * sigma) return false;
    }
    return true;
  });
  if (twin < 0) kept.push(found);
  else if (found.cost < kept[twin]!.cost) kept[twin] = found;
}
