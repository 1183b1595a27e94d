import { factorCholesky, solveCholesky } from '../numeric';
import { LINEAR_LIGHT, type Patch, type Pixels } from '../raster';
import type { Seat } from './profile';

/** A square cut from a picture in its three colours, linear light, 0 to 1. */
export interface ColourPatch {
  left: number;
  top: number;
  width: number;
  height: number;
  channels: readonly [Float32Array, Float32Array, Float32Array];
}

/** Shares of three colours, of which one number is made. */
export type Weights = readonly [number, number, number];

/** Scale at which edges are sought, σ px: above the noise of single pixels, below the distance of ruler strokes. */
export const SEEK_SIGMA_PX = 1.4;

/** What the eye, and a gray picture, makes of colours (IEC 61966-2-1). */
export const LUMINANCE: Weights = [0.2126, 0.7152, 0.0722];

/**
 * Cuts the pixels within `reachPx` of a place, clipped to the picture.
 * Degenerate: a place further than its reach outside the picture gives null.
 */
export function cutColours({ width: w, height: h, data }: Pixels, u: number, v: number, reachPx: number) {
  const left = Math.max(0, Math.floor(u - reachPx));
  const top = Math.max(0, Math.floor(v - reachPx));
  const right = Math.min(w, Math.ceil(u + reachPx));
  const bottom = Math.min(h, Math.ceil(v + reachPx));
  if (!(right - left >= 2 && bottom - top >= 2)) return null;
  const [width, height] = [right - left, bottom - top];
  const channels = [0, 1, 2].map((c) => {
    const light = new Float32Array(width * height);
    for (let y = 0; y < height; y++) {
      let from = ((top + y) * w + left) * 4 + c;
      for (let x = 0; x < width; x++, from += 4) light[y * width + x] = LINEAR_LIGHT[data[from]!]!;
    }
    return light;
  }) as unknown as ColourPatch['channels'];
  return { left, top, width, height, channels } satisfies ColourPatch;
}

/** The patch as light of one kind: its colours in these shares. */
export function asLight({ channels: [r, g, b], ...frame }: ColourPatch, [wr, wg, wb]: Weights): Patch {
  const light = new Float32Array(r.length);
  for (let k = 0; k < light.length; k++) light[k] = wr * r[k]! + wg * g[k]! + wb * b[k]!;
  return { ...frame, light };
}

/**
 * How much of its strength an edge at the end of the search counts, against one right at the place asked. Little, since
 * a thick part shows its foot, stronger than its face, only a few pixels off: the one that was pointed at is meant.
 */
export const FAR_SHARE = 0.05;

/**
 * The strongest change of colour near a place, near counting more than strong: of the three gradients' tensor the larger
 * eigenvalue, and the direction across the edge, from dark to light.
 * Source: Di Zenzo (1986); Förstner (1994).
 */
export function seekColourEdge(
  { channels, ...patch }: Omit<ColourPatch, 'channels'> & { channels: readonly Float32Array[] },
  u: number,
  v: number,
  searchPx: number,
  sigmaPx: number,
  brightness: readonly number[] = LUMINANCE,
): (Seat & { strength: number }) | null {
  const rim = Math.ceil(3 * sigmaPx);
  const x0 = Math.max(rim, Math.floor(u - searchPx - patch.left));
  const y0 = Math.max(rim, Math.floor(v - searchPx - patch.top));
  const x1 = Math.min(patch.width - rim, Math.ceil(u + searchPx - patch.left) + 1);
  const y1 = Math.min(patch.height - rim, Math.ceil(v + searchPx - patch.top) + 1);
  if (!(x1 > x0 && y1 > y0)) return null;
  const [w, h] = [x1 - x0, y1 - y0];
  const all = channels.map((c) => gradients(c, patch.width, x0, y0, w, h, sigmaPx));
  let best: (Seat & { strength: number }) | null = null;
  let most = 0;
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const [uPx, vPx] = [patch.left + x0 + x + 0.5, patch.top + y0 + y + 0.5];
      const away = Math.hypot(uPx - u, vPx - v);
      if (away > searchPx) continue;
      let [xx, xy, yy] = [0, 0, 0];
      for (const { byX, byY } of all) {
        const [gx, gy] = [byX[y * w + x]!, byY[y * w + x]!];
        xx += gx * gx;
        xy += gx * gy;
        yy += gy * gy;
      }
      const strength = Math.sqrt((xx + yy) / 2 + Math.hypot((xx - yy) / 2, xy));
      const counted = strength * (1 - (1 - FAR_SHARE) * (away / searchPx));
      if (counted <= most) continue;
      most = counted;
      const normal = Math.atan2(2 * xy, xx - yy) / 2;
      const rise = all.reduce(
        (sum, { byX, byY }, c) =>
          sum + brightness[c]! * (byX[y * w + x]! * Math.cos(normal) + byY[y * w + x]! * Math.sin(normal)),
        0,
      );
      best = { uPx, vPx, normal: rise < 0 ? normal + Math.PI : normal, strength };
    }
  return best;
}

/** First derivatives of a channel smoothed by a Gaussian, over a window of its patch. */
function gradients(from: Float32Array, width: number, x0: number, y0: number, w: number, h: number, sigma: number) {
  const rim = Math.ceil(3 * sigma);
  const smooth = Float64Array.from({ length: 2 * rim + 1 }, (_, k) => Math.exp(-((k - rim) ** 2) / (2 * sigma ** 2)));
  const total = smooth.reduce((a, b) => a + b);
  for (let k = 0; k < smooth.length; k++) smooth[k]! /= total;
  const slope = smooth.map((v, k) => ((k - rim) / sigma ** 2) * v);
  const tall = h + 2 * rim;
  const [smoothX, slopeX] = [new Float32Array(w * tall), new Float32Array(w * tall)];
  for (let y = 0; y < tall; y++)
    for (let x = 0; x < w; x++) {
      let [a, b] = [0, 0];
      const at = (y0 - rim + y) * width + x0 - rim + x;
      for (let n = 0; n < smooth.length; n++) {
        a += smooth[n]! * from[at + n]!;
        b += slope[n]! * from[at + n]!;
      }
      smoothX[y * w + x] = a;
      slopeX[y * w + x] = b;
    }
  const [byX, byY] = [new Float32Array(w * h), new Float32Array(w * h)];
  for (let y = 0; y < h; y++)
    for (let n = 0; n < smooth.length; n++) {
      const [ws, wd] = [smooth[n]!, slope[n]!];
      const row = (y + n) * w;
      for (let x = 0; x < w; x++) {
        byX[y * w + x]! += ws * slopeX[row + x]!;
        byY[y * w + x]! += wd * smoothX[row + x]!;
      }
    }
  return { byX, byY };
}

/** How far off the edge, from and to, and how far along it the colours of the two sides are taken, px. */
const SIDE_PX = { from: 2.5, to: 5.5, along: 8 } as const;
/** Noise that is always taken to be there, linear light: two steps of 255 in the dark. */
const LEAST_NOISE = 0.003;

export interface ColourStep {
  /** Makes of the colours the light in which both sides differ most against the noise, brighter on the lighter side. */
  weights: Weights;
  /** How much of what tells the sides apart brightness alone tells, 0 to 1. */
  byBrightness: number;
  /** Both sides' mean colours, from the normal's tail to its head. */
  sides: readonly [Weights, Weights];
}

/**
 * The direction in linear colour space that tells the two sides of an edge apart best: Fisher's discriminant (1936),
 * with the scatter of both sides. It is so scaled that between two grays it is brightness.
 * Degenerate: sides that the patch does not show give null.
 */
export function directionAcross(patch: ColourPatch, { uPx, vPx, normal }: Seat): ColourStep | null {
  const [nx, ny] = [Math.cos(normal), Math.sin(normal)];
  const sides = [-1, 1].map((side) => {
    const sum = new Float64Array(3);
    const square = new Float64Array(9);
    let count = 0;
    for (let d = SIDE_PX.from; d <= SIDE_PX.to; d++)
      for (let t = -SIDE_PX.along; t <= SIDE_PX.along; t++) {
        const x = Math.floor(uPx + side * d * nx - t * ny) - patch.left;
        const y = Math.floor(vPx + side * d * ny + t * nx) - patch.top;
        if (x < 0 || y < 0 || x >= patch.width || y >= patch.height) continue;
        const c = patch.channels.map((all) => all[y * patch.width + x]!);
        for (let i = 0; i < 3; i++) {
          sum[i]! += c[i]!;
          for (let j = 0; j < 3; j++) square[3 * i + j]! += c[i]! * c[j]!;
        }
        count++;
      }
    return { mean: sum.map((v) => v / count), square, count };
  }) as [Side, Side];
  const [tail, head] = sides;
  if (Math.min(tail.count, head.count) < FEWEST_PIXELS) return null;
  const scatter = new Float64Array(9);
  for (const { mean, square, count } of sides)
    for (let i = 0; i < 3; i++)
      for (let j = 0; j < 3; j++) scatter[3 * i + j]! += (square[3 * i + j]! / count - mean[i]! * mean[j]!) / 2;
  for (let i = 0; i < 3; i++) scatter[4 * i]! += LEAST_NOISE ** 2;
  const step = head.mean.map((v, c) => v - tail.mean[c]!);
  const light = LUMINANCE.reduce((sum, w, c) => sum + w * step[c]!, 0);
  let noise = 0;
  for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) noise += LUMINANCE[i]! * LUMINANCE[j]! * scatter[3 * i + j]!;
  const weights = step.slice();
  const factor = scatter.slice();
  if (!factorCholesky(factor, 3)) return null;
  solveCholesky(factor, 3, weights);
  const told = weights.reduce((sum, w, c) => sum + w * step[c]!, 0);
  if (!(told > 0)) return null;
  const size = Math.hypot(...step) / Math.sqrt(3) / told;
  const sign = light < 0 ? -1 : 1;
  return {
    weights: [...weights].map((w) => sign * size * w) as unknown as Weights,
    byBrightness: light ** 2 / noise / told,
    sides: [[...tail.mean] as unknown as Weights, [...head.mean] as unknown as Weights],
  };
}

interface Side {
  mean: Float64Array;
  square: Float64Array;
  count: number;
}

const FEWEST_PIXELS = 12;
