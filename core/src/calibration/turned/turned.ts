import type { Calibration } from '../estimate/calibrate';
import { axisFrom, halfwayRadius, spanOnTurned } from '../model/silhouette';
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

/** What two picks on a turned part measure, with its ± (`spanOnTurned`); null where they have no place, or in a scan. */
export function betweenOnTurned(
  calibration: Calibration,
  turned: TurnedPart,
  from: PlanePick,
  to: PlanePick,
): OnTurnedFigure | null {
  if (calibration.lens !== 'photo') return null;
  let what: OnTurnedFigure['what'] = 'length';
  const picks = [...silhouettePicks(turned), from, to];
  // Where they are seen tells what they measure: no draw may change that.
  const look: Measure = (p, lens) => {
    what = spanOnTurned(p, lens).what;
    return 0;
  };
  if (!figureOf({ ...calibration, draws: null }, picks, look)) return null;
  const figure = sound(figureOf(calibration, picks, (p, lens) => spanOnTurned(p, lens).mm));
  return figure && { what, figure };
}

const sound = (figure: Figure | null): Figure | null =>
  figure && Number.isFinite(figure.value) && Number.isFinite(figure.plusMinus) ? figure : null;
