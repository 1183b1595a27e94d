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
import type { RulerFigures } from '@steady-moth/core/read';
import { type LengthUnit, writeLength } from '@steady-moth/core/units';
import type { FoundRuler } from '../trueStore';
import type { RulerSaid } from '../useReadings';

/** Spacings that differ by a smaller share are one. */
const SAME_SPACING = 1e-6;

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

/** What a ruler is taken to be: its spacing, and what lies between its first and its last graduation, as it is said. */
export interface RulerScale {
  spacingMm: number;
  /** `0 to 15 cm` where its figures were read, else its length in the unit of the job. */
  typed: string;
  /** Its lower reading is at its last graduation. */
  isTurned: boolean;
}

/** Scales that the graduations allow, beside the one that the figures say. */
export const offeredBeside = (ruler: FoundRuler, said: RulerSaid): readonly Family[] =>
  ruler.families.filter((f) => !said || Math.abs(f.spacingMm / said.spacingMm - 1) > SAME_SPACING);

const readingText = (reading: number): string => String(Number(reading.toFixed(4)));

/** What a ruler's figures say lies between its first and its last graduation. */
export const saidText = ({ first, last, unit }: RulerFigures): string =>
  `${readingText(Math.min(first, last))} to ${readingText(Math.max(first, last))} ${unit}`;

/**
 * The scale that speaks for itself: the figures read, else the lengths of the graduations. Null where they contradict
 * each other, or leave it open: that is asked.
 */
export function scaleOf(ruler: FoundRuler, said: RulerSaid, unit: LengthUnit): RulerScale | null {
  if (said)
    return said.doubt || said.orUnit
      ? null
      : { spacingMm: said.spacingMm, typed: saidText(said), isTurned: said.first > said.last };
  return ruler.family
    ? { spacingMm: ruler.family.spacingMm, typed: guessedText(ruler, ruler.family, unit), isTurned: false }
    : null;
}

/** Takes a ruler by its scale; the first yardstick gives zero and direction as well. */
export function takeRuler(picture: Picture, ruler: FoundRuler, scale: RulerScale, id: string): JobAction {
  const { from, to, graduations, count } = ruler;
  const { axis, zero } = picture.calibration;
  return together(
    'add a known length',
    addReference(picture.id, {
      id,
      kind: 'known-length',
      plane: 'reference',
      from,
      to,
      lengthMm: count * scale.spacingMm,
      plusMinusMm: null,
      typed: scale.typed,
      graduations: { spacingMm: scale.spacingMm, ...graduations },
      width: null,
    }),
    ...(axis ? [] : [setAxis(picture.id, { along: liesAlong(picture, from, to), reference: id })]),
    ...(zero ? [] : [setZero(picture.id, { reference: id, end: scale.isTurned ? 'to' : 'from' })]),
  );
}
