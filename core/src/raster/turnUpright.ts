import type { Pixels } from './patch';

/**
 * Turns stored pixels upright by their EXIF orientation, 1 to 8 (1 gives the same object back). No pixel is resampled.
 */
export function turnUpright(pixels: Pixels, orientation: number): Pixels {
  if (orientation <= 1 || orientation > 8) return pixels;
  const { width: w, height: h } = pixels;
  const turned = orientation >= 5;
  const [width, height] = turned ? [h, w] : [w, h];
  const from = new Uint32Array(pixels.data.buffer, pixels.data.byteOffset, w * h);
  const out = new Uint32Array(w * h);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [sx, sy] = turned ? [y, x] : [x, y];
      const fromRight = orientation === 2 || orientation === 3 || orientation === 7 || orientation === 8;
      const fromBelow = orientation === 3 || orientation === 4 || orientation === 6 || orientation === 7;
      out[y * width + x] = from[(fromBelow ? h - 1 - sy : sy) * w + (fromRight ? w - 1 - sx : sx)]!;
    }
  return { width, height, data: new Uint8ClampedArray(out.buffer) };
}
