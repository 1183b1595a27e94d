import { backProject } from '../../model/backProject';
import { CAMERA, CAMERA_SIZE, lensStand, type PreparedCamera, prepareCamera } from '../../model/camera';
import { axisFrom, halfwayRadius } from '../../model/silhouette';
import { knownLengthSigmaMm, LEAST_PICK_DISTANCE_PX, type Pick, type TurnedDiameter } from '../reference';
import { apart, type Kind, logSafe, type Seen, shorten } from './kind';

/**
 * A known diameter of a turned part seen from the side: between both its silhouettes, which the lens sees nearer than the
 * axis and so closer together than they are. As a known length otherwise.
 */
export const turnedDiameterKind: Kind<TurnedDiameter> = {
  unknowns: () => 0,
  addPrior() {},
  start: () => true,
  observe: observeDiameter,
  logScale({ silhouettes: [a, b], diameterMm }, place) {
    const ends = [...a, ...b].map((pick) => place(pick));
    if (ends.some((end) => end === null)) return undefined;
    const [p, q, r, s] = ends as [number, number][];
    // How far the middle of one silhouette lies off the other: near enough to begin with.
    const [dx, dy] = [s![0] - r![0], s![1] - r![1]];
    const off = ((p![0] + q![0]) / 2 - r![0]) * dy - ((p![1] + q![1]) / 2 - r![1]) * dx;
    return logSafe(diameterMm, Math.abs(off) / Math.hypot(dx, dy));
  },
  thin: (y) => y,
  spread: null,
  coincides: ({ silhouettes: [a, b] }) =>
    [a, b].some(([from, to]) => apart(from, to) < LEAST_PICK_DISTANCE_PX) ||
    apart(middle(a), middle(b)) < LEAST_PICK_DISTANCE_PX,
};

/** Steps for the slopes of the diameter by the camera's numbers: ln c; the middle, px; distortion; tilt, rad; ln D. */
const STEPS: Record<keyof typeof CAMERA, number> = {
  lnC: 1e-5,
  cx: 1e-2,
  cy: 1e-2,
  k1: 1e-5,
  k2: 1e-5,
  a: 1e-5,
  b: 1e-5,
  lnD: 1e-5,
};
const HEIGHT_STEP_MM = 1e-3;

/** The one observation has its slopes by differences: nine pairs of four places each. */
function observeDiameter(y: TurnedDiameter, seen: Seen): boolean {
  const { camera, heightMm, cameraAt, heightAt, parameters, indices, derivatives } = seen;
  const diameter = diameterOf(y, camera, heightMm);
  if (!Number.isFinite(diameter)) return false;
  const sigma = observedSigmaMm(y);
  const numbers = Float64Array.from({ length: CAMERA_SIZE }, (_, k) => parameters[cameraAt[k]!]!);
  for (const [name, k] of Object.entries(CAMERA) as [keyof typeof CAMERA, number][]) {
    const at = (step: number): number => {
      const moved = numbers.slice();
      moved[k]! += step;
      return diameterOf(y, prepareCamera(moved, camera.lens), heightMm);
    };
    indices[k] = cameraAt[k]!;
    derivatives[k] = (at(STEPS[name]) - at(-STEPS[name])) / (2 * STEPS[name] * sigma);
  }
  let n = CAMERA_SIZE;
  if (heightAt !== undefined) {
    const at = (step: number): number => diameterOf(y, camera, heightMm + step);
    indices[n] = heightAt;
    derivatives[n++] = (at(HEIGHT_STEP_MM) - at(-HEIGHT_STEP_MM)) / (2 * HEIGHT_STEP_MM * sigma);
  }
  shorten(seen, n);
  if (derivatives.some((d) => !Number.isFinite(d))) return false;
  const off = diameter - y.diameterMm;
  seen.tell?.(y.silhouettes[1][1], off, off / sigma);
  seen.sink.add(off / sigma, indices, derivatives);
  return true;
}

/** The diameter halfway along both silhouettes, mm, as a camera sees it over the axis's plane; NaN where it sees none. */
function diameterOf({ silhouettes }: TurnedDiameter, camera: PreparedCamera, heightMm: number): number {
  const lens = lensStand(camera, heightMm);
  const places = new Float64Array(8);
  const one = new Float64Array(2);
  for (const [k, { uPx, vPx }] of silhouettes.flat().entries()) {
    if (!backProject(camera, uPx, vPx, heightMm, one)) return Number.NaN;
    places.set(one, 2 * k);
  }
  const axis = axisFrom(places, 0, lens);
  return halfwayRadius(axis, lens, places, 0) + halfwayRadius(axis, lens, places, 4);
}

/** How true the diameter is, and the scatter of the picks across it, at the scale that it gives itself. */
function observedSigmaMm({ silhouettes: [a, b], diameterMm, plusMinusMm }: TurnedDiameter): number {
  const perPx = diameterMm / apart(middle(a), middle(b));
  const scatter = [...a, ...b].reduce((sum, { sigmaPx }) => sum + sigmaPx ** 2, 0);
  return Math.hypot(knownLengthSigmaMm({ lengthMm: diameterMm, plusMinusMm }), (perPx * Math.sqrt(scatter)) / 2);
}

const middle = ([from, to]: readonly [Pick, Pick]): Pick => ({
  uPx: (from.uPx + to.uPx) / 2,
  vPx: (from.vPx + to.vPx) / 2,
  sigmaPx: 0,
});
