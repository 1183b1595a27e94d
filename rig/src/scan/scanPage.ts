import { onText } from '../render/figures';
import { buildGrain, numbers } from '../render/noise';
import type { Page, Stroke } from './page';

/** A flatbed scanner: what it is, and what it says of itself. */
export interface Scanner {
  seed: number;
  widthPx: number;
  heightPx: number;
  /** In truth, across and along the sweep: not what the file will state. */
  perMmX: number;
  perMmY: number;
  /** How the page lies on the glass: turned by, rad, with its own origin at these pixels. */
  turn: number;
  origin: [number, number];
  /** σ of the optics, px, and of the noise, steps of 255. */
  blurPx: number;
  noise: number;
}

export interface Scan {
  width: number;
  height: number;
  pixels: Uint8Array;
}

/** Where a place of the page, mm, is in the scan, px. */
export function scannedAt({ perMmX, perMmY, turn, origin }: Scanner, x: number, y: number): [number, number] {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  return [origin[0] + perMmX * (c * x - s * y), origin[1] - perMmY * (s * x + c * y)];
}

/** Samples each way in a pixel that ink comes near to. */
const FINE = 4;
const BIN_MM = 2;
const PAPER = 0.82;
const INK = 0.035;

/** Scans a page: the same bytes for the same page and scanner. */
export function scanPage(page: Page, scanner: Scanner): Scan {
  const { widthPx: w, heightPx: h } = scanner;
  const light = new Float32Array(w * h);
  const bins = inkBins(page);
  const paper = buildGrain(scanner.seed, 5);
  const [c, s] = [Math.cos(scanner.turn), Math.sin(scanner.turn)];
  const onPage = (u: number, v: number): [number, number] => {
    const px = (u - scanner.origin[0]) / scanner.perMmX;
    const py = (scanner.origin[1] - v) / scanner.perMmY;
    return [c * px + s * py, c * py - s * px];
  };
  for (let v = 0; v < h; v++)
    for (let u = 0; u < w; u++) {
      const [x, y] = onPage(u + 0.5, v + 0.5);
      light[v * w + u] = lightAt(page, bins, x, y, () => {
        let ink = 0;
        for (let j = 0; j < FINE; j++)
          for (let i = 0; i < FINE; i++) {
            const [fx, fy] = onPage(u + (i + 0.5) / FINE, v + (j + 0.5) / FINE);
            if (isInk(bins.at(fx, fy), fx, fy)) ink += 1;
          }
        return ink / FINE ** 2;
      });
      light[v * w + u]! *= 1 + 0.012 * paper.at(x * 2.1, y * 2.1);
    }
  return { width: w, height: h, pixels: develop(light, scanner) };
}

function lightAt(page: Page, bins: InkBins, x: number, y: number, share: () => number): number {
  // Beyond the sheet the lid is seen, a little darker than paper.
  if (x < 0 || y < 0 || x > page.widthMm || y > page.heightMm) return 0.62;
  const near = bins.at(x, y);
  if (near.strokes.length === 0 && near.letters.length === 0) return PAPER;
  return PAPER + (INK - PAPER) * share();
}

interface Near {
  strokes: Stroke[];
  letters: Page['letters'];
}

interface InkBins {
  at(x: number, y: number): Near;
}

const NOTHING: Near = { strokes: [], letters: [] };

function inkBins({ widthMm, strokes, letters }: Page): InkBins {
  const columns = Math.ceil(widthMm / BIN_MM) + 1;
  const bins = new Map<number, Near>();
  const put = (x0: number, y0: number, x1: number, y1: number, what: (bin: Near) => void) => {
    for (let j = Math.floor(y0 / BIN_MM); j <= Math.floor(y1 / BIN_MM); j++)
      for (let i = Math.floor(x0 / BIN_MM); i <= Math.floor(x1 / BIN_MM); i++) {
        const key = j * columns + i;
        const bin = bins.get(key) ?? { strokes: [], letters: [] };
        bins.set(key, bin);
        what(bin);
      }
  };
  for (const stroke of strokes) {
    const [x0, x1] = [Math.min(stroke.from[0], stroke.to[0]), Math.max(stroke.from[0], stroke.to[0])];
    const [y0, y1] = [Math.min(stroke.from[1], stroke.to[1]), Math.max(stroke.from[1], stroke.to[1])];
    put(x0 - 1, y0 - 1, x1 + 1, y1 + 1, (bin) => bin.strokes.push(stroke));
  }
  for (const one of letters) {
    const reach = one.heightMm * (0.5 + 0.4 * one.text.length);
    put(one.at[0] - reach, one.at[1] - reach, one.at[0] + reach, one.at[1] + reach, (bin) => bin.letters.push(one));
  }
  return { at: (x, y) => bins.get(Math.floor(y / BIN_MM) * columns + Math.floor(x / BIN_MM)) ?? NOTHING };
}

function isInk({ strokes, letters }: Near, x: number, y: number): boolean {
  for (const { from, to, widthMm, dash } of strokes) {
    const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
    const length = Math.hypot(dx, dy);
    const t = Math.min(1, Math.max(0, ((x - from[0]) * dx + (y - from[1]) * dy) / (length * length)));
    if ((x - from[0] - t * dx) ** 2 + (y - from[1] - t * dy) ** 2 > (widthMm / 2) ** 2) continue;
    if (!dash || (t * length) % (dash[0] + dash[1]) < dash[0]) return true;
  }
  return letters.some(({ text, at, heightMm, turn }) => {
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    const [lx, ly] = [x - at[0], y - at[1]];
    return onText(text, heightMm, c * lx + s * ly, c * ly - s * lx);
  });
}

function develop(light: Float32Array, { widthPx: w, heightPx: h, blurPx, noise, seed }: Scanner): Uint8Array {
  blur(light, w, h, blurPx);
  const next = numbers(seed * 7919 + 5);
  const pixels = new Uint8Array(w * h * 3);
  for (let k = 0; k < w * h; k++) {
    const l = Math.min(1, light[k]!);
    const tone = 255 * (l <= 0.0031308 ? 12.92 * l : 1.055 * l ** (1 / 2.4) - 0.055);
    // The sum of four even draws is near enough to a normal one.
    const grain = noise * Math.sqrt(3) * (next() + next() + next() + next() - 2);
    for (let c = 0; c < 3; c++) pixels[3 * k + c] = Math.min(255, Math.max(0, Math.round(tone + grain - 1.5 * c)));
  }
  return pixels;
}

function blur(values: Float32Array, w: number, h: number, sigma: number): void {
  const reach = Math.ceil(3 * sigma);
  const kernel = Array.from({ length: 2 * reach + 1 }, (_, k) => Math.exp(-((k - reach) ** 2) / (2 * sigma * sigma)));
  const sum = kernel.reduce((a, b) => a + b, 0);
  const pass = (stride: number, count: number, lines: number, step: number) => {
    const line = new Float32Array(count);
    for (let n = 0; n < lines; n++) {
      for (let k = 0; k < count; k++) line[k] = values[n * step + k * stride]!;
      for (let k = 0; k < count; k++) {
        let total = 0;
        for (let j = -reach; j <= reach; j++)
          total += kernel[j + reach]! * line[Math.min(count - 1, Math.max(0, k + j))]!;
        values[n * step + k * stride] = total / sum;
      }
    }
  };
  pass(1, w, h, w);
  pass(w, h, w, 1);
}
