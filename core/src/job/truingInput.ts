import type { Datum, PlanePick, SpotCheck, TruingInput } from '../truing';
import type { PickRecord, Picture, PlaneName, SpotCheckRecord, TruingRecord } from './document';

/** What the estimate takes, from what the document keeps. */
export function truingInput({ facts, truing }: Pick<Picture, 'facts' | 'truing'>): TruingInput {
  return {
    facts,
    hold: truing.hold,
    planes: [
      { id: 'yardstick', ...truing.heights.yardstick },
      { id: 'face', ...truing.heights.face },
    ],
    yardsticks: truing.yardsticks.map(({ typed: _, ...y }) => y),
  };
}

/** Zero and the direction of X as picks, where they lean on a yardstick its picks. */
export function datumOf({ truing, preparation }: Pick<Picture, 'truing' | 'preparation'>): Datum {
  return { zero: zeroPick(truing), axis: axisPicks(truing), rows: (preparation.turns * Math.PI) / 2 };
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
