import { backProject } from '../../model/backProject';
import { lensStand, type PreparedCamera } from '../../model/camera';
import { axisFrom, halfwayRadius } from '../../model/silhouette';
import { knownLengthSigmaMm, LEAST_PICK_DISTANCE_PX, type PixelPick, type TurnedDiameter } from '../reference';
import { observeByDifferences } from './byDifferences';
import { apart, type Kind, logSafe, type Seen } from './kind';

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

function observeDiameter(y: TurnedDiameter, seen: Seen): boolean {
  return observeByDifferences(
    {
      of: (camera, heightMm) => diameterOf(y, camera, heightMm),
      knownMm: y.diameterMm,
      sigmaMm: observedSigmaMm(y),
      at: y.silhouettes[1][1],
    },
    seen,
  );
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

const middle = ([from, to]: readonly [PixelPick, PixelPick]): PixelPick => ({
  uPx: (from.uPx + to.uPx) / 2,
  vPx: (from.vPx + to.vPx) / 2,
  sigmaPx: 0,
});
