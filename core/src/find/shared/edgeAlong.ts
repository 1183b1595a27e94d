import type { Vec2 } from '../../geometry';
import type { Pixels } from '../../raster';
import { colourEdges } from './colourEdges';

/** An edge as its distance from a straight line, at even steps along it. */
export interface Edge {
  from: Vec2;
  /** Along the line, and across it; unit vectors. */
  way: Vec2;
  normal: Vec2;
  /** Along the normal, each `every` px on, px. */
  offs: number[];
  every: number;
}

/** Places along an edge lie so far apart: px, in a picture of 1600 px; in a larger one up to twice as far. */
const ALONG_PX = 12;
/** A place counts with so many to both sides; of a stretch so many show the edge, and it has so many. */
const RUN = { look: 8, seen: 0.5, least: 16 } as const;
/** Over so many places an edge may be covered, or too like what lies beside it. */
const GAP = 20;
/** Off its neighbours an edge lies by less, px; and off where they foretell it beyond the line that is known. */
const CLOSE_PX = 1.5;
const FORETOLD_PX = 4;

/**
 * The longest stretch of an edge along a line that is known roughly: found beside the line, then followed beyond both
 * ends of that, as the lens may bend it, over what covers it.
 *
 * In: a place on the line, a unit vector across it, and how far from it the edge may lie, px. Out: null where there is none.
 */
export function edgeAlong(pixels: Pixels, on: Vec2, across: Vec2, reachPx: number): Edge | null {
  // Along it from left to right.
  const sign = across.y > 0 ? -1 : 1;
  const normal = { x: sign * across.x, y: sign * across.y };
  const way = { x: -normal.y, y: normal.x };
  const every = ALONG_PX * Math.min(2, scaleOf(pixels));
  const look = (t: number, guess: number, reach: number): number | null => {
    const [x, y] = [on.x + t * way.x + guess * normal.x, on.y + t * way.y + guess * normal.y];
    const edges = colourEdges(pixels, x, y, normal.x, normal.y, {
      reachPx: reach + 4,
      halfLengthPx: 8,
      rows: 8,
      sharpWithinPx: 5,
    });
    const near = edges.filter((e) => Math.abs(e.offPx) < reach);
    return near.length ? guess + near.reduce((p, q) => (q.contrast > p.contrast ? q : p)).offPx : null;
  };
  const middle = (pixels.width / 2 - on.x) * way.x + (pixels.height / 2 - on.y) * way.y;
  const half = Math.ceil(Math.hypot(pixels.width, pixels.height) / every);
  const tOf = (k: number) => middle + (k - half) * every;
  const isInPicture = (k: number, off: number): boolean => {
    const [x, y] = [on.x + tOf(k) * way.x + off * normal.x, on.y + tOf(k) * way.y + off * normal.y];
    return x >= 0 && y >= 0 && x < pixels.width && y < pixels.height;
  };
  const seen = Array.from({ length: 2 * half + 1 }, (_, k) => (isInPicture(k, 0) ? look(tOf(k), 0, reachPx) : null));
  const known = longestStretch(inLine(seen));
  if (known.length < RUN.least) return null;
  for (const sense of [1, -1] as const) {
    if (sense < 0) known.reverse();
    const foretold = (k: number) => {
      const [last, before] = [known.at(-1)!, known.at(-1 - RUN.look)!];
      return last.off + ((k - last.k) * (last.off - before.off)) / (last.k - before.k);
    };
    let gap = 1;
    for (; gap <= GAP; gap++) {
      const k = known.at(-1)!.k + sense * gap;
      if (!isInPicture(k, foretold(k))) break;
      const off = look(tOf(k), foretold(k), FORETOLD_PX);
      if (off === null) continue;
      known.push({ k, off });
      gap = 0;
    }
    // Strokes may go on a little where the edge is no longer seen.
    if (gap > 1)
      known.push({ k: known.at(-1)!.k + sense * (gap - 1), off: foretold(known.at(-1)!.k + sense * (gap - 1)) });
  }
  known.reverse();
  const first = known[0]!.k;
  const { x, y } = { x: on.x + tOf(first) * way.x, y: on.y + tOf(first) * way.y };
  return { from: { x, y }, way, normal, offs: filled(known), every };
}

/** How much larger a picture is than one of two megapixels, at least 1. */
export const scaleOf = ({ width, height }: Pixels): number => Math.max(1, Math.max(width, height) / 1600);

/** How long an edge is, px. */
export const lengthOf = ({ offs, every }: Edge): number => (offs.length - 1) * every;

interface Known {
  k: number;
  off: number;
}

/** Places that most about them lie in line with. */
function inLine(seen: readonly (number | null)[]): (number | null)[] {
  return seen.map((off, k) => {
    const about = seen.slice(Math.max(0, k - RUN.look), k + RUN.look + 1);
    const all = about.flatMap((p) => (p === null ? [] : [p])).sort((a, b) => a - b);
    const usual = all[all.length >> 1];
    if (usual === undefined) return null;
    const close = all.filter((v) => Math.abs(v - usual) < CLOSE_PX);
    if (close.length < RUN.seen * about.length) return null;
    return off !== null && Math.abs(off - usual) < CLOSE_PX ? off : usual;
  });
}

/** The stretch with the most places, not cut by short gaps. */
function longestStretch(all: readonly (number | null)[]): Known[] {
  let best: Known[] = [];
  let run: Known[] = [];
  all.forEach((off, k) => {
    if (off === null) return;
    if (k - (run.at(-1)?.k ?? k) > GAP) run = [];
    run.push({ k, off });
    if (run.length > best.length) best = run;
  });
  return [...best];
}

/** With what lies between the places that are known. */
function filled(known: readonly Known[]): number[] {
  const first = known[0]!.k;
  let at = 0;
  return Array.from({ length: known.at(-1)!.k - first + 1 }, (_, j) => {
    const k = first + j;
    while (at < known.length - 2 && known[at + 1]!.k <= k) at++;
    const [p, q] = [known[at]!, known[at + 1]!];
    return p.off + ((k - p.k) * (q.off - p.off)) / (q.k - p.k);
  });
}

/** The place so far along an edge, and so far in from it. */
export function placeOf({ from, way, normal, offs, every }: Edge, t: number, depth: number): Vec2 {
  const k = Math.max(0, Math.min(offs.length - 2, Math.floor(t / every)));
  const share = Math.max(0, Math.min(1, t / every - k));
  const off = offs[k]! * (1 - share) + offs[k + 1]! * share + depth;
  return { x: from.x + t * way.x + off * normal.x, y: from.y + t * way.y + off * normal.y };
}
