import type { Pixels } from '../raster';
import type { TextImage } from './text';

/** A page with its lines level and plumb, and where each of its places is in the picture. */
export interface StraightPage extends TextImage {
  /** px of the picture for px of the page. */
  toPicture(x: number, y: number): { x: number; y: number };
  /** How large a pixel of the picture is on the page. */
  scale: number;
}

/** Pages are read at so many pixels at most: letters of 3.5 mm are then 30 px tall on A3. */
const MOST_PIXELS = 14e6;
/** Pixels of the rims of lines: so strong, and so clearly across one way. */
const STRONG = 60;
const ACROSS = 0.42;
const EVERY = 2;
const MOST_POINTS = 40_000;
/** Turns tried, rad: steps that grow finer about the best so far. */
const STEPS = [0.02, 0.004, 0.0008, 0.0002] as const;
const WIDEST = 0.4;
const BIN_PX = 2;

/**
 * How far the lines of a page are turned against the picture's rows and columns, rad, within 23 degrees: the turn at
 * which the rims of its lines fall onto the fewest rows and columns.
 */
export function turnOfLines({ width, height, data }: Pixels): number {
  const at = (x: number, y: number): number => data[4 * (y * width + x) + 1]!;
  const points: number[] = [];
  for (let y = 2; y < height - 2; y += EVERY)
    for (let x = 2; x < width - 2; x += EVERY) {
      const gx = at(x + 1, y) - at(x - 1, y);
      const gy = at(x, y + 1) - at(x, y - 1);
      if (Math.abs(gx) + Math.abs(gy) < STRONG) continue;
      if (Math.abs(gx) < ACROSS * Math.abs(gy)) points.push(x, y);
      else if (Math.abs(gy) < ACROSS * Math.abs(gx)) points.push(y, -x);
    }
  const every = Math.max(1, Math.ceil(points.length / 2 / MOST_POINTS));
  const size = Math.ceil((2 * (width + height)) / BIN_PX);
  const bins = new Uint16Array(size);
  /** How much of the rims falls together, seen along a turn. */
  const score = (turn: number): number => {
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    bins.fill(0);
    for (let k = 0; k < points.length; k += 2 * every)
      bins[Math.floor((c * points[k + 1]! - s * points[k]! + width + height) / BIN_PX)]! += 1;
    let sum = 0;
    for (const n of bins) sum += n * n;
    return sum;
  };
  let best = 0;
  STEPS.forEach((step, k) => {
    const reach = k === 0 ? WIDEST : 1.5 * STEPS[k - 1]!;
    let most = -1;
    const middle = best;
    for (let turn = middle - reach; turn <= middle + reach; turn += step) {
      const own = score(turn);
      if (own > most) [most, best] = [own, turn];
    }
  });
  return best;
}

/** The page turned so that its lines run along rows and columns, in brightness, and no larger than reading needs. */
export function straightPage(pixels: Pixels): StraightPage {
  const turn = turnOfLines(pixels);
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const scale = Math.min(1, Math.sqrt(MOST_PIXELS / (pixels.width * pixels.height)));
  const width = Math.ceil(scale * (Math.abs(c) * pixels.width + Math.abs(s) * pixels.height));
  const height = Math.ceil(scale * (Math.abs(s) * pixels.width + Math.abs(c) * pixels.height));
  const toPicture = (x: number, y: number) => {
    const [dx, dy] = [(x - width / 2) / scale, (y - height / 2) / scale];
    return { x: pixels.width / 2 + c * dx - s * dy, y: pixels.height / 2 + s * dx + c * dy };
  };
  const gray = grayOf(pixels);
  const light = new Uint8Array(width * height).fill(255);
  const [ux, uy] = [c / scale, s / scale];
  for (let y = 0; y < height; y++) {
    const start = toPicture(0.5, y + 0.5);
    let u = start.x - 0.5;
    let v = start.y - 0.5;
    for (let x = 0; x < width; x++, u += ux, v += uy) {
      const u0 = Math.floor(u);
      const v0 = Math.floor(v);
      if (u0 < 0 || v0 < 0 || u0 + 1 >= pixels.width || v0 + 1 >= pixels.height) continue;
      const k = v0 * pixels.width + u0;
      const a = u - u0;
      const upper = gray[k]! + a * (gray[k + 1]! - gray[k]!);
      const lower = gray[k + pixels.width]! + a * (gray[k + pixels.width + 1]! - gray[k + pixels.width]!);
      light[y * width + x] = upper + (v - v0) * (lower - upper);
    }
  }
  return { width, height, light, toPicture, scale };
}

/** Ink of any colour is dark in one of the three at least. */
function grayOf({ width, height, data }: Pixels): Uint8Array {
  const gray = new Uint8Array(width * height);
  for (let k = 0; k < gray.length; k++) gray[k] = Math.min(data[4 * k]!, data[4 * k + 1]!, data[4 * k + 2]!);
  return gray;
}
