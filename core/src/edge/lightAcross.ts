import { cutPatch, type Pixels, sampleCubic } from '../raster';
import type { Located } from './locate';

/** Reach of the brightness shown in the loupe, px. */
const ACROSS_PX = 8;

/** Linear light across a located edge or stroke, in steps of half a pixel; empty at the picture's rim. */
export function lightAcross(pixels: Pixels, { uPx, vPx, normal }: Located): number[] {
  const patch = cutPatch(pixels, uPx, vPx, ACROSS_PX + 3);
  if (!patch) return [];
  const values: number[] = [];
  for (let d = -ACROSS_PX; d <= ACROSS_PX; d += 0.5)
    values.push(sampleCubic(patch, uPx + d * Math.cos(normal), vPx + d * Math.sin(normal)));
  return values.every(Number.isFinite) ? values : [];
}
