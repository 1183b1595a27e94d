import type { LengthUnit } from './parseLength';

const MM_PER_INCH = 25.4;

/** How many decimals a figure shows when nothing tells its ±. */
const PLAIN_DECIMALS = { mm: 3, in: 4 } as const;

/** A figure ready for the screen: the value and its ±, written to the same last place. */
export interface WrittenFigure {
  value: string;
  plusMinus: string | null;
}

/**
 * Writes a length with its ±: two figures of the ± decide the last place of both.
 * In: millimetres; out: text in `unit`, with a true minus sign, without the unit's name.
 * Degenerate: no ± gives plain decimals; a ± that is not finite is written as "unknown".
 */
export function writeLength(valueMm: number, plusMinusMm: number | null, unit: LengthUnit): WrittenFigure {
  const per = unit === 'in' ? MM_PER_INCH : 1;
  return writeFigure(valueMm / per, plusMinusMm === null ? null : plusMinusMm / per, PLAIN_DECIMALS[unit]);
}

/** Writes any figure with its ±, both in the same unit; `most` bounds the decimals. */
export function writeFigure(value: number, plusMinus: number | null, most: number): WrittenFigure {
  if (plusMinus === null) return { value: fixed(value, most), plusMinus: null };
  if (!Number.isFinite(plusMinus)) return { value: fixed(value, Math.min(most, 1)), plusMinus: 'unknown' };
  const decimals = decimalsFor(plusMinus, most);
  return { value: fixed(value, decimals), plusMinus: fixed(plusMinus, decimals) };
}

/** Decimals at which a ± shows two figures, never more than `most`, never fewer than none. */
function decimalsFor(plusMinus: number, most: number): number {
  if (plusMinus <= 0) return most;
  const leading = Math.floor(Math.log10(plusMinus));
  return Math.min(most, Math.max(0, 1 - leading));
}

/** Fixed decimals with a true minus sign, and no minus before a zero. */
export function fixed(value: number, decimals: number): string {
  const text = Math.abs(value).toFixed(decimals);
  return value < 0 && Number(text) !== 0 ? `−${text}` : text;
}
