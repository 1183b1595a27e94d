import { LAB_BITS, labIndex, labTable, toLab } from './lab';

/** A background to be taken away by its colour. */
export interface ClearSetting {
  /** As the file has it, 0 to 255. */
  colour: readonly [number, number, number];
  /** How unlike a colour may be and still be cleared, 0 to 1. */
  tolerance: number;
}

/** Share of a difference in lightness that counts: a shadow on the background is still background. */
const LIGHTNESS_WEIGHT = 0.45;
/** Likeness over which the cut runs from clear to whole: a pixel of the rim keeps its share, and no more. */
export const RAMP = 0.02;
/** Differences between colours reach about this; the tolerance is a share of it. */
export const MOST_UNLIKE = 0.5;

/** How much of each colour stays, worked out once for a setting: one look-up a pixel afterwards. */
export interface ClearTable {
  readonly stays: Uint8Array;
}

/** Works out what stays of each colour. Likeness is told in OKLab, lightness counting less. */
export function buildClearTable({ colour, tolerance }: ClearSetting): ClearTable {
  const lab = labTable();
  const own = new Float64Array(3);
  toLab(...colour, own);
  const [l, a, b] = [own[0]!, own[1]!, own[2]!];
  const bound = tolerance * MOST_UNLIKE;
  const stays = new Uint8Array(1 << (3 * LAB_BITS));
  for (let k = 0; k < stays.length; k++) {
    const light = LIGHTNESS_WEIGHT * (lab[3 * k]! - l);
    const unlike = Math.hypot(light, lab[3 * k + 1]! - a, lab[3 * k + 2]! - b);
    stays[k] = 255 * Math.min(1, Math.max(0, (unlike - bound) / RAMP));
  }
  return { stays };
}

/** Takes the background out of pixels, RGBA, in place: only their opacity changes. */
export function clearBackground(data: Uint8ClampedArray, { stays }: ClearTable): void {
  for (let k = 0; k < data.length; k += 4) {
    if (data[k + 3] === 0) continue;
    data[k + 3] = Math.min(data[k + 3]!, stays[labIndex(data[k]!, data[k + 1]!, data[k + 2]!)]!);
  }
}
