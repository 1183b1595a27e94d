import type { Pixels } from './patch';

/** Half the side of the square whose mean colour is taken, px. */
const COLOUR_REACH = 2;

/** A picture's own colour about a pixel: the mean of a few, 0 to 255; null outside it. */
export function meanColour({ width, height, data }: Pixels, u: number, v: number): [number, number, number] | null {
  const sum = [0, 0, 0];
  let count = 0;
  for (let y = v - COLOUR_REACH; y <= v + COLOUR_REACH; y++)
    for (let x = u - COLOUR_REACH; x <= u + COLOUR_REACH; x++) {
      if (x < 0 || y < 0 || x >= width || y >= height) continue;
      for (let c = 0; c < 3; c++) sum[c]! += data[(y * width + x) * 4 + c]!;
      count += 1;
    }
  return count ? [Math.round(sum[0]! / count), Math.round(sum[1]! / count), Math.round(sum[2]! / count)] : null;
}
