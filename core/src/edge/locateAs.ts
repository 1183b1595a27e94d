import type { Pixels } from '../raster';
import { type Located, locateEdges } from './locate';
import { locateInk } from './locateInk';

/** What counts of what is pictured near a place: the middle of its ink stroke, or every edge there, the nearest first. */
export function locateAs(
  pixels: Pixels,
  { uPx, vPx }: { uPx: number; vPx: number },
  wish: 'edge' | 'line',
  searchPx: number,
): Located[] {
  const stroke = wish === 'line' ? locateInk(pixels, uPx, vPx, { searchPx }) : null;
  return stroke?.kind === 'line' ? [stroke] : locateEdges(pixels, uPx, vPx, { searchPx });
}
