import type { Graduations, KnownLength } from '../reference/reference';

type Counted = KnownLength & { graduations: Graduations };

/** How far a reading may lie beside a graduation and still be one, in spacings. */
const BESIDE = 0.2;

/**
 * A ruler with its graduations numbered from its own zero, so that another picture can show the same ones: by what both
 * its ends read, mm, in the order in which they were picked. Null where the readings lie between graduations.
 */
export function numberedRuler(ruler: Counted, { fromMm, toMm }: { fromMm: number; toMm: number }): Counted | null {
  const ahead = toMm > fromMm ? ruler : turnedRound(ruler);
  const { spacingMm } = ahead.graduations;
  const first = Math.min(fromMm, toMm) / spacingMm;
  if (Math.abs(first - Math.round(first)) > BESIDE) return null;
  return { ...ahead, graduations: { ...ahead.graduations, first: Math.round(first) } };
}

/** The same ruler read from its other end. */
function turnedRound(ruler: Counted): Counted {
  const { graduations, lengthMm, from, to } = ruler;
  const count = Math.round(lengthMm / graduations.spacingMm);
  const turned = graduations.graduations.map((s) => ({ ...s, n: count - s.n })).reverse();
  return { ...ruler, from: to, to: from, graduations: { ...graduations, graduations: turned } };
}
