import type { PicturePoint } from '../../calibration';
import type { Vec2 } from '../../geometry';
import type { Pixels } from '../../raster';
import { type Edge, edgeAlong, lengthOf, placeOf, scaleOf } from '../shared/edgeAlong';
import { greenAt } from '../shared/greenAt';
import type { PictureLines } from '../shared/strongLines';
import { findComb } from './comb';
import { type FollowedStroke, strokeAt } from './followRow';
import { strokeLengths } from './strokeLengths';

/** A row of strokes that stands on a straight edge. */
export interface EdgeRow {
  strokes: FollowedStroke[];
  dark: boolean;
}

/** An edge is sought so far from the line of the small copy, in its pixels and in the picture's. */
const REACH = { small: 1.5, px: 6 } as const;
/** Samples of a profile lie so far apart, px, in a picture of two megapixels; in a larger one up to twice as far. */
const STEP_PX = 0.5;
/** Strokes are looked at from so near to the edge to so far in: px at first, then as shares of the period. */
const FIRST_DEPTH_PX = { from: 3, to: 15 } as const;
const DEPTH = { from: 0.4, to: 2 } as const;
const PERIOD_PX = { least: 4, most: 90 } as const;
const FEWEST = 40;
/** A line on which edges are seen on less than so much at once is no edge of a ruler, small pixels. */
const LEAST_RUN = 24;
/** Rows that click and edge are of: the edge lies within so much of the click, px. */
const NEAR_CLICK_PX = 320;

/**
 * Rows of strokes along the straight edges of a picture, the one with the most strokes first: averaged along the
 * strokes, and over all strokes about each, even those show that drown in the noise one by one.
 *
 * In: the picture and its lines, a place that the edges must come near to, and where none is looked for. Out: rows of
 * strokes numbered from one end.
 */
export function strokesBeside(
  pixels: Pixels,
  { small, lines }: PictureLines,
  near: PicturePoint | null,
  isOff: (at: Vec2) => boolean = () => false,
): EdgeRow[] {
  const rows: EdgeRow[] = [];
  for (const { nx, ny, off, run } of lines) {
    if (run < LEAST_RUN) continue;
    const away = near ? (near.uPx / small.step) * nx + (near.vPx / small.step) * ny - off : 0;
    if (Math.abs(away) * small.step > NEAR_CLICK_PX) continue;
    const on = { x: small.step * nx * off, y: small.step * ny * off };
    const edge = edgeAlong(pixels, on, { x: nx, y: ny }, Math.max(REACH.px, REACH.small * small.step));
    if (!edge || isOff(placeOf(edge, lengthOf(edge) / 2, 0))) continue;
    for (const side of [1, -1] as const) {
      const row = rowBeside(pixels, edge, side);
      if (row) rows.push(row);
    }
  }
  // The tips of the short strokes are a line as well, on which the rest of the long ones stands, and all as long seen from
  // the other side.
  const merit = ({ strokes }: EdgeRow) => strokes.length * (1 + Math.min(UNEVEN, spreadOf(strokes)));
  rows.sort((p, q) => merit(q) - merit(p));
  // Two lines may lead to the same edge, or to a part of it.
  return rows.filter((row, k) => rows.slice(0, k).every((longer) => !isPartOf(row, longer)));
}

/** By how many periods lengths of strokes differ, but for the few longest and shortest. */
function spreadOf(strokes: readonly FollowedStroke[]): number {
  const lengths = strokes.map((s) => s.length).sort((a, b) => a - b);
  return lengths[Math.floor(0.9 * lengths.length)]! - lengths[Math.floor(0.1 * lengths.length)]!;
}

/** Strokes that differ by so many periods speak for a row as much as that share more of them. */
const UNEVEN = 0.2;

function isPartOf({ strokes }: EdgeRow, longer: EdgeRow): boolean {
  const [a, b] = [longer.strokes[0]!.at, longer.strokes.at(-1)!.at];
  const length = Math.hypot(b.x - a.x, b.y - a.y);
  const middle = strokes[strokes.length >> 1]!.at;
  const along = ((middle.x - a.x) * (b.x - a.x) + (middle.y - a.y) * (b.y - a.y)) / length;
  const aside = ((middle.x - a.x) * (b.y - a.y) - (middle.y - a.y) * (b.x - a.x)) / length;
  return along > 0 && along < length && Math.abs(aside) < (SAME_ROW * length) / (longer.strokes.length - 1);
}

/** The middle of a row lies nearer than this to a longer one of the same strokes, periods. */
const SAME_ROW = 6;

/** The row of strokes on one side of an edge. */
function rowBeside(pixels: Pixels, edge: Edge, side: 1 | -1): EdgeRow | null {
  const scale = scaleOf(pixels);
  const step = STEP_PX * Math.min(2, scale);
  const samples = Math.floor(lengthOf(edge) / step);
  const profileOf = (from: number, to: number, lean: Lean): Float64Array => {
    const raw = new Float64Array(samples);
    let rows = 0;
    for (let d = from; d <= to; d += scale, rows++)
      for (let k = 0; k < samples; k++) {
        const { x, y } = placeOf(edge, k * step + leanAt(lean, k * step) * d, side * d);
        raw[k]! += greenAt(pixels, x, y);
      }
    return raw.map((v) => v / rows);
  };
  const seek = (from: number, to: number, lean: Lean, least: number, most: number) =>
    findComb(profileOf(from, to, lean), least / step, most / step);
  const first = seek(FIRST_DEPTH_PX.from, scale * FIRST_DEPTH_PX.to, UPRIGHT, PERIOD_PX.least, PERIOD_PX.most);
  if (!first || first.marks.length < FEWEST) return null;
  const period = first.period * step;
  const [from, to] = [Math.max(2, DEPTH.from * period), Math.max(FIRST_DEPTH_PX.to, DEPTH.to * period)];
  const again = (a: number, b: number, lean: Lean) => seek(a, b, lean, 0.8 * period, 1.3 * period);
  const px = (mark: number) => mark * step;
  // The strokes need not stand square on the edge: near it and far in they are compared.
  const half = (from + to) / 2;
  const [near, far] = [again(from, half, UPRIGHT), again(half, to, UPRIGHT)];
  const lean = near && far ? leanBetween(near.marks.map(px), far.marks.map(px), (to - from) / 2) : UPRIGHT;
  const comb = again(from, to, lean);
  if (!comb || comb.marks.length < FEWEST) return null;
  const places = comb.marks.map((k, n) => {
    const [foot, far] = [placeOf(edge, k * step, 0), placeOf(edge, k * step + leanAt(lean, k * step) * to, side * to)];
    const size = Math.hypot(far.x - foot.x, far.y - foot.y);
    return { foot, own: comb.strides[n]! * step, down: { x: (far.x - foot.x) / size, y: (far.y - foot.y) / size } };
  });
  const reached = strokeLengths(pixels, places, period, comb.dark, to);
  if (!reached) return null;
  const { start, lengths } = reached;
  const strokes = places.map(({ foot, down, own }, n): FollowedStroke => {
    const at = { x: foot.x + half * down.x, y: foot.y + half * down.y };
    const stroke = strokeAt(pixels, at, down, own, comb.dark, n);
    const length = lengths[n]!;
    if (length === 0) return { ...stroke, length };
    const [from, to] = [start, length].map((d) => ({ x: foot.x + d * down.x, y: foot.y + d * down.y }));
    return { ...stroke, length: (length - start) / own, tips: [from!, to!] };
  });
  return { strokes, dark: comb.dark };
}

/** How much further along strokes stand for each pixel further in, at a place along the edge, px. */
interface Lean {
  own: number;
  /** And by how much that changes for each pixel along: a camera that looks askew fans them out. */
  growth: number;
}

const UPRIGHT: Lean = { own: 0, growth: 0 };
const leanAt = ({ own, growth }: Lean, t: number): number => own + growth * t;

/** The line through how far apart the same strokes stand near the edge and further in, px; those far off it left out. */
function leanBetween(near: readonly number[], far: readonly number[], apart: number): Lean {
  let own = near.flatMap((at) => {
    const other = far.reduce((p, q) => (Math.abs(q - at) < Math.abs(p - at) ? q : p));
    return [{ t: at, lean: (other - at) / apart }];
  });
  let line = UPRIGHT;
  for (let round = 0; round < 3 && own.length > 2; round++) {
    const n = own.length;
    const [t, v] = [own.reduce((s, p) => s + p.t, 0) / n, own.reduce((s, p) => s + p.lean, 0) / n];
    const square = own.reduce((s, p) => s + (p.t - t) ** 2, 0);
    const growth = own.reduce((s, p) => s + (p.t - t) * (p.lean - v), 0) / Math.max(1, square);
    line = { own: v - growth * t, growth };
    const off = (p: { t: number; lean: number }) => Math.abs(p.lean - leanAt(line, p.t));
    const usual = own.map(off).sort((a, b) => a - b)[n >> 1]!;
    own = own.filter((p) => off(p) <= 3 * usual);
  }
  return line;
}
