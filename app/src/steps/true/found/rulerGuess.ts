import type { Family } from '@steady-moth/core/find';
import {
  addReference,
  type JobAction,
  type PickRecord,
  type Picture,
  setAxis,
  setZero,
  together,
} from '@steady-moth/core/job';
import { type LengthUnit, writeLength } from '@steady-moth/core/units';
import type { FoundRuler } from '../../../session/benchStore';

/** How long a ruler is from its first to its last graduation, by what their lengths tell of its spacing. */
export const guessedMm = ({ count }: FoundRuler, { spacingMm }: Family): number => count * spacingMm;

/** What speaks for a scale. */
export const longWords = ({ unit, spacingMm, every }: Family): string =>
  unit === 'mm'
    ? `strokes every ${spacingMm} mm, each ${every}th the longest`
    : `${Math.round(25.4 / spacingMm)} to the inch, each ${every}th the longest`;

export const guessedText = (ruler: FoundRuler, family: Family, unit: LengthUnit): string =>
  writeLength(guessedMm(ruler, family), null, unit).value.replace(/0+$/, '').replace(/\.$/, '');

/** Which way two picks lie as the picture is shown: one turned by a quarter has its rows upright. */
export function liesAlong({ preparation }: Picture, from: PickRecord, to: PickRecord): 'x' | 'y' {
  const liesFlat = Math.abs(to.uPx - from.uPx) >= Math.abs(to.vPx - from.vPx);
  return liesFlat === (preparation.turns % 2 === 0) ? 'x' : 'y';
}

/** Takes a ruler as its graduations tell it; the first yardstick gives zero and direction as well. */
export function takeRuler(
  picture: Picture,
  ruler: FoundRuler,
  family: Family,
  id: string,
  unit: LengthUnit,
): JobAction {
  const { from, to, graduations } = ruler;
  const { axis, zero } = picture.calibration;
  return together(
    'add a known length',
    addReference(picture.id, {
      id,
      kind: 'known-length',
      plane: 'reference',
      from,
      to,
      lengthMm: guessedMm(ruler, family),
      plusMinusMm: null,
      typed: guessedText(ruler, family, unit),
      graduations: { spacingMm: family.spacingMm, ...graduations },
      width: null,
    }),
    ...(axis ? [] : [setAxis(picture.id, { along: liesAlong(picture, from, to), reference: id })]),
    ...(zero ? [] : [setZero(picture.id, { reference: id, end: 'from' })]),
  );
}
