import { type LeastSquaresProblem, type ResidualSink, solveLeastSquares } from '../../numeric';
import { newPlacedPoint } from '../model/backProject';
import { CAMERA, CAMERA_SIZE, prepareCamera } from '../model/camera';
import { type CameraPrior, cameraPrior, type PictureFacts } from '../model/priors';
import { focusShift, SAVED_SIZE, type SavedCamera } from '../model/savedCamera';
import { GRID_STRETCH, kindOf } from '../reference/kinds';
import { type Grid, TABLE } from '../reference/reference';
import { estimate } from './estimate';

/** A picture of the check grid. */
export interface CheckPicture {
  facts: PictureFacts;
  grid: Omit<Grid, 'id' | 'plane' | 'kind'>;
}

export type CheckResult =
  | {
      ok: true;
      camera: SavedCamera;
      /** Crossings' root mean square distance from the model, px. */
      rmsPx: number;
      /** ± of the camera constant, as a share. */
      plusMinusShare: number;
    }
  | { ok: false; reason: 'too-few' | 'another-size' | 'another-zoom' | 'too-alike' | 'no-agreement'; picture?: number };

const CHECK = { fewest: 4, most: 8 } as const;

/** Another day's camera is not quite the same: stabilised optics shift the middle, focus and warmth the rest. */
const DRIFT = { lnC: 0.0015, middlePx: 4, k1: 0.001, k2: 0.002 } as const;
/** How far one picture's camera constant may be off what its focus foretells, as a share. */
const FOCUS_SIGMA = { known: 0.002, unknown: 0.01 } as const;
/** A camera constant known worse than this was not seen: all pictures were taken flat-on. */
const WORST_LN_C = 0.012;
/** Tilts must differ by this at least: pictures from one side, or one picture four times, show nothing new, rad. */
const LEAST_SPREAD_RAD = 0.2;
/** Crossings further off than this do not come from one lens, px. */
const MOST_RMS_PX = 2;

/**
 * A camera from 4 to 8 pictures of one grid, taken from different sides: one lens for all, a pose for each, and one
 * error of the grid's pitch. Becomes the prior of later pictures from the same camera at the same zoom.
 * Source: Zhang (2000), A flexible new technique for camera calibration; the model is that of the estimate.
 */
export function checkCamera(pictures: readonly CheckPicture[]): CheckResult {
  if (pictures.length < CHECK.fewest) return { ok: false, reason: 'too-few' };
  const first = pictures[0]!.facts;
  for (const [k, { facts }] of pictures.entries()) {
    if (facts.widthPx !== first.widthPx || facts.heightPx !== first.heightPx)
      return { ok: false, reason: 'another-size', picture: k };
    if (facts.focal35Mm !== first.focal35Mm) return { ok: false, reason: 'another-zoom', picture: k };
  }
  const prior = cameraPrior(first, 'free');
  const posed = pose(pictures, prior);
  if (!posed) return { ok: false, reason: 'no-agreement' };
  if (posed.spreadRad < LEAST_SPREAD_RAD) return { ok: false, reason: 'too-alike' };
  const found = solveLeastSquares(posed.problem(null), posed.start, { maxSteps: 60 });
  if (!found.ok) return { ok: false, reason: 'no-agreement' };
  let [square, count] = [0, 0];
  posed
    .problem((offSigmas, sigmaPx) => {
      square += (offSigmas * sigmaPx) ** 2;
      count += 1;
    })
    .residuals(found.parameters, { add() {} });
  // Two residuals to a crossing.
  const rmsPx = Math.sqrt((2 * square) / Math.max(1, count));
  if (!(rmsPx < MOST_RMS_PX)) return { ok: false, reason: 'no-agreement' };
  const size = found.parameters.length;
  // Crossings scatter more than the finder tells where the lens has what the model does not.
  const freedom = Math.max(1, count - size);
  const factor = Math.max(1, (2 * found.cost) / freedom);
  const drift = [DRIFT.lnC, DRIFT.middlePx, DRIFT.middlePx, DRIFT.k1, DRIFT.k2];
  const covariance: number[] = [];
  for (let i = 0; i < SAVED_SIZE; i++)
    for (let j = 0; j < SAVED_SIZE; j++)
      covariance.push(factor * found.covariance[i * size + j]! + (i === j ? drift[i]! ** 2 : 0));
  const spread = Math.sqrt(covariance[0]!);
  if (spread > WORST_LN_C) return { ok: false, reason: 'too-alike' };
  return {
    ok: true,
    camera: { mean: [...found.parameters.subarray(0, SAVED_SIZE)], covariance },
    rmsPx,
    plusMinusShare: 2 * spread,
  };
}

/** Own unknowns of a picture: its ln c as focused, its tilt, its distance, and where the grid lies. */
const POSE = 4;
const PITCH = SAVED_SIZE;
const SHARED = SAVED_SIZE + 1;

function pose(pictures: readonly CheckPicture[], prior: CameraPrior) {
  const kind = kindOf({ kind: 'grid' } as Grid);
  const grids = pictures.map(({ grid }, k): Grid => ({ ...grid, id: `g${k}`, plane: TABLE.id, kind: 'grid' }));
  const own = POSE + kind.unknowns(grids[0]!);
  const size = SHARED + own * pictures.length;
  const start = new Float64Array(size);
  const tilts: [number, number][] = [];
  for (const [k, grid] of grids.entries()) {
    const alone = estimate({
      facts: pictures[k]!.facts,
      lens: 'photo',
      believeResolution: false,
      hold: 'free',
      planes: [],
      references: [grid],
    });
    if (!alone.ok) return null;
    const { parameters } = alone.solutions[0]!;
    tilts.push([parameters[CAMERA.a]!, parameters[CAMERA.b]!]);
    const at = SHARED + k * own;
    start.set([parameters[CAMERA.lnC]!, parameters[CAMERA.a]!, parameters[CAMERA.b]!, parameters[CAMERA.lnD]!], at);
    start.set(parameters.subarray(CAMERA_SIZE), at + POSE);
    for (let j = 0; j < SAVED_SIZE; j++) start[j]! += parameters[j]! / pictures.length;
  }
  const cameraAts = pictures.map((_, k) => {
    const at = SHARED + k * own;
    return [at, CAMERA.cx, CAMERA.cy, CAMERA.k1, CAMERA.k2, at + 1, at + 2, at + 3];
  });
  const rooms = { placed: newPlacedPoint(), other: newPlacedPoint(), indices: [], derivatives: [] };
  const problem = (hear: ((offSigmas: number, sigmaPx: number) => void) | null): LeastSquaresProblem => ({
    size,
    residuals(parameters, sink) {
      for (let j = 0; j < SAVED_SIZE; j++)
        sink.add((parameters[j]! - prior.mean[j]!) / prior.sigma[j]!, [j], [1 / prior.sigma[j]!]);
      sink.add(parameters[PITCH]!, [PITCH], [1]);
      return grids.every((grid, k) => {
        const at = SHARED + k * own;
        tieToLens(parameters, at, prior.focalMm, sink);
        for (const j of [1, 2])
          sink.add(parameters[at + j]! / prior.sigma[CAMERA.a]!, [at + j], [1 / prior.sigma[CAMERA.a]!]);
        kind.addPrior(grid, parameters, at + POSE, sink, true);
        // One sheet in all pictures: its pitch errs alike.
        const stretch = at + POSE + GRID_STRETCH;
        const pitchSigma = Math.max((grid.plusMinusShare ?? 4e-3) / 2, 1e-5);
        sink.add(
          (parameters[stretch]! - pitchSigma * parameters[PITCH]!) / SAME_SHEET,
          [stretch, PITCH],
          [1 / SAME_SHEET, -pitchSigma / SAME_SHEET],
        );
        const camera = prepareCamera(Float64Array.from(cameraAts[k]!, (index) => parameters[index]!));
        return kind.observe(
          grid,
          {
            ...rooms,
            camera,
            move: null,
            cameraAt: cameraAts[k]!,
            parameters,
            heightMm: 0,
            heightAt: undefined,
            sink,
            roughly: false,
            tell: hear && ((pick, _, offSigmas) => hear(offSigmas, pick.sigmaPx)),
          },
          at + POSE,
        );
      });
    },
  });
  const spreadRad = Math.max(...tilts.flatMap(([a, b]) => tilts.map(([c, d]) => Math.hypot(c - a, d - b))));
  return { start, problem, spreadRad };
}

/** How alike one sheet's pitch is from picture to picture, as a share. */
const SAME_SHEET = 1e-6;

/** Each picture's own camera constant is the lens's, lengthened by its focus. */
function tieToLens(parameters: Float64Array, at: number, focalMm: number | null, sink: ResidualSink): void {
  const sigma = focalMm ? FOCUS_SIGMA.known : FOCUS_SIGMA.unknown;
  const focus = focusShift(focalMm, parameters[at + 3]!);
  sink.add(
    (parameters[at]! + focus.shift - parameters[CAMERA.lnC]!) / sigma,
    [at, at + 3, CAMERA.lnC],
    [1 / sigma, focus.byLnD / sigma, -1 / sigma],
  );
}
