import Flatbush from 'flatbush';
import { buildPyramid, type Patch, type Pixels, secondDerivatives } from '../../../raster';

/** A place where four squares of a checkerboard seem to meet, px of the whole picture. */
export interface CornerSeen {
  x: number;
  y: number;
  /** Ways of both edges through it, rad, less than half a turn; the first has the lighter square on its left. */
  along: [number, number];
  /** How far light and dark lie apart, 0 to 1. */
  contrast: number;
  /** Of the copy that it was seen in: how many px of the picture one of its pixels is. */
  scale: number;
}

const CORNERS = {
  /** Larger pictures are looked at in a smaller copy, px. */
  mostPx: 3.2e6,
  /** Copies looked at, each half the one before: squares from 6 px of the first one on. */
  copies: 3,
  /** Smoothing before derivatives, and the ring on which light must change four times, px of the copy. */
  sigmaPx: 1.4,
  ringPx: 3.6,
  /** Less than this light and dark do not lie apart, 0 to 1. */
  leastContrast: 0.06,
  /** So many are looked at closely in a copy. */
  most: 5000,
} as const;

/** Samples round a ring. */
const ROUND = 32;
const RING = Array.from({ length: ROUND }, (_, k) => {
  const a = (2 * Math.PI * k) / ROUND;
  return [Math.cos(a), Math.sin(a)] as const;
});

/**
 * Places of a picture where the light is a saddle and changes four times round about, twice each way, as where four squares
 * of a checkerboard meet. In several sizes, so that squares may be small or blurred; each place once.
 *
 * Source: saddles by the determinant of second derivatives as in Chen & Zhang, A new sub-pixel detector for X-corners
 * (2005); the ring after Bennett & Lasenby, ChESS (2014).
 */
export function cornersIn(pixels: Pixels): CornerSeen[] {
  const levels = buildPyramid(pixels);
  let first = 0;
  while (first + 1 < levels.length && levels[first]!.width * levels[first]!.height > CORNERS.mostPx) first += 1;
  let found: CornerSeen[] = [];
  for (let n = first; n < Math.min(levels.length, first + CORNERS.copies); n++)
    found = [...found, ...withoutThose(cornersOfCopy(grayOf(levels[n]!), 2 ** n), found)];
  return found;
}

/** Corners less those that were seen before in a finer copy, which knows better where they are. */
function withoutThose(corners: readonly CornerSeen[], finer: readonly CornerSeen[]): readonly CornerSeen[] {
  if (finer.length === 0) return corners;
  const index = new Flatbush(finer.length);
  for (const { x, y } of finer) index.add(x, y, x, y);
  index.finish();
  return corners.filter(({ x, y, scale }) => index.neighbors(x, y, 1, 2.5 * scale).length === 0);
}

/** Light of a picture as the eye sees it, 0 to 1. */
export function grayOf({ width, height, data }: Pixels): Patch {
  const light = new Float32Array(width * height);
  for (let k = 0, at = 0; k < light.length; k++, at += 4)
    light[k] = (data[at]! + 2 * data[at + 1]! + data[at + 2]!) / 1020;
  return { width, height, light } as Patch;
}

function cornersOfCopy(gray: Patch, scale: number): CornerSeen[] {
  const { width, height } = gray;
  const { byXX, byXY, byYY, rim } = secondDerivatives(gray, CORNERS.sigmaPx);
  const saddle = new Float32Array(width * height);
  for (let y = rim; y < height - rim; y++)
    for (let k = y * width + rim; k < y * width + width - rim; k++)
      saddle[k] = byXY[k]! * byXY[k]! - byXX[k]! * byYY[k]!;
  const edge = Math.max(rim, Math.ceil(CORNERS.ringPx) + 1);
  const peaks: { k: number; s: number }[] = [];
  const least = (CORNERS.leastContrast * 0.1) ** 2;
  for (let y = edge; y < height - edge; y++)
    for (let x = edge; x < width - edge; x++) {
      const k = y * width + x;
      const s = saddle[k]!;
      if (s > least && isPeak(saddle, k, width, s)) peaks.push({ k, s });
    }
  peaks.sort((a, b) => b.s - a.s);
  return peaks.slice(0, CORNERS.most).flatMap(({ k }) => {
    const [x, y] = [k % width, Math.floor(k / width)];
    const ring = ringAt(gray, x, y);
    return ring ? [{ x: (x + 0.5) * scale, y: (y + 0.5) * scale, ...ring, scale }] : [];
  });
}

function isPeak(values: Float32Array, k: number, width: number, s: number): boolean {
  for (let dy = -2; dy <= 2; dy++)
    for (let dx = -2; dx <= 2; dx++) {
      const other = values[k + dy * width + dx]!;
      if (other > s || (other === s && (dy < 0 || (dy === 0 && dx < 0)))) return false;
    }
  return true;
}

/** Both edges through a place, where the light round about changes four times as it does at a corner; else null. */
function ringAt(gray: Patch, x: number, y: number): Pick<CornerSeen, 'along' | 'contrast'> | null {
  const values = RING.map(([c, s]) => bilinear(gray, x + CORNERS.ringPx * c, y + CORNERS.ringPx * s));
  const sorted = [...values].sort((a, b) => a - b);
  // The darkest and the lightest quarter: what covers a little of it does not count.
  const [dark, light] = [sorted[ROUND >> 3]!, sorted[ROUND - 1 - (ROUND >> 3)]!];
  const contrast = light - dark;
  if (contrast < CORNERS.leastContrast) return null;
  const middle = (dark + light) / 2;
  const turns: { at: number; rises: boolean }[] = [];
  for (let k = 0; k < ROUND; k++) {
    const [a, b] = [values[k]! - middle, values[(k + 1) % ROUND]! - middle];
    if (a < 0 !== b < 0) turns.push({ at: k + a / (a - b), rises: b > a });
  }
  if (turns.length !== 4) return null;
  const angle = (t: { at: number }) => (2 * Math.PI * t.at) / ROUND;
  // An edge goes straight through: it is met twice, half a turn apart.
  for (const [a, b] of [
    [0, 2],
    [1, 3],
  ] as const) {
    const bent = Math.abs(Math.abs(turns[b]!.at - turns[a]!.at) - ROUND / 2);
    if (bent > ROUND / 10) return null;
  }
  const widths = turns.map((t, k) => (((turns[(k + 1) % 4]!.at - t.at) % ROUND) + ROUND) % ROUND);
  if (widths.some((w) => w < ROUND / 14)) return null;
  const through = (k: number) => {
    const [p, q] = [angle(turns[k]!), angle(turns[k + 2]!)];
    const mean = (p + q - Math.PI) / 2;
    return ((mean % Math.PI) + Math.PI) % Math.PI;
  };
  const own = turns[0]!.rises ? ([through(0), through(1)] as const) : ([through(1), through(0)] as const);
  return { along: [own[0], own[1]], contrast };
}

export function bilinear({ width, light }: Patch, x: number, y: number): number {
  const [i, j] = [Math.floor(x), Math.floor(y)];
  const [a, b] = [x - i, y - j];
  const k = j * width + i;
  return (
    (1 - b) * ((1 - a) * light[k]! + a * light[k + 1]!) + b * ((1 - a) * light[k + width]! + a * light[k + width + 1]!)
  );
}
