import type { Calibration } from '../estimate/calibrate';
import { axisFrom, halfwayRadius, nearRimAt, silhouetteAt } from '../model/silhouette';
import { type Figure, figureOf, type Measure, type PlanePick } from '../uncertainty/figure';

/**
 * A turned part lying on its side, its axis level: two picks on each of both silhouettes, on the plane that the axis lies in.
 * The silhouettes may converge, as a cone's do.
 */
export interface TurnedPart {
  silhouettes: readonly [readonly [PlanePick, PlanePick], readonly [PlanePick, PlanePick]];
}

/** The four picks, in the order in which `axisFrom` takes their places. */
export const silhouettePicks = ({ silhouettes }: TurnedPart): PlanePick[] => silhouettes.flat();

/** How many numbers the places of the silhouettes take. */
const SILHOUETTE_NUMBERS = 8;

/**
 * The part's diameter between the picked silhouettes, halfway along them, with its ±; null where they have no place, or in a
 * scan, which is not seen from one point.
 */
export function silhouetteDiameter(calibration: Calibration, turned: TurnedPart): Figure | null {
  if (calibration.lens !== 'photo') return null;
  return sound(
    figureOf(calibration, silhouettePicks(turned), (p, lens) => {
      const axis = axisFrom(p, 0, lens);
      return halfwayRadius(axis, lens, p, 0) + halfwayRadius(axis, lens, p, 4);
    }),
  );
}

/** What two picks on a turned part measure. */
export type OnTurnedFigure = { what: 'diameter' | 'length'; figure: Figure };

/**
 * Two picks on a turned part: across its axis, on both silhouettes where they run along it, its diameter; along its axis, at
 * corners of ends or shoulders, the length between them. Both in the middle of ends, where the near rims are seen, take
 * the radius between the picked silhouettes.
 */
export function betweenOnTurned(
  calibration: Calibration,
  turned: TurnedPart,
  from: PlanePick,
  to: PlanePick,
): OnTurnedFigure | null {
  if (calibration.lens !== 'photo') return null;
  const picks = [...silhouettePicks(turned), from, to];
  const parts = (p: Float64Array, lens: Float64Array) => {
    const axis = axisFrom(p, 0, lens);
    const [x0, y0, x1, y1] = [0, 1, 2, 3].map((k) => p[SILHOUETTE_NUMBERS + k]) as [number, number, number, number];
    const on = (x: number, y: number) => silhouetteAt(axis, lens, x, y, axis.dx, axis.dy);
    return { axis, x0, y0, x1, y1, a: on(x0, y0), b: on(x1, y1) };
  };
  let across = false;
  let onRims = false;
  const look: Measure = (p, lens) => {
    const { axis, x0, y0, x1, y1, a, b } = parts(p, lens);
    const [ex, ey] = [x1 - x0, y1 - y0];
    across = Math.abs(ey * axis.dx - ex * axis.dy) > Math.abs(ex * axis.dx + ey * axis.dy);
    onRims = Math.max(a.radius, b.radius) < halfwayRadius(axis, lens, p, 0) / 2;
    return 0;
  };
  if (!figureOf({ ...calibration, draws: null }, picks, look)) return null;
  const figure = figureOf(calibration, picks, (p, lens) => {
    const { axis, x0, y0, x1, y1, a, b } = parts(p, lens);
    if (across) return Math.abs(a.side * a.radius - b.side * b.radius);
    if (!onRims) return Math.abs(a.along - b.along);
    const radius = halfwayRadius(axis, lens, p, 0);
    return Math.abs(nearRimAt(axis, lens, x0, y0, radius).along - nearRimAt(axis, lens, x1, y1, radius).along);
  });
  const good = sound(figure);
  return good && { what: across ? 'diameter' : 'length', figure: good };
}

const sound = (figure: Figure | null): Figure | null =>
  figure && Number.isFinite(figure.value) && Number.isFinite(figure.plusMinus) ? figure : null;
