import { backProject } from '../../model/backProject';
import { lensStand, type PreparedCamera } from '../../model/camera';
import { spanOnTurned } from '../../model/silhouette';
import { knownLengthSigmaMm, LEAST_PICK_DISTANCE_PX, type TurnedSpan } from '../reference';
import { observeByDifferences } from './byDifferences';
import { apart, type Kind, logSafe } from './kind';

/**
 * A known length along the axis of a turned part, or a known diameter of it, between two picks: told on its section, where
 * the part truly is. As a known length otherwise.
 */
export const turnedSpanKind: Kind<TurnedSpan> = {
  unknowns: () => 0,
  addPrior() {},
  start: () => true,
  observe: (y, seen) =>
    observeByDifferences(
      {
        of: (camera, heightMm) => spanOf(y, camera, heightMm),
        knownMm: y.lengthMm,
        sigmaMm: observedSigmaMm(y),
        at: y.to,
      },
      seen,
    ),
  logScale({ from, to, lengthMm }, place) {
    const [a, b] = [place(from), place(to)];
    return a && b ? logSafe(lengthMm, Math.hypot(b[0] - a[0], b[1] - a[1])) : undefined;
  },
  thin: (y) => y,
  spread: null,
  coincides: ({ from, to }) => apart(from, to) < LEAST_PICK_DISTANCE_PX,
};

/** The length as a camera sees it over the axis's plane, mm; NaN where it sees none. */
function spanOf({ silhouettes, from, to }: TurnedSpan, camera: PreparedCamera, heightMm: number): number {
  const places = new Float64Array(12);
  const one = new Float64Array(2);
  for (const [k, { uPx, vPx }] of [...silhouettes.flat(), from, to].entries()) {
    if (!backProject(camera, uPx, vPx, heightMm, one)) return Number.NaN;
    places.set(one, 2 * k);
  }
  return spanOnTurned(places, lensStand(camera, heightMm)).mm;
}

/** How true the length is, and the scatter of both picks along it at the scale that it gives itself. */
function observedSigmaMm(y: TurnedSpan): number {
  const perPx = y.lengthMm / apart(y.from, y.to);
  return Math.hypot(knownLengthSigmaMm(y), y.from.sigmaPx * perPx, y.to.sigmaPx * perPx);
}
