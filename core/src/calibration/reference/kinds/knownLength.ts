import { placePoint } from '../../model/backProject';
import { CAMERA_SIZE } from '../../model/camera';
import { type KnownLength, knownLengthSigmaMm, LEAST_PICK_DISTANCE_PX } from '../reference';
import { apart, type Kind, logSafe, type Seen, shorten } from './kind';

/**
 * A known length: the distance between both picks, placed on their plane, less what is known of it. The two points are
 * unknowns of their own that nothing else sees, so they are eliminated: the scatter of the picks goes into the σ of
 * the one residual. With them left in, the descent creeps along a narrow bent valley and takes ten times as long.
 */
export const knownLengthKind: Kind<KnownLength> = {
  unknowns: () => 0,
  addPrior() {},
  start: () => true,
  observe: observeLength,
  logScale: ({ from, to, lengthMm }, place) => {
    const [a, b] = [place(from), place(to)];
    return a && b ? logSafe(lengthMm, Math.hypot(b[0] - a[0], b[1] - a[1])) : undefined;
  },
  thin: (y) => y,
  spread: null,
  coincides: ({ from, to }) => apart(from, to) < LEAST_PICK_DISTANCE_PX,
};

function observeLength(y: KnownLength, seen: Seen): boolean {
  const { camera, heightMm } = seen;
  const from = placePoint(camera, y.from.uPx, y.from.vPx, heightMm, seen.placed);
  const to = placePoint(camera, y.to.uPx, y.to.vPx, heightMm, seen.other);
  if (!from || !to) return false;
  const dx = to.place[0]! - from.place[0]!;
  const dy = to.place[1]! - from.place[1]!;
  const length = Math.hypot(dx, dy);
  if (length === 0) return false;
  const sigma = observedSigmaMm(y);
  const off = length - y.lengthMm;
  seen.tell?.(y.to, off, off / sigma);
  addSpan(seen, dx / length / sigma, dy / length / sigma, off / sigma, []);
  return true;
}

/**
 * Adds a residual of a span from `placed` to `other`, by the slope of its far end, and by own unknowns given as pairs
 * of index and derivative; all divided by σ already.
 */
export function addSpan(
  seen: Seen,
  ex: number,
  ey: number,
  residual: number,
  own: readonly (readonly [number, number])[],
): void {
  const { placed: from, other: to, indices, derivatives, cameraAt, heightAt } = seen;
  for (let k = 0; k < CAMERA_SIZE; k++) {
    indices[k] = cameraAt[k]!;
    derivatives[k] =
      ex * (to.byCamera[k]! - from.byCamera[k]!) +
      ey * (to.byCamera[CAMERA_SIZE + k]! - from.byCamera[CAMERA_SIZE + k]!);
  }
  let n = CAMERA_SIZE;
  if (heightAt !== undefined) {
    indices[n] = heightAt;
    derivatives[n++] = ex * (to.byHeight[0]! - from.byHeight[0]!) + ey * (to.byHeight[1]! - from.byHeight[1]!);
  }
  for (const [index, derivative] of own) {
    indices[n] = index;
    derivatives[n++] = derivative;
  }
  shorten(seen, n);
  seen.sink.add(residual, indices, derivatives);
}

/**
 * σ of a known length as observed, mm: how true it is, and the scatter of both picks along it at the scale that the
 * length itself gives. The scale is not taken from the estimate, so that no residual's weight moves with it.
 */
function observedSigmaMm(y: KnownLength): number {
  const perPx = y.lengthMm / apart(y.from, y.to);
  return Math.hypot(knownLengthSigmaMm(y), y.from.sigmaPx * perPx, y.to.sigmaPx * perPx);
}
