import { DISC_STRETCH, GRID_STRETCH, RULER_STRETCH, SHEET_SIZE } from './kinds';
import { DISC, GRID, knownLengthSigmaMm, type Reference } from './reference';

/** A size of a reference that is an unknown of its own: which of them, in which unit of mm, and how well it is known. */
export interface Size {
  index: number;
  perUnit: number;
  mm: number;
  plusMinusMm: number;
}

/** The sizes of a reference that can be set free; none of a lone length, or of what has no size. */
export function sizesOf(y: Reference): Size[] {
  switch (y.kind) {
    case 'known-length': {
      if (!y.graduations) return [];
      const plusMinusMm = 2 * knownLengthSigmaMm(y);
      return [{ index: RULER_STRETCH, perUnit: y.lengthMm, mm: y.lengthMm, plusMinusMm }];
    }
    case 'disc': {
      if (y.diameterMm === null) return [];
      const plusMinusMm = y.plusMinusMm ?? 2 * DISC.sigmaDiameterMm;
      return [{ index: DISC_STRETCH, perUnit: y.diameterMm, mm: y.diameterMm, plusMinusMm }];
    }
    case 'grid': {
      // Ten pitches: what a person would check.
      const mm = 10 * y.pitchMm;
      return [{ index: GRID_STRETCH, perUnit: mm, mm, plusMinusMm: mm * (y.plusMinusShare ?? 2 * GRID.sigmaPitch) }];
    }
    case 'sheet':
      return SHEET_SIZE.map((index, k) => ({
        index,
        perUnit: 1,
        mm: k === 0 ? y.widthMm : y.heightMm,
        plusMinusMm: y.plusMinusMm,
      }));
    default:
      return [];
  }
}
