import type { ResidualSink } from '../numeric';
import { newPlacedPoint, type PlacedPoint, placePoint } from './backProject';
import { CAMERA_SIZE, type PreparedCamera } from './camera';
import type { Unknowns } from './layOutUnknowns';
import { observeStrokes } from './strokes';
import { type KnownLength, knownLengthSigmaMm, type Yardstick } from './yardstick';

/** Room for what an observation works out, held by whoever poses the problem. */
export interface ObserveScratch {
  from: PlacedPoint;
  to: PlacedPoint;
  indices: number[];
  derivatives: number[];
}

export function newObserveScratch(): ObserveScratch {
  return { from: newPlacedPoint(), to: newPlacedPoint(), indices: [], derivatives: [] };
}

/**
 * Adds a yardstick's observations to the estimate: the distance between both picks, placed on their plane, less what
 * is known of it. The two points are unknowns of their own that nothing else sees, so they are eliminated: the scatter
 * of the picks goes into the σ of the one residual. With them left in, the descent creeps along a narrow bent valley
 * and takes ten times as long.
 * @returns false where the model cannot place its points.
 */
export function observeYardstick(
  yardstick: Yardstick,
  camera: PreparedCamera,
  parameters: Float64Array,
  unknowns: Unknowns,
  sink: ResidualSink,
  scratch: ObserveScratch,
): boolean {
  const height = unknowns.heightOf(parameters, yardstick.plane);
  const ruler = unknowns.rulers[yardstick.id];
  if (yardstick.strokes && ruler !== undefined) {
    const heightIndex = unknowns.heights[yardstick.plane];
    const perPx = mmPerPx(yardstick);
    return observeStrokes(yardstick.strokes, ruler, perPx, height, heightIndex, camera, parameters, sink, scratch);
  }
  const from = placePoint(camera, yardstick.from.uPx, yardstick.from.vPx, height, scratch.from);
  const to = placePoint(camera, yardstick.to.uPx, yardstick.to.vPx, height, scratch.to);
  if (!from || !to) return false;
  const dx = to.place[0] - from.place[0];
  const dy = to.place[1] - from.place[1];
  const length = Math.hypot(dx, dy);
  if (length === 0) return false;
  const sigma = observedSigmaMm(yardstick);
  const ex = dx / length / sigma;
  const ey = dy / length / sigma;
  const { indices, derivatives } = scratch;
  for (let k = 0; k < CAMERA_SIZE; k++) {
    indices[k] = k;
    derivatives[k] =
      ex * (to.byCamera[k] - from.byCamera[k]) + ey * (to.byCamera[CAMERA_SIZE + k] - from.byCamera[CAMERA_SIZE + k]);
  }
  indices.length = CAMERA_SIZE;
  derivatives.length = CAMERA_SIZE;
  const heightIndex = unknowns.heights[yardstick.plane];
  if (heightIndex !== undefined) {
    indices.push(heightIndex);
    derivatives.push(ex * (to.byHeight[0] - from.byHeight[0]) + ey * (to.byHeight[1] - from.byHeight[1]));
  }
  sink.add((length - yardstick.lengthMm) / sigma, indices, derivatives);
  return true;
}

/**
 * σ of a known length as observed, mm: how true it is, and the scatter of both picks along it at the scale that the
 * length itself gives. The scale is not taken from the estimate, so that no residual's weight moves with it.
 */
function observedSigmaMm(yardstick: KnownLength): number {
  const { from, to } = yardstick;
  const perPx = mmPerPx(yardstick);
  return Math.hypot(knownLengthSigmaMm(yardstick), from.sigmaPx * perPx, to.sigmaPx * perPx);
}

const mmPerPx = ({ from, to, lengthMm }: KnownLength): number =>
  lengthMm / Math.hypot(to.uPx - from.uPx, to.vPx - from.vPx);
