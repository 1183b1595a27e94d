import type { Pixels } from '../../raster';

/** A small gray copy of a picture, for looking round: mean of step × step pixels, as the file's own levels, 0 to 255. */
export interface Coarse {
  step: number;
  width: number;
  height: number;
  gray: Float32Array;
}

/** Long side of the small copy, px: things that a person points at are some ten of them wide. */
export const COARSE_LONG_PX = 1000;

export function coarseOf({ width, height, data }: Pixels, longPx = COARSE_LONG_PX): Coarse {
  const step = Math.max(1, Math.round(Math.max(width, height) / longPx));
  const [w, h] = [Math.floor(width / step), Math.floor(height / step)];
  const gray = new Float32Array(w * h);
  // Four pixels of each block tell its mean nearly as well as all of them, in a fraction of the time.
  const taps = step < 3 ? Array.from({ length: step }, (_, k) => k) : [step >> 2, step - 1 - (step >> 2)];
  const share = 1 / (taps.length * taps.length * 4);
  for (let y = 0; y < h; y++)
    for (const dy of taps) {
      const row = (y * step + dy) * width;
      for (const dx of taps) {
        let at = (row + dx) * 4;
        for (let x = 0; x < w; x++, at += 4 * step)
          gray[y * w + x]! += (data[at]! + 2 * data[at + 1]! + data[at + 2]!) * share;
      }
    }
  return { step, width: w, height: h, gray };
}

/** The same in three colours, one after the other for each pixel. */
export interface CoarseColours {
  step: number;
  width: number;
  height: number;
  levels: Float32Array;
}

export function coarseColoursOf({ width, height, data }: Pixels, longPx = COARSE_LONG_PX): CoarseColours {
  const step = Math.max(1, Math.round(Math.max(width, height) / longPx));
  const [w, h] = [Math.floor(width / step), Math.floor(height / step)];
  const levels = new Float32Array(3 * w * h);
  const taps = step < 3 ? Array.from({ length: step }, (_, k) => k) : [step >> 2, step - 1 - (step >> 2)];
  const share = 1 / (taps.length * taps.length);
  for (let y = 0; y < h; y++)
    for (const dy of taps)
      for (const dx of taps) {
        let at = ((y * step + dy) * width + dx) * 4;
        for (let to = 3 * y * w; to < 3 * (y + 1) * w; to += 3, at += 4 * step)
          for (let c = 0; c < 3; c++) levels[to + c]! += data[at + c]! * share;
      }
  return { step, width: w, height: h, levels };
}
