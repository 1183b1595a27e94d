import type { Patch } from '../../../raster';
import { bilinear } from './corners';

/** Half the window in which a corner is settled, as a share of the way to its neighbours, and its bounds, px. */
const REFINE = { share: 0.38, leastPx: 2.5, mostPx: 11, rounds: 12 } as const;
/** No corner is known better, px: printing and the lens leave as much. */
const LEAST_SIGMA_PX = 0.04;
/** It moved by more than this share of the window: it is another one, or none. */
const MOST_MOVED = 0.8;

/**
 * Where the four squares about a place truly meet: every gradient there points square to the way to the corner. With its
 * scatter, from what the gradients miss it by. Null where it runs away, or out of the picture.
 *
 * In: light of the whole picture; a place, px from the outer corner of its first pixel; the way to the nearest neighbour, px.
 * Source: Förstner & Gülch, A fast operator for detection and precise location of distinct points (1987).
 */
export function refineCorner(
  gray: Patch,
  x0: number,
  y0: number,
  spacingPx: number,
): { uPx: number; vPx: number; sigmaPx: number } | null {
  const half = Math.min(REFINE.mostPx, Math.max(REFINE.leastPx, REFINE.share * spacingPx));
  const reach = Math.ceil(half);
  let [x, y] = [x0 - 0.5, y0 - 0.5];
  let sigmaPx = LEAST_SIGMA_PX;
  for (let round = 0; round < REFINE.rounds; round++) {
    if (x < reach + 2 || y < reach + 2 || x > gray.width - reach - 3 || y > gray.height - reach - 3) return null;
    let [xx, xy, yy, px, py, ww] = [0, 0, 0, 0, 0, 0];
    const all: number[] = [];
    for (let j = -reach; j <= reach; j++)
      for (let i = -reach; i <= reach; i++) {
        const weight = Math.exp((-2 * (i * i + j * j)) / (half * half));
        const [u, v] = [x + i, y + j];
        const gx = (bilinear(gray, u + 1, v) - bilinear(gray, u - 1, v)) / 2;
        const gy = (bilinear(gray, u, v + 1) - bilinear(gray, u, v - 1)) / 2;
        xx += weight * gx * gx;
        xy += weight * gx * gy;
        yy += weight * gy * gy;
        px += weight * (gx * gx * i + gx * gy * j);
        py += weight * (gx * gy * i + gy * gy * j);
        ww += weight;
        all.push(weight, gx, gy, i, j);
      }
    const det = xx * yy - xy * xy;
    if (!(det > 1e-14 * ww * ww)) return null;
    const [dx, dy] = [(yy * px - xy * py) / det, (xx * py - xy * px) / det];
    x += dx;
    y += dy;
    if (Math.hypot(x + 0.5 - x0, y + 0.5 - y0) > MOST_MOVED * half) return null;
    if (Math.hypot(dx, dy) > 0.003) continue;
    // What is missed, through the sandwich: neighbours share their noise, hence twice as much.
    let [sxx, sxy, syy] = [0, 0, 0];
    for (let k = 0; k < all.length; k += 5) {
      const [w, gx, gy] = [all[k]!, all[k + 1]!, all[k + 2]!];
      const miss = w * (gx * (all[k + 3]! - dx) + gy * (all[k + 4]! - dy));
      sxx += (miss * gx) ** 2;
      sxy += miss * miss * gx * gy;
      syy += (miss * gy) ** 2;
    }
    const cxx = (yy * yy * sxx - 2 * xy * yy * sxy + xy * xy * syy) / (det * det);
    const cyy = (xy * xy * sxx - 2 * xx * xy * sxy + xx * xx * syy) / (det * det);
    sigmaPx = Math.max(LEAST_SIGMA_PX, Math.sqrt((cxx + cyy) / 2));
    break;
  }
  return { uPx: x + 0.5, vPx: y + 0.5, sigmaPx };
}
