import type { Graduations } from '../calibration';
import type { Vec2 } from '../geometry';
import { factorCholesky, medianOf, solveCholesky } from '../numeric';
import type { Pixels } from '../raster';
import type { TextImage } from './text';

/** How a ruler lies in the picture: where its strokes stand, by their number. */
export interface RulerLie {
  /** The place so many periods into the ruler from the foot of a stroke, px; numbers between strokes count too. */
  at(n: number, down: number): Vec2;
  first: number;
  last: number;
  /** How long its longest strokes are, periods. */
  longest: number;
  /** How long a stroke is, periods; 0 for one that is not seen. */
  lengthAt(n: number): number;
  /** How far it is from stroke to stroke in the middle, px. */
  periodPx: number;
}

/** Lengths of strokes are told by where their quarters lie: a half more at each end. */
const ENDS = 0.5;
const LONG_SHARE = 0.975;
const FEWEST = 8;

/** How a ruler lies, by its strokes; null for too few of them. Strokes run from their foot to their tip. */
export function lieOf({ graduations, edge }: Omit<Graduations, 'spacingMm'>): RulerLie | null {
  const strokes = graduations.filter((g) => g.places.length === 2);
  if (strokes.length < FEWEST) return null;
  const ends = strokes.map(({ n, places: [p, q] }) => {
    const [dx, dy] = [q!.uPx - p!.uPx, q!.vPx - p!.vPx];
    const [a, b] = [
      { x: p!.uPx - ENDS * dx, y: p!.vPx - ENDS * dy },
      { x: q!.uPx + ENDS * dx, y: q!.vPx + ENDS * dy },
    ];
    return { n, a, b };
  });
  const rim = middleOf(edge.map((p) => ({ x: p.uPx, y: p.vPx })));
  const middles = [middleOf(ends.map((e) => e.a)), middleOf(ends.map((e) => e.b))] as const;
  const isFootFirst = rim
    ? apart(rim, middles[0]!) <= apart(rim, middles[1]!)
    : unevenness(ends.map((e) => e.a)) <= unevenness(ends.map((e) => e.b));
  const feet = ends.map((e) => (isFootFirst ? e.a : e.b));
  const tips = ends.map((e) => (isFootFirst ? e.b : e.a));
  const numbers = ends.map((e) => e.n);
  const [first, last] = [numbers[0]!, numbers[numbers.length - 1]!];
  const foot = smoothly(numbers, feet);
  const way = smoothly(
    numbers,
    feet.map((f, k) => unit({ x: tips[k]!.x - f.x, y: tips[k]!.y - f.y })),
  );
  const periodAt = (n: number): number => apart(foot(n + 0.5), foot(n - 0.5));
  const own = new Map(feet.map((f, k) => [numbers[k]!, apart(f, tips[k]!) / periodAt(numbers[k]!)]));
  const lengths = [...own.values()].sort((p, q) => p - q);
  return {
    first,
    last,
    longest: lengths[Math.floor(LONG_SHARE * (lengths.length - 1))]!,
    lengthAt: (n) => own.get(n) ?? 0,
    periodPx: periodAt((first + last) / 2),
    at(n, down) {
      const [f, w] = [foot(n), unit(way(n))];
      const d = down * periodAt(n);
      return { x: f.x + d * w.x, y: f.y + d * w.y };
    },
  };
}

/** Figures are read best when they are so tall; they are about so tall against the longest strokes. */
const FIGURE_PX = 34;
const FIGURE_SHARE = 0.62;
/** Finer than the picture nothing is gained beyond this. */
const MOST_ENLARGED = 3;
const MOST_SIDE_PX = 6000;
/** Beyond the ends of the row, periods: the first and the last figure stand half outside it. */
const MARGIN = 6;

/** Half the width of a stroke with its blur, against the period, and of those far apart no more than this, px. */
const STROKE = { share: 0.28, most: 3.5 } as const;
/** How far a stroke may go on beyond where it was seen to end, against the longest. */
const TIP = 0.08;

/** Part of a ruler laid straight: numbers of strokes run along x, from `first` on. */
export interface FigureBand extends TextImage {
  /** The number of the stroke over a place of it, and how far into the ruler it lies, periods. */
  nAt(x: number): number;
  downAt(y: number): number;
}

/**
 * The part of a ruler between two depths laid straight, as it would be read with its strokes above it (`top`) or below.
 * In: the picture and the ruler's lie, depths in periods, and whether what lies beyond its ends is kept. Out: dark on light whatever the ruler is made of.
 */
export function figureBand(
  pixels: Pixels,
  lie: RulerLie,
  from: number,
  to: number,
  side: 'top' | 'below',
  withTable: boolean,
): FigureBand {
  const wanted = FIGURE_PX / (FIGURE_SHARE * lie.longest);
  const span = lie.last - lie.first + 2 * MARGIN;
  const scale = Math.min(wanted, MOST_ENLARGED * lie.periodPx, MOST_SIDE_PX / span);
  const [width, height] = [Math.ceil(span * scale), Math.ceil(Math.abs(to - from) * scale)];
  const middle = (lie.first + lie.last) / 2;
  const [o, right, inner] = [lie.at(middle, 0), lie.at(middle + 1, 0), lie.at(middle, 1)];
  // Numbers run to the right where the ruler is seen with its strokes above; a picture is never a mirror image.
  const isForward = (right.x - o.x) * (inner.y - o.y) - (right.y - o.y) * (inner.x - o.x) > 0;
  const forward = isForward === (side === 'top');
  const nAt = (x: number): number => (forward ? lie.first - MARGIN + x / scale : lie.last + MARGIN - x / scale);
  const downAt = (y: number): number => (side === 'top' ? from + y / scale : to - y / scale);
  const light = new Float32Array(width * height);
  const half = Math.min(STROKE.share, STROKE.most / lie.periodPx);
  const step = Math.max(1, lie.periodPx / scale);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [n, down] = [nAt(x + 0.5), downAt(y + 0.5)];
      // A stroke beside a figure would be read as a one: what lies half a period beside it stands in its place.
      const stroke = Math.round(n);
      const isStroke = Math.abs(n - stroke) < half && down < lie.lengthAt(stroke) + TIP * lie.longest;
      const p = lie.at(isStroke ? stroke + (n < stroke ? -0.5 : 0.5) : n, down);
      light[y * width + x] = lightAt(pixels, p.x, p.y, step);
    }
  if (!withTable) coverTable(light, width, height, Math.round(MARGIN * scale));
  return { width, height, light: evened(light, width, height), nAt, downAt };
}

/** A column unlike the ruler's own ground by this share of it lies on the table, or on the ruler's rim. */
const UNLIKE = 0.2;
/** The rim is blurred over so many columns. */
const RIM = 3;

/**
 * Puts the ruler's own ground in place of what lies beyond its ends, where they lie within the margin: a dark table beside
 * it would count as the ink, and make the figures faint.
 */
function coverTable(light: Float32Array, width: number, height: number, margin: number): void {
  const columns = Array.from({ length: width }, (_, x) => {
    const column = Array.from({ length: height }, (_, y) => light[y * width + x]!).sort((a, b) => a - b);
    return column[height >> 1]!;
  });
  for (const atStart of [true, false]) {
    const at = (k: number): number => (atStart ? k : width - 1 - k);
    const inside = Array.from({ length: Math.min(2 * margin, width - margin) }, (_, k) => columns[at(margin + k)]!);
    const ground = medianOf(inside, 0);
    let covered = 0;
    for (let k = 0; k < margin; k++)
      if (Math.abs(columns[at(k)]! - ground) > UNLIKE * ground) covered = Math.min(width, k + 1 + RIM);
    for (let k = 0; k < covered; k++) for (let y = 0; y < height; y++) light[y * width + at(k)] = ground;
  }
}

/** Brightness at a place, averaged over as much as one pixel of the band covers; beyond the picture the nearest. */
function lightAt({ width, height, data }: Pixels, x: number, y: number, step: number): number {
  const fine = step > 1.5 ? 2 : 1;
  let sum = 0;
  for (let j = 0; j < fine; j++)
    for (let i = 0; i < fine; i++) {
      const u = x - 0.5 + (fine === 1 ? 0 : (i - 0.5) * 0.5 * step);
      const v = y - 0.5 + (fine === 1 ? 0 : (j - 0.5) * 0.5 * step);
      const [u0, v0] = [Math.floor(u), Math.floor(v)];
      const [a, b] = [u - u0, v - v0];
      for (const [du, dv, share] of [
        [0, 0, (1 - a) * (1 - b)],
        [1, 0, a * (1 - b)],
        [0, 1, (1 - a) * b],
        [1, 1, a * b],
      ] as const) {
        const k = 4 * (clamp(v0 + dv, height) * width + clamp(u0 + du, width));
        sum += share * (0.3 * data[k]! + 0.6 * data[k + 1]! + 0.1 * data[k + 2]!);
      }
    }
  return sum / (fine * fine);
}

const clamp = (v: number, size: number): number => Math.max(0, Math.min(size - 1, v));

/** Share of all pixels that lie within the ground: of a ruler with few figures they are a two-hundredth. */
const INK_QUANTILES = [0.002, 0.998] as const;

/** Freed of light that falls off, and dark on light: the ground is what most of it is. */
function evened(light: Float32Array, width: number, height: number): Uint8Array<ArrayBuffer> {
  const ground = blurred(light, width, height, Math.max(8, Math.round(height / 3)));
  const rest = light.map((v, k) => v - ground[k]!);
  const sorted = Float32Array.from(rest).sort();
  const [low, high] = INK_QUANTILES.map((q) => sorted[Math.floor(q * (sorted.length - 1))]!) as [number, number];
  const mid = sorted[sorted.length >> 1]!;
  // Ink is what lies far from the ground, however little of it there is: cubes tell on which side.
  const isDark = rest.reduce((sum, v) => sum + (v - mid) ** 3, 0) <= 0;
  const reach = Math.max(4, isDark ? mid - low : high - mid);
  const out = new Uint8Array(light.length);
  for (let k = 0; k < out.length; k++) {
    const depth = (isDark ? mid - rest[k]! : rest[k]! - mid) / reach;
    out[k] = Math.round(255 * (1 - Math.max(0, Math.min(1, depth))));
  }
  return out;
}

/** The mean over a square round each pixel, by sums along rows and columns. */
function blurred(values: Float32Array, width: number, height: number, reach: number): Float32Array {
  const once = (from: Float32Array, count: number, lines: number, stride: number, next: number): Float32Array => {
    const to = new Float32Array(from.length);
    for (let l = 0; l < lines; l++) {
      let sum = 0;
      let n = 0;
      for (let k = -reach; k < count; k++) {
        if (k + reach < count) {
          sum += from[l * next + (k + reach) * stride]!;
          n += 1;
        }
        if (k - reach - 1 >= 0) {
          sum -= from[l * next + (k - reach - 1) * stride]!;
          n -= 1;
        }
        if (k >= 0) to[l * next + k * stride] = sum / n;
      }
    }
    return to;
  };
  return once(once(values, width, height, 1, width), height, width, width, 1);
}

function middleOf(points: readonly Vec2[]): Vec2 | null {
  if (points.length === 0) return null;
  const sum = points.reduce((s, p) => ({ x: s.x + p.x, y: s.y + p.y }), { x: 0, y: 0 });
  return { x: sum.x / points.length, y: sum.y / points.length };
}

const apart = (a: Vec2, b: Vec2 | null): number => (b ? Math.hypot(b.x - a.x, b.y - a.y) : 0);

const unit = ({ x, y }: Vec2): Vec2 => {
  const length = Math.hypot(x, y) || 1;
  return { x: x / length, y: y / length };
};

/** How far places lie off the even way from the one before to the one after, px. */
function unevenness(points: readonly Vec2[]): number {
  let sum = 0;
  for (let k = 1; k + 1 < points.length; k++)
    sum += Math.hypot(
      points[k]!.x - (points[k - 1]!.x + points[k + 1]!.x) / 2,
      points[k]!.y - (points[k - 1]!.y + points[k + 1]!.y) / 2,
    );
  return sum;
}

/** A cubic in the number through places, by least squares: a ruler seen askew and bent by the lens. */
function smoothly(numbers: readonly number[], values: readonly Vec2[]): (n: number) => Vec2 {
  const [from, to] = [numbers[0]!, numbers[numbers.length - 1]!];
  const t = (n: number) => (2 * (n - from)) / (to - from) - 1;
  const terms = (n: number) => [1, t(n), t(n) ** 2, t(n) ** 3];
  const size = 4;
  const normal = new Float64Array(size * size);
  const [byX, byY] = [new Float64Array(size), new Float64Array(size)];
  numbers.forEach((n, k) => {
    const f = terms(n);
    for (let i = 0; i < size; i++) {
      for (let j = 0; j < size; j++) normal[i * size + j]! += f[i]! * f[j]!;
      byX[i]! += f[i]! * values[k]!.x;
      byY[i]! += f[i]! * values[k]!.y;
    }
  });
  // Fewer places than a cubic needs never come here; those in one place would leave it open.
  for (let i = 0; i < size; i++) normal[i * (size + 1)]! += 1e-9;
  factorCholesky(normal, size);
  solveCholesky(normal, size, byX);
  solveCholesky(normal, size, byY);
  const weights = terms(from).map((_, i) => ({ x: byX[i]!, y: byY[i]! }));
  return (n) => {
    const f = terms(n);
    return weights.reduce((s, w, i) => ({ x: s.x + w.x * f[i]!, y: s.y + w.y * f[i]! }), { x: 0, y: 0 });
  };
}
