import type { LeastSquaresProblem, ResidualSink } from '../../numeric';
import { newPlacedPoint } from '../model/backProject';
import { CAMERA, CAMERA_SIZE, prepareCamera } from '../model/camera';
import type { CameraPrior } from '../model/priors';
import { readRigidTransform } from '../model/rigidTransform';
import { addSavedPrior, focusShift, type PreparedSaved, prepareSaved } from '../model/savedCamera';
import { kindOf, type Seen } from '../reference/kinds';
import type { PixelPick, Plane, ReferenceId } from '../reference/reference';
import type { CalibrationInput } from './calibrationInput';
import type { Unknowns } from './layOutUnknowns';

/**
 * The residuals of the estimate; with `scatter`, each one is shifted by one number of it, which poses the problem
 * as another day's readings would.
 */
export function posedProblem(
  input: CalibrationInput,
  prior: CameraPrior,
  unknowns: Unknowns,
  scatter: (() => number) | null,
  tell: Telling | null = null,
  roughly = false,
  joint: JointPart | null = null,
): LeastSquaresProblem {
  const kinds = input.references.map(kindOf);
  const saved = input.saved && input.lens === 'photo' ? prepareSaved(input.saved) : null;
  const rooms = { placed: newPlacedPoint(), other: newPlacedPoint(), indices: [], derivatives: [] };
  const nowhere = prepareCamera(prior.mean, input.lens);
  // Made once and filled in anew at each place that is tried: making them costs more than the observing.
  const views = input.references.map(
    (y): Seen => ({
      camera: nowhere,
      cameraAt: unknowns.camera,
      move: null,
      parameters: prior.mean,
      heightMm: 0,
      heightAt: unknowns.heights[y.plane],
      sink: UNHEARD,
      roughly,
      ...rooms,
      tell: tell && ((pick, offMm, offSigmas) => tell(y.id, pick, offMm, offSigmas)),
    }),
  );
  const planes = joint ? input.planes.filter((p) => !joint.known.has(p.id)) : input.planes;
  return {
    size: unknowns.size,
    residuals(parameters, sink) {
      const shifted = scatter ? shiftedSink(sink, scatter) : sink;
      addCameraPrior(parameters, prior, saved, shifted, joint?.alike ?? NONE);
      addHeightPriors(parameters, planes, unknowns, shifted);
      const move = joint && joint.moveAt !== null ? readRigidTransform(parameters, joint.moveAt) : null;
      const camera = prepareCamera(parameters, input.lens);
      for (let k = 0; k < kinds.length; k++) {
        const y = input.references[k]!;
        const at = unknowns.own[y.id]!;
        if (!joint?.known.has(y.id)) kinds[k]!.addPrior(y, parameters, at, shifted, y.id === input.freed);
        const seen = views[k]!;
        seen.camera = camera;
        seen.move = joint?.shared.has(y.id) ? move : null;
        seen.parameters = parameters;
        seen.heightMm = unknowns.heightOf(parameters, y.plane);
        seen.sink = shifted;
        if (!kinds[k]!.observe(y, seen, at)) return false;
      }
      return true;
    },
  };
}

/** Takes residuals that nobody asks for. */
export const UNHEARD: ResidualSink = { add() {} };

/** A picture's part in an estimate over several. */
export interface JointPart {
  /** Where its move onto the joint frame stands among its own parameters; null of the picture that gives the frame. */
  moveAt: number | null;
  /** Yardsticks that other pictures show as well: their own unknowns are in the joint frame. */
  shared: ReadonlySet<ReferenceId>;
  /** Yardsticks and planes whose prior another picture has brought in already. */
  known: ReadonlySet<string>;
  /** Which of its camera's eight stand near those of another picture, which has brought their prior in. */
  alike: ReadonlySet<number>;
}

/** Hears of each observation of a place of a reference. */
export type Telling = (reference: ReferenceId, pick: PixelPick, offMm: number, offSigmas: number) => void;

/** The same input with fewer places of each reference. */
export const subsampled = (input: CalibrationInput): CalibrationInput => ({
  ...input,
  references: input.references.map((y) => kindOf(y).thin(y)),
});

const NONE: ReadonlySet<number> = new Set();

function shiftedSink(sink: ResidualSink, scatter: () => number): ResidualSink {
  return { add: (residual, indices, derivatives) => sink.add(residual + scatter(), indices, derivatives) };
}

function addCameraPrior(
  parameters: Float64Array,
  prior: CameraPrior,
  saved: PreparedSaved | null,
  sink: ResidualSink,
  leftOut: ReadonlySet<number>,
): void {
  if (saved) addSavedPrior(parameters, saved, prior.focalMm, sink);
  for (let k = 0; k < CAMERA_SIZE; k++) {
    if ((saved && k <= CAMERA.k2) || leftOut.has(k)) continue;
    const sigma = prior.sigma[k]!;
    const focus = k === CAMERA.lnC ? focusShift(prior.focalMm, parameters[CAMERA.lnD]!) : null;
    if (focus?.shift)
      sink.add(
        (parameters[k]! - prior.mean[k]! + focus.shift) / sigma,
        [k, CAMERA.lnD],
        [1 / sigma, focus.byLnD / sigma],
      );
    else sink.add((parameters[k]! - prior.mean[k]!) / sigma, [k], [1 / sigma]);
  }
}

function addHeightPriors(parameters: Float64Array, planes: Plane[], unknowns: Unknowns, sink: ResidualSink): void {
  for (const plane of planes) {
    const index = unknowns.heights[plane.id];
    if (index === undefined) continue;
    const sigma = plane.plusMinusMm / 2;
    sink.add((parameters[index]! - plane.heightMm) / sigma, [index], [1 / sigma]);
  }
}
