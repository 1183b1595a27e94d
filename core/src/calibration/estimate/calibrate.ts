import {
  factorCholesky,
  type LeastSquaresProblem,
  normalRandom,
  type Random,
  seededRandom,
  solveLeastSquares,
} from '../../numeric';
import { CAMERA, cameraHeightMm, type Lens, prepareCamera, tiltRad } from '../model/camera';
import { type PlaneId, type ReferenceId, TABLE } from '../reference/reference';
import type { CalibrationInput } from './calibrationInput';
import { type CalibrationFault, type EstimateResult, estimate, type Solution } from './estimate';
import type { Unknowns } from './layOutUnknowns';
import { posedProblem, subsampled } from './posedProblem';

/** The settled calibration of one picture: plain data, so that it can be sent between threads and kept. */
export interface Calibration {
  lens: Lens;
  /** The camera's eight first, then the heights that are not known exactly. */
  parameters: Float64Array;
  /** Row by row, as long as `parameters` each way. */
  covariance: Float64Array;
  /** Fixed and estimated heights, mm, and where an estimated one stands among the parameters. */
  planes: Record<PlaneId, { heightMm: number; index: number | null }>;
  /**
   * Equally likely calibrations, each as long as `parameters`: present where the first order of the covariance is in
   * doubt, as near zero tilt, where lengths go with its square. They then decide every ± (JCGM 101:2008).
   */
  draws: Float64Array[] | null;
  tiltRad: number;
  /** 95 % half widths of the tilt about two axes, as the covariance has them, rad. */
  tiltPlusMinusRad: [number, number];
  cameraHeightMm: number;
  /** Further solutions that the data allow, as tilts. */
  otherTilts: { a: number; b: number }[];
  /** Share of its prior at which each tilt's σ still stands: near 1, the references did not see it. */
  tiltUnseen: [number, number];
  /** Further pictures in one estimate with this one, which gives their frame: where each stands among the parameters. */
  joined?: Record<string, Slots>;
}

/** Where one of several joined pictures stands among the parameters. */
export interface Slots {
  lens: Lens;
  /** Of its camera's eight. */
  cameraAt: number;
  /** Of its move onto the joint frame; null of the picture that gives it. */
  moveAt: number | null;
  planes: Calibration['planes'];
}

export type CalibrationResult =
  | { ok: true; calibration: Calibration }
  | { ok: false; reason: CalibrationFault; reference?: ReferenceId };

export interface CalibrationOptions {
  /** How many calibrations are drawn where the first order is in doubt. */
  draws?: number;
  seed?: number;
}

export const CALIBRATION = { draws: 400, seed: 20 } as const;

/**
 * How often the residuals are worked out for each draw, on an average over all, and how many draws are made at least.
 * What holds together takes 5 to 21; references that contradict each other take 70, and then fewer draws tell as much.
 */
const DRAW_EFFORT = { perDraw: 27, leastDraws: 60 } as const;

/**
 * σ of a tilt beyond which its square matters: at 0.6° it changes a length by τστ + σ²/2, at most 0.02 mm of
 * 100 mm for a tilt of 1°, within the smallest ± of any reference here.
 */
export const DOUBTFUL_TILT_SIGMA_RAD = (0.6 * Math.PI) / 180;

/** Estimates a picture's calibration from what was said of it, with all that its ± needs. */
export function calibrate(input: CalibrationInput, options: CalibrationOptions = {}): CalibrationResult {
  const { draws, seed } = { ...CALIBRATION, ...options };
  const found = estimate(input);
  if (!found.ok) return found;
  const best = found.solutions[0]!;
  const size = best.parameters.length;
  const sigma = (k: number) => Math.sqrt(best.covariance[k * size + k]!);
  const tilts = input.lens === 'photo';
  const doubtful =
    tilts && (found.solutions.length > 1 || Math.max(sigma(CAMERA.a), sigma(CAMERA.b)) > DOUBTFUL_TILT_SIGMA_RAD);
  return {
    ok: true,
    calibration: {
      lens: input.lens,
      parameters: best.parameters,
      covariance: best.covariance,
      planes: listPlanes(input, found.unknowns, best.parameters),
      draws: doubtful && draws > 0 ? drawnAlone(found, draws, normalRandom(seededRandom(seed))) : null,
      tiltRad: tiltRad(best.parameters),
      tiltPlusMinusRad: [2 * sigma(CAMERA.a), 2 * sigma(CAMERA.b)],
      cameraHeightMm: cameraHeightMm(prepareCamera(best.parameters)),
      otherTilts: found.solutions.slice(1).map((s) => ({ a: s.parameters[CAMERA.a]!, b: s.parameters[CAMERA.b]! })),
      tiltUnseen: tilts
        ? [sigma(CAMERA.a) / found.prior.sigma[CAMERA.a]!, sigma(CAMERA.b) / found.prior.sigma[CAMERA.b]!]
        : [0, 0],
    },
  };
}

function drawnAlone(found: Extract<EstimateResult, { ok: true }>, count: number, normal: Random): Float64Array[] {
  const { prior, unknowns, solutions } = found;
  const few = subsampled(found.input);
  return drawCalibrations(solutions, (scatter) => posedProblem(few, prior, unknowns, scatter), count, normal);
}

export function listPlanes(
  input: Pick<CalibrationInput, 'planes'>,
  unknowns: Unknowns,
  parameters: Float64Array,
): Calibration['planes'] {
  const planes: Calibration['planes'] = {};
  for (const { id } of [TABLE, ...input.planes])
    planes[id] = { heightMm: unknowns.heightOf(parameters, id), index: unknowns.heights[id] ?? null };
  return planes;
}

/**
 * Draws calibrations as other days' readings and other cameras from the priors would have given them: every reading and
 * every prior is scattered by its own σ and the estimate made again. Exact where the model is straight, and it
 * follows the model where it is bent. Solutions are started from in proportion to their
 * probability, height times volume (Laplace).
 * Source: JCGM 101:2008; randomised maximum likelihood (Oliver, He & Reynolds 1996).
 */
export function drawCalibrations(
  solutions: readonly Solution[],
  posed: (scatter: () => number) => LeastSquaresProblem,
  count: number,
  normal: Random,
): Float64Array[] {
  const weights = solutions.map((s) =>
    Math.exp(solutions[0]!.cost - s.cost + (logVolume(s) - logVolume(solutions[0]!))),
  );
  const total = weights.reduce((a, b) => a + b);
  const draws: Float64Array[] = [];
  solutions.forEach((solution, k) => {
    // Each solution has its share of the effort, so that all are cut alike where it runs out.
    const share = weights[k]! / total;
    const wanted = Math.round(count * share);
    let effort = 0;
    for (let made = 0; made < wanted; made++) {
      if (effort > DRAW_EFFORT.perDraw * count * share && made >= DRAW_EFFORT.leastDraws * share) break;
      const scatter = repeatable(normal);
      const asked = posed(scatter.next);
      const problem: LeastSquaresProblem = {
        size: asked.size,
        residuals(p, sink) {
          effort += 1;
          scatter.rewind();
          return asked.residuals(p, sink);
        },
      };
      const again = solveLeastSquares(problem, solution.parameters, DRAW_DESCENT);
      if (again.ok) draws.push(again.parameters);
    }
  });
  return draws;
}

/** A draw is needed to a hundredth of its own scatter only. */
const DRAW_DESCENT = { maxSteps: 60, smallestStep: 0.03, damping: 1e-7 } as const;

/** Logarithm of the volume that a solution's scatter fills, up to a constant. */
function logVolume({ covariance, parameters }: Solution): number {
  const size = parameters.length;
  const factors = covariance.slice();
  if (!factorCholesky(factors, size)) return Number.NEGATIVE_INFINITY;
  let sum = 0;
  for (let k = 0; k < size; k++) sum += Math.log(factors[k * size + k]!);
  return sum;
}

/** The same scatter each time the residuals are asked for, in the order in which they are added. */
function repeatable(normal: Random): { next: () => number; rewind: () => void } {
  const kept: number[] = [];
  let at = 0;
  return {
    next: () => {
      if (at === kept.length) kept.push(normal());
      return kept[at++]!;
    },
    rewind: () => {
      at = 0;
    },
  };
}
