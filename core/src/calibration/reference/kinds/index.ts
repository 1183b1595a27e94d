import type { Reference } from '../reference';
import { discKind } from './disc';
import { equalLengthsKind } from './equalLengths';
import { gridKind } from './grid';
import type { Kind } from './kind';
import { knownLengthKind } from './knownLength';
import { rulerKind } from './ruler';
import { sheetKind } from './sheet';
import { squareLinesKind } from './squareLines';
import { turnedDiameterKind } from './turnedDiameter';
import { turnedSpanKind } from './turnedSpan';

export { DISC_STRETCH } from './disc';
export { GRID_STRETCH } from './grid';
export type { Kind, Place, Seen } from './kind';
export { isRuler, RULER, RULER_STRETCH, RULER_WIDTH, type Ruler, rulerMiddleMm, rulerWidthSigmaMm } from './ruler';
export { SHEET_SIZE } from './sheet';

const KINDS = {
  disc: discKind,
  sheet: sheetKind,
  grid: gridKind,
  'square-lines': squareLinesKind,
  'equal-lengths': equalLengthsKind,
  'turned-diameter': turnedDiameterKind,
  'turned-span': turnedSpanKind,
} as const;

/** What a reference does in the estimate. */
export function kindOf(y: Reference): Kind<Reference> {
  const kind = y.kind === 'known-length' ? (y.graduations ? rulerKind : knownLengthKind) : KINDS[y.kind];
  return kind as unknown as Kind<Reference>;
}
