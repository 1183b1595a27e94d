import { factorCholesky, solveCholesky } from '../numeric';
import type { Vec2 } from './vector';

/** One place in two pictures. */
export interface Pair {
  from: Vec2;
  to: Vec2;
}

/** How one picture lies on another. */
export interface LinedUp {
  /** 3 × 3, row by row, from the first picture to the second. */
  onto: number[];
  /** How far each pair is left apart, in the second picture's unit. */
  apart: number[];
  /** Root mean square of `apart`, by the figures left over; null where the pairs fit whatever they are. */
  rms: number | null;
}

/** What may differ between both: place, turn and size; also slant and two scales; also how the camera looked. */
export type Bend = 'similar' | 'slanted' | 'tilted';

const UNKNOWNS: Record<Bend, number> = { similar: 4, slanted: 6, tilted: 8 };

/** Pairs that a bend needs at least. */
export const LEAST_PAIRS: Record<Bend, number> = { similar: 2, slanted: 3, tilted: 4 };

/**
 * Lays a picture on another by common points, by least squares; a tilt by its linear form on normalised coordinates.
 * Degenerate: too few pairs, or pairs in one place or on one line where more is needed, give null.
 * Source: Hartley & Zisserman (2003), 4.1 and 4.4.
 */
export function lineUp(pairs: readonly Pair[], bend: Bend): LinedUp | null {
  if (pairs.length < LEAST_PAIRS[bend]) return null;
  const from = normalizer(pairs.map((p) => p.from));
  const to = normalizer(pairs.map((p) => p.to));
  if (!from || !to) return null;
  const size = UNKNOWNS[bend];
  const square = new Float64Array(size * size);
  const right = new Float64Array(size);
  const addRow = (row: readonly number[], value: number) => {
    for (let i = 0; i < size; i++) {
      right[i]! += row[i]! * value;
      for (let j = 0; j < size; j++) square[i * size + j]! += row[i]! * row[j]!;
    }
  };
  for (const pair of pairs) {
    const { x, y } = through(from, pair.from);
    const { x: u, y: v } = through(to, pair.to);
    if (bend === 'similar') {
      addRow([x, -y, 1, 0], u);
      addRow([y, x, 0, 1], v);
    } else if (bend === 'slanted') {
      addRow([x, y, 1, 0, 0, 0], u);
      addRow([0, 0, 0, x, y, 1], v);
    } else {
      addRow([x, y, 1, 0, 0, 0, -u * x, -u * y], u);
      addRow([0, 0, 0, x, y, 1, -v * x, -v * y], v);
    }
  }
  if (!factorCholesky(square, size) || isFlat(square, size)) return null;
  solveCholesky(square, size, right);
  const [a, b, c, d, e, f, g = 0, h = 0] = right;
  const inner = (bend === 'similar' ? [a, -b!, c, b, a, d, 0, 0, 1] : [a, b, c, d, e, f, g, h, 1]) as number[];
  // To normalised, through, and back out of normalised.
  const out = [1 / to.grow, 0, to.x, 0, 1 / to.grow, to.y, 0, 0, 1];
  const into = [from.grow, 0, -from.grow * from.x, 0, from.grow, -from.grow * from.y, 0, 0, 1];
  const onto = scaled(times(out, times(inner, into)));
  const apart = pairs.map((p) => {
    const at = mapThrough(onto, p.from.x, p.from.y);
    return Math.hypot(at.x - p.to.x, at.y - p.to.y);
  });
  const spare = 2 * pairs.length - size;
  const sum = apart.reduce((total, d) => total + d * d, 0);
  return { onto, apart, rms: spare > 0 ? Math.sqrt((2 * sum) / spare) : null };
}

/** Where a 3 × 3, row by row, takes a place. A place that it takes to infinity comes out as not finite. */
export function mapThrough(m: readonly number[], x: number, y: number): Vec2 {
  const w = m[6]! * x + m[7]! * y + m[8]!;
  return { x: (m[0]! * x + m[1]! * y + m[2]!) / w, y: (m[3]! * x + m[4]! * y + m[5]!) / w };
}

/** The way back; null where there is none. */
export function invertMap(m: readonly number[]): number[] | null {
  const minor = (a: number, b: number, c: number, d: number) => m[a]! * m[d]! - m[b]! * m[c]!;
  const cofactors = [
    minor(4, 5, 7, 8),
    -minor(1, 2, 7, 8),
    minor(1, 2, 4, 5),
    -minor(3, 5, 6, 8),
    minor(0, 2, 6, 8),
    -minor(0, 2, 3, 5),
    minor(3, 4, 6, 7),
    -minor(0, 1, 6, 7),
    minor(0, 1, 3, 4),
  ];
  const det = m[0]! * cofactors[0]! + m[1]! * cofactors[3]! + m[2]! * cofactors[6]!;
  return Number.isFinite(1 / det) ? scaled(cofactors.map((v) => v / det)) : null;
}

interface Normalizer {
  x: number;
  y: number;
  grow: number;
}

/** Moves places about their middle and to a mean distance of 1 from it; null when they are all in one place. */
function normalizer(places: readonly Vec2[]): Normalizer | null {
  const x = places.reduce((sum, p) => sum + p.x, 0) / places.length;
  const y = places.reduce((sum, p) => sum + p.y, 0) / places.length;
  const reach = places.reduce((sum, p) => sum + Math.hypot(p.x - x, p.y - y), 0) / places.length;
  return reach > LEAST_REACH ? { x, y, grow: 1 / reach } : null;
}

/** Places nearer together than this, in their own unit (px), are one place. */
const LEAST_REACH = 0.5;

const through = ({ x, y, grow }: Normalizer, p: Vec2): Vec2 => ({ x: (p.x - x) * grow, y: (p.y - y) * grow });

/** Pivots of the factor, squared, against the largest: below this the pairs say nothing in some direction. */
const LEAST_SPREAD = 1e-9;

function isFlat(factor: Float64Array, size: number): boolean {
  let least = Number.POSITIVE_INFINITY;
  let most = 0;
  for (let k = 0; k < size; k++) {
    const pivot = factor[k * size + k]! ** 2;
    least = Math.min(least, pivot);
    most = Math.max(most, pivot);
  }
  return least < LEAST_SPREAD * most;
}

function times(a: readonly number[], b: readonly number[]): number[] {
  const out = new Array<number>(9).fill(0);
  for (let i = 0; i < 3; i++)
    for (let j = 0; j < 3; j++) for (let k = 0; k < 3; k++) out[3 * i + j]! += a[3 * i + k]! * b[3 * k + j]!;
  return out;
}

const scaled = (m: readonly number[]): number[] => m.map((v) => v / m[8]!);
