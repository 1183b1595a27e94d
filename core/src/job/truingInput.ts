import { type Datum, knowsScale, type PlanePick, type SpotCheck, type TruingInput } from '../truing';
import {
  lensOf,
  type PickRecord,
  type Picture,
  type PlaneName,
  type SpotCheckRecord,
  type TruingRecord,
} from './document';

/** What the estimate takes, from what the document keeps. */
export function truingInput({ facts, truing, kind }: Pick<Picture, 'facts' | 'truing' | 'kind'>): TruingInput {
  return {
    facts,
    lens: lensOf(kind),
    believeResolution: truing.believeResolution,
    hold: truing.hold,
    planes: [
      { id: 'yardstick', ...truing.heights.yardstick },
      { id: 'face', ...truing.heights.face },
    ],
    yardsticks: truing.yardsticks.map(({ typed: _, ...y }) => y),
  };
}

/** Anything is known of how large a picture is: it can be shown true. */
export function isScaleKnown(picture: Pick<Picture, 'facts' | 'truing' | 'kind'>): boolean {
  return knowsScale(truingInput(picture));
}

/** Zero and the direction of X as picks, where they lean on a yardstick its picks. */
export function datumOf({ truing, preparation }: Pick<Picture, 'truing' | 'preparation'>): Datum {
  return {
    zero: zeroPick(truing),
    axis: axisPicks(truing),
    rows: ((preparation.flip ? -1 : 1) * preparation.turns * Math.PI) / 2,
    flip: preparation.flip,
  };
}

function zeroPick({ zero, yardsticks }: TruingRecord): PlanePick | null {
  if (!zero) return null;
  if ('pick' in zero) return onPlane(zero.pick, zero.plane);
  const y = yardsticks.find((other) => other.id === zero.yardstick);
  return y ? onPlane(y[zero.end], y.plane) : null;
}

function axisPicks({ axis, yardsticks }: TruingRecord): Datum['axis'] {
  if (!axis) return null;
  if ('from' in axis)
    return { from: onPlane(axis.from, axis.plane), to: onPlane(axis.to, axis.plane), along: axis.along };
  const y = yardsticks.find((other) => other.id === axis.yardstick);
  return y ? { from: onPlane(y.from, y.plane), to: onPlane(y.to, y.plane), along: axis.along } : null;
}

export function spotCheckOf({ from, to, plane, lengthMm, plusMinusMm }: SpotCheckRecord): SpotCheck {
  return { from: onPlane(from, plane), to: onPlane(to, plane), lengthMm, plusMinusMm };
}

export function onPlane({ uPx, vPx, sigmaPx }: PickRecord, plane: PlaneName): PlanePick {
  return { uPx, vPx, sigmaPx, plane };
}
