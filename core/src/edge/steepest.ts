import type { Pixels } from '../raster';

/**
 * Steepest place of a rectangle, px, by differences of green over two pixels; null where none reaches `leastStep` of
 * 255. Rows are looked through at a stated spacing, not all of them.
 */
export function steepest(
  { width, height, data }: Pixels,
  { left, top, width: w, height: h }: { left: number; top: number; width: number; height: number },
  leastStep: number,
  rowStride = 1,
): { x: number; y: number } | null {
  let most = leastStep;
  let best: { x: number; y: number } | null = null;
  for (let y = Math.max(1, Math.floor(top)); y < Math.min(height - 1, top + h); y += rowStride)
    for (let x = Math.max(1, Math.floor(left)); x < Math.min(width - 1, left + w); x++) {
      const at = (y * width + x) * 4 + 1;
      const step = Math.abs(data[at + 4]! - data[at - 4]!) + Math.abs(data[at + 4 * width]! - data[at - 4 * width]!);
      if (step > most) {
        most = step;
        best = { x: x + 0.5, y: y + 0.5 };
      }
    }
  return best;
}
