import type { Agreement } from '../calibration';
import type { ReferenceRecord } from '../job';
import { fixed, type LengthUnit, writeLength } from '../units';

/** A figure and its ± never break across lines. */
const NBSP = '\u00a0';

/** What a kind of reference is called on the slip. */
export const REFERENCE_WORDS: Record<ReferenceRecord['kind'], string> = {
  'known-length': 'Known length',
  disc: 'Coin',
  sheet: 'Sheet',
  grid: 'Grid',
  'square-lines': 'Square lines',
  'equal-lengths': 'Equal lengths',
  'turned-diameter': 'Known diameter',
};

/** What a disagreement makes one ask of each kind. */
const ASKED: Record<ReferenceRecord['kind'], string> = {
  'known-length': 'is the figure right, and do both lie at the heights given?',
  disc: 'is it another coin, or does it lie at another height?',
  sheet: 'is it another sheet, or cut or curled?',
  grid: 'is its pitch right, and does it lie flat?',
  'square-lines': 'are they really square to each other?',
  'equal-lengths': 'are they really equal?',
  'turned-diameter': 'was it measured there, and does the axis lie at the height given?',
};

/** What the other references say of one, in words. */
export function agreementSentence(
  found: Agreement | null,
  unit: LengthUnit,
  kind: ReferenceRecord['kind'] = 'known-length',
  /** What it was held against. */
  by: 'the rest' | 'the stated scale' = 'the rest',
): string {
  if (!found) return '';
  const spread = writeLength(0, found.plusMinusMm, unit).plusMinus;
  const off = writeLength(found.deviationMm, found.plusMinusMm, unit).value;
  const sign = found.deviationMm > 0 ? '+' : '';
  const figures = `${sign}${off}${NBSP}±${NBSP}${spread}`;
  if (found.fits) return `agrees with ${by}: ${figures}`;
  if (kind === 'square-lines' || kind === 'equal-lengths')
    return `the rest finds them off by ${figures}: ${ASKED[kind]}`;
  const share = fixed(Math.abs(100 * found.deviationShare), 1);
  const wrongUnit = unitSlip(1 + found.deviationShare);
  const finds = by === 'the rest' ? 'the rest finds it' : 'by the stated scale it is';
  return `${finds} ${share} % ${found.deviationMm > 0 ? 'larger' : 'smaller'} (${figures}): ${wrongUnit || ASKED[kind]}`;
}

/** A length that is off by the inch was typed in the wrong unit. */
export function unitSlip(foundOverKnown: number): string {
  if (Math.abs(foundOverKnown * 25.4 - 1) < 0.1) return 'as typed it is 25.4 times too large: is it in millimetres?';
  if (Math.abs(foundOverKnown / 25.4 - 1) < 0.1) return 'as typed it is 25.4 times too small: is it in inches?';
  return '';
}
