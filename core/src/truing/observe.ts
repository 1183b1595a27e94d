import type { ResidualSink } from '../numeric';
import { type PlacedPoint, placePoint } from './backProject';
import { CAMERA_SIZE, type PreparedCamera } from './camera';
import type { Unknowns } from './layOutUnknowns';
import { type KnownLength, knownLengthSigmaMm, type Yardstick } from './yardstick';

/**
 * Adds a yardstick's observations to the estimate.
 * @returns false where the model cannot place its points.
 */
export function observeYardstick(
  yardstick: Yardstick,
  camera: PreparedCamera,
  parameters: Float64Array,
  unknowns: Unknowns,
  sink: ResidualSink,
): boolean {
  return observeKnownLength(yardstick, camera, parameters, unknowns, sink);
}

/**
 * The distance between both picks, placed on their plane, less what is known of it. The two points are unknowns of
 * their own that nothing else sees, so they are eliminated: the scatter of the picks goes into the σ of the one
 * residual. With them left in, the descent creeps along a narrow bent valley and takes ten times as long.
 */
function observeKnownLength(
  yardstick: KnownLength,
  camera: PreparedCamera,
  parameters: Float64Array,
  unknowns: Unknowns,
  sink: ResidualSink,
): boolean {
  const height = unknowns.heightOf(parameters, yardstick.plane);
  const from = placePoint(camera, yardstick.from.uPx, yardstick.from.vPx, height);
  const to = placePoint(camera, yardstick.to.uPx, yardstick.to.vPx, height);
  if (!from || !to) return false;
  const dx = to.place[0] - from.place[0];
  const dy = to.place[1] - from.place[1];
  const length = Math.hypot(dx, dy);
  if (length === 0) return false;
  const sigma = observedSigmaMm(yardstick);
  const ex = dx / length / sigma;
  const ey = dy / length / sigma;
  const along = (pick: (p: PlacedPoint) => [number, number]) => {
    const [x1, y1] = pick(to);
    const [x0, y0] = pick(from);
    return ex * (x1 - x0) + ey * (y1 - y0);
  };
  const indices: number[] = [];
  const derivatives: number[] = [];
  for (let k = 0; k < CAMERA_SIZE; k++) {
    indices.push(k);
    derivatives.push(along((p) => [p.byCamera[k], p.byCamera[CAMERA_SIZE + k]]));
  }
  const heightIndex = unknowns.heights[yardstick.plane];
  if (heightIndex !== undefined) {
    indices.push(heightIndex);
    derivatives.push(along((p) => [p.byHeight[0], p.byHeight[1]]));
  }
  sink.add((length - yardstick.lengthMm) / sigma, indices, derivatives);
  return true;
}

/**
 * σ of a known length as observed, mm: how true it is, and the scatter of both picks along it at the scale that the
 * length itself gives. The scale is not taken from the estimate, so that no residual's weight moves with it.
 */
function observedSigmaMm(yardstick: KnownLength): number {
  const { from, to, lengthMm } = yardstick;
  const mmPerPx = lengthMm / Math.hypot(to.uPx - from.uPx, to.vPx - from.vPx);
  return Math.hypot(knownLengthSigmaMm(yardstick), from.sigmaPx * mmPerPx, to.sigmaPx * mmPerPx);
}
