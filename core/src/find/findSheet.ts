import type { Pick, PicturePoint } from '../calibration';
import type { Vec2 } from '../geometry';
import type { Pixels } from '../raster';
import { coarseColoursOf, coarseOf } from './coarse';
import { colourEdges } from './colourEdges';
import { smoothLine } from './graduationRow';
import { unit } from './greenAt';
import { convexHull, crossingOf, longSides } from './hull';

export type SheetFault =
  /** The click lies on nothing that stands out against its ground. */
  | 'no-sheet'
  /** It runs out of the picture, so that an edge is missing. */
  | 'runs-out'
  /** It has not four straight edges. */
  | 'not-four-sides';

export type SheetResult =
  | {
      ok: true;
      /** Counter-clockwise as it is seen; the first and third along the longer side. */
      edges: [Pick[], Pick[], Pick[], Pick[]];
      /** Longer side over shorter as pictured. */
      ratio: number;
      /** Corners, as the edges cross, that the sheet does not reach: folded, torn or under something. */
      missingCorners: number;
      /** How far the edges bow out of the straight, px: curled paper, or the lens. */
      bowPx: number;
    }
  | { ok: false; reason: SheetFault };

/**
 * Levels of 255 by which a sheet may change from one small pixel to the next, by shade and its own grain, and altogether
 * from where it was clicked: by brightness; where that leads to no sheet, by colour, and more strictly.
 */
const SAME_BRIGHT = { near: 7, far: 46 } as const;
const SAME_COLOUR = [
  { near: 4, far: 22 },
  { near: 3, far: 10 },
  { near: 2, far: 10 },
  { near: 3, far: 6 },
] as const;
/** Long sides of the small copies, px: where only colour tells, its blur has to be narrower than one small pixel. */
const LOOKS_PX = { bright: 700, colour: 350 } as const;
/** A sheet fills at least this share of the picture, and at most that. */
const SHARE = { least: 0.004, most: 0.97 } as const;
/** Of each edge so much is left out at both corners. */
const CORNER_SHARE = 0.06;
const PLACES = 44;
/** An edge needs so many of its places seen. */
const FEWEST_PLACES = 10;

/**
 * Finds a sheet of paper or a card from one click on it: the like-coloured region about the click with all that lies on
 * it, its convex hull, the four long sides of that, and each place along them to a fraction of a pixel.
 */
export function findSheet(pixels: Pixels, click: PicturePoint): SheetResult {
  const gray = coarseOf(pixels, LOOKS_PX.bright);
  const first = sheetIn(pixels, click, gray, SAME_BRIGHT, (at, other) => Math.abs(gray.gray[at]! - gray.gray[other]!));
  if (first.ok) return first;
  const { levels, ...small } = coarseColoursOf(pixels, LOOKS_PX.colour);
  const unlike: Unlike = (at, other) => {
    const [p, q] = [3 * at, 3 * other];
    return (
      Math.hypot(levels[p]! - levels[q]!, levels[p + 1]! - levels[q + 1]!, levels[p + 2]! - levels[q + 2]!) / ROOT3
    );
  };
  for (const same of SAME_COLOUR) {
    const found = sheetIn(pixels, click, small, same, unlike);
    if (found.ok && found.missingCorners === 0) return found;
  }
  return first;
}

const ROOT3 = Math.sqrt(3);

/** A small copy's size, and how many of the picture's pixels across one of its own is. */
interface Small {
  step: number;
  width: number;
  height: number;
}

/** How unlike two small pixels are, by their numbers, levels of 255. */
type Unlike = (at: number, other: number) => number;

function sheetIn(
  pixels: Pixels,
  click: PicturePoint,
  coarse: Small,
  same: { near: number; far: number },
  unlike: Unlike,
): SheetResult {
  const inside = spread(coarse, click.uPx / coarse.step, click.vPx / coarse.step, same, unlike);
  if (!inside) return { ok: false, reason: 'no-sheet' };
  const hull = convexHull(rimOf(inside, coarse.width, coarse.height)).map((p) => ({
    x: p.x * coarse.step,
    y: p.y * coarse.step,
  }));
  const sides = longSides(hull);
  if (!sides) return { ok: false, reason: 'not-four-sides' };
  const corners = sides.map((side, k) => crossingOf(sides[(k + 3) % 4]!, side));
  if (corners.some((c) => c === null)) return { ok: false, reason: 'not-four-sides' };
  const four = corners as Vec2[];
  const { width, height } = pixels;
  const margin = 2 * coarse.step;
  const outside = four.filter((c) => c.x < margin || c.y < margin || c.x > width - margin || c.y > height - margin);
  if (outside.length > 1) return { ok: false, reason: 'runs-out' };
  const edges = four.map((from, k) => lookAlongSide(pixels, from, four[(k + 1) % 4]!, coarse.step));
  if (edges.some((e) => e.length < FEWEST_PLACES))
    return { ok: false, reason: outside.length ? 'runs-out' : 'not-four-sides' };
  const length = (k: number) => Math.hypot(four[(k + 1) % 4]!.x - four[k]!.x, four[(k + 1) % 4]!.y - four[k]!.y);
  const [across, down] = [(length(0) + length(2)) / 2, (length(1) + length(3)) / 2];
  const first = across >= down ? 0 : 1;
  const missing = four.filter((c) => !reaches(inside, coarse, c, four));
  return {
    ok: true,
    edges: [0, 1, 2, 3].map((k) => edges[(k + first) % 4]) as [Pick[], Pick[], Pick[], Pick[]],
    ratio: Math.max(across, down) / Math.min(across, down),
    missingCorners: missing.length,
    bowPx: Math.max(...edges.map(bowOf)),
  };
}

/** The like-coloured region about a place, its pixels 1; null where it is none or nearly everything. */
function spread(
  { width, height }: Small,
  x: number,
  y: number,
  same: { near: number; far: number },
  unlike: Unlike,
): Uint8Array | null {
  const [i, j] = [Math.floor(x), Math.floor(y)];
  if (i < 1 || j < 1 || i >= width - 1 || j >= height - 1) return null;
  const inside = new Uint8Array(width * height);
  const queue = new Int32Array(width * height);
  const seed = j * width + i;
  let [head, tail] = [0, 0];
  queue[tail++] = seed;
  inside[seed] = 1;
  while (head < tail) {
    const at = queue[head++]!;
    const column = at % width;
    for (const next of [
      column > 0 ? at - 1 : -1,
      column < width - 1 ? at + 1 : -1,
      at - width,
      at + width < inside.length ? at + width : -1,
    ]) {
      if (next < 0 || inside[next]) continue;
      if (unlike(next, at) > same.near || unlike(next, seed) > same.far) continue;
      inside[next] = 1;
      queue[tail++] = next;
    }
  }
  const share = tail / inside.length;
  return share > SHARE.least && share < SHARE.most ? inside : null;
}

/** First and last inside pixel of each row: all that the hull needs. */
function rimOf(inside: Uint8Array, width: number, height: number): Vec2[] {
  const rim: Vec2[] = [];
  for (let y = 0; y < height; y++) {
    const row = inside.subarray(y * width, (y + 1) * width);
    const left = row.indexOf(1);
    if (left < 0) continue;
    rim.push({ x: left, y: y + 0.5 }, { x: row.lastIndexOf(1) + 1, y: y + 0.5 });
  }
  return rim;
}

/** Places along one side, located across it. */
function lookAlongSide(pixels: Pixels, from: Vec2, to: Vec2, step: number): Pick[] {
  const way = unit({ x: to.x - from.x, y: to.y - from.y });
  // Counter-clockwise as it is seen, the outside lies to the right hand of the way, which in picture rows is +y of x.
  const normal = { x: -way.y, y: way.x };
  let offset = 0;
  let places: Pick[] = [];
  for (const reachPx of [4 * step + 4, 8]) {
    const found: Pick[] = [];
    for (let k = 0; k < PLACES; k++) {
      const t = CORNER_SHARE + ((1 - 2 * CORNER_SHARE) * (k + 0.5)) / PLACES;
      const near = places.length
        ? offAt(places, from, way, normal, t * Math.hypot(to.x - from.x, to.y - from.y))
        : offset;
      const x = from.x + t * (to.x - from.x) + near * normal.x;
      const y = from.y + t * (to.y - from.y) + near * normal.y;
      const edges = colourEdges(pixels, x, y, normal.x, normal.y, { reachPx, halfLengthPx: 9 });
      if (!edges.length) continue;
      const best = edges.reduce((p, q) => (merit(q, reachPx) > merit(p, reachPx) ? q : p));
      found.push({ uPx: x + best.offPx * normal.x, vPx: y + best.offPx * normal.y, sigmaPx: best.sigmaPx });
    }
    places = smoothLine(found);
    if (places.length < FEWEST_PLACES) return [];
    offset = 0;
  }
  return places;
}

const merit = (e: { contrast: number; offPx: number }, reach: number): number =>
  e.contrast * (1 - 0.5 * Math.abs(e.offPx / reach));

/** How far the places lie off the side at a distance along it: of the nearest one. */
function offAt(places: readonly Pick[], from: Vec2, way: Vec2, normal: Vec2, along: number): number {
  let best = 0;
  let least = Number.POSITIVE_INFINITY;
  for (const p of places) {
    const [dx, dy] = [p.uPx - from.x, p.vPx - from.y];
    const away = Math.abs(dx * way.x + dy * way.y - along);
    if (away < least) {
      least = away;
      best = dx * normal.x + dy * normal.y;
    }
  }
  return best;
}

/** Whether the region comes near a corner: the place a little inside it belongs to the sheet. */
function reaches(inside: Uint8Array, { step, width, height }: Small, corner: Vec2, all: readonly Vec2[]): boolean {
  const middle = { x: all.reduce((s, p) => s + p.x, 0) / 4, y: all.reduce((s, p) => s + p.y, 0) / 4 };
  const size = Math.hypot(corner.x - middle.x, corner.y - middle.y);
  const t = 1 - CORNER_INSIDE_PX / size;
  const [x, y] = [middle.x + t * (corner.x - middle.x), middle.y + t * (corner.y - middle.y)];
  const [i, j] = [Math.floor(x / step), Math.floor(y / step)];
  for (let dy = -1; dy <= 1; dy++)
    for (let dx = -1; dx <= 1; dx++)
      if (i + dx >= 0 && j + dy >= 0 && i + dx < width && j + dy < height && inside[(j + dy) * width + i + dx])
        return true;
  return false;
}

const CORNER_INSIDE_PX = 22;

/** Greatest distance of the places from the line through their ends, px. */
function bowOf(edge: readonly Pick[]): number {
  const [a, b] = [edge[0]!, edge[edge.length - 1]!];
  const size = Math.hypot(b.uPx - a.uPx, b.vPx - a.vPx) || 1;
  return Math.max(
    ...edge.map((p) => Math.abs((b.uPx - a.uPx) * (p.vPx - a.vPx) - (b.vPx - a.vPx) * (p.uPx - a.uPx)) / size),
  );
}
