import type { Pixels } from './patch';

/** A picture with smaller copies of itself, each half the one before: the picture first. */
export type Pyramid = Pixels[];

/** Copies are made down to this size, px: below it a redrawing touches few pixels anyway. */
const SMALLEST_PX = 256;

/**
 * Makes the halved copies by averaging two by two; an odd last row or column is left out.
 * The picture itself is not copied. Together the copies take a third of its memory.
 */
export function buildPyramid(picture: Pixels): Pyramid {
  const levels: Pyramid = [picture];
  for (let last = picture; Math.max(last.width, last.height) > SMALLEST_PX && Math.min(last.width, last.height) > 1; ) {
    last = halve(last);
    levels.push(last);
  }
  return levels;
}

function halve({ width, height, data }: Pixels): Pixels {
  const w = width >> 1;
  const h = height >> 1;
  const out = new Uint8ClampedArray(w * h * 4);
  for (let y = 0; y < h; y++) {
    let a = 2 * y * width * 4;
    let b = a + width * 4;
    let to = y * w * 4;
    for (let x = 0; x < w; x++, a += 8, b += 8, to += 4) {
      out[to] = (data[a] + data[a + 4] + data[b] + data[b + 4] + 2) >> 2;
      out[to + 1] = (data[a + 1] + data[a + 5] + data[b + 1] + data[b + 5] + 2) >> 2;
      out[to + 2] = (data[a + 2] + data[a + 6] + data[b + 2] + data[b + 6] + 2) >> 2;
      out[to + 3] = (data[a + 3] + data[a + 7] + data[b + 3] + data[b + 7] + 2) >> 2;
    }
  }
  return { width: w, height: h, data: out };
}
