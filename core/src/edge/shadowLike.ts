import { LINEAR_LIGHT, type Pixels } from '../raster';
import { lensBlurOf } from './lensBlur';
import type { Located } from './locate';

/** Softer than the picture's sharpest edges by this factor and by this many px: the rim of a shadow is never sharp. */
const SOFTER = { times: 1.5, px: 0.7 } as const;
/** Both sides are read this far beyond the edge's own blur, px, over so many places along it. */
const SIDE = { blurs: 2, px: 1, deepPx: 3, alongPx: 10 } as const;
/** A shade takes at least this share of the light, and of all colours alike to this share of it (the sky lights it blue). */
const SHADE = { least: 0.06, alike: 0.22, plus: 0.03 } as const;

/**
 * Whether an edge looks like the rim of a shadow and not of a thing: softer than what the lens makes of a step, and dark
 * and light of one colour, the one a shade of the other. A gray thing with a rounded rim on a gray table looks like that
 * too: it is a question and no verdict.
 *
 * In: the picture and an edge located in it. Degenerate: lines, and edges at the picture's rim, are none.
 */
export function isShadowLike(pixels: Pixels, edge: Located): boolean {
  if (edge.kind !== 'edge') return false;
  const lens = lensBlurOf(pixels);
  if (lens === null || edge.blurPx < SOFTER.times * lens || edge.blurPx < lens + SOFTER.px) return false;
  const from = SIDE.blurs * edge.blurPx + SIDE.px;
  const [dark, light] = [sideOf(pixels, edge, -from), sideOf(pixels, edge, from)];
  if (!dark || !light) return false;
  const taken = dark.map((v, c) => Math.log(Math.max(1e-4, v) / Math.max(1e-4, light[c]!)));
  const mean = taken.reduce((sum, v) => sum + v, 0) / taken.length;
  const spread = Math.max(...taken) - Math.min(...taken);
  return mean < -SHADE.least && spread < SHADE.alike * -mean + SHADE.plus;
}

/** Mean colour of a strip beside an edge, linear light; its normal runs from dark to light. */
function sideOf({ width, height, data }: Pixels, edge: Located, off: number): number[] | null {
  const { uPx, vPx, normal, bend } = edge;
  const [nx, ny] = [Math.cos(normal), Math.sin(normal)];
  const sum = [0, 0, 0];
  let count = 0;
  for (let t = -SIDE.alongPx; t <= SIDE.alongPx; t += 1)
    for (let d = 0; d < SIDE.deepPx; d += 1) {
      const across = off + Math.sign(off) * d + (bend / 2) * t * t;
      const x = Math.floor(uPx + across * nx - t * ny);
      const y = Math.floor(vPx + across * ny + t * nx);
      if (x < 0 || y < 0 || x >= width || y >= height) return null;
      for (let c = 0; c < 3; c++) sum[c]! += LINEAR_LIGHT[data[4 * (y * width + x) + c]!]!;
      count += 1;
    }
  return sum.map((v) => v / count);
}
