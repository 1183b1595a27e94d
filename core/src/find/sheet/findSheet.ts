import type { PicturePoint, PixelPick } from '../../calibration';
import type { Vec2 } from '../../geometry';
import { LINEAR_LIGHT, type Pixels } from '../../raster';
import type { Rgb } from '../shared/addColour';
import { type Coarse, coarseOf } from '../shared/coarse';
import { colourEdges } from '../shared/colourEdges';
import { unit } from '../shared/greenAt';
import { convexHull, crossingOf, longSides } from '../shared/hull';
import { smoothLine } from '../shared/smoothLine';
import { linesOf } from '../shared/strongLines';
import { type Sides, sheetAbout, sheetsBySides } from './sheetSides';

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
      edges: [PixelPick[], PixelPick[], PixelPick[], PixelPick[]];
      /** Longer side over shorter as pictured. */
      ratio: number;
      /** Corners, as the edges cross, that the sheet does not reach: folded, torn or under something. */
      missingCorners: number;
      /** How far the edges bow out of the straight, px: curled paper, or the lens. */
      bowPx: number;
    }
  | { ok: false; reason: SheetFault };

/** Levels of 255 by which a sheet may change from one small pixel to the next, and from where it was clicked. */
const SAME = { near: 7, far: 46 } as const;
/** Long side of the small copy in which a region is looked for, px. */
const REGION_LONG_PX = 700;
/** A sheet fills at least this share of the picture, and at most that. */
const SHARE = { least: 0.004, most: 0.97 } as const;
/** Of each edge so much is left out at both corners. */
const CORNER_SHARE = 0.06;
const PLACES = 44;
/** Colours are blurred more than brightness: a side known by its colours is sharp if it falls off within so much, px. */
const SIDE_SHARP_PX = 5;
/** An edge needs so many of its places seen. */
const FEWEST_PLACES = 10;

/**
 * Finds a sheet of paper or a card from one click on it: by its four sides, which are the same step of colour inwards;
 * where there are no such four, as when it lies half on one ground and half on another, as the like-coloured region
 * about the click with all that lies on it, and the four long sides of its hull. Then each place along the sides to a
 * fraction of a pixel.
 */
export function findSheet(pixels: Pixels, click: PicturePoint): SheetResult {
  return sheetAt(pixels, sheetsBySides(linesOf(pixels)), click);
}

/** The same, where the picture's sheets are known by their sides. */
export function sheetAt(pixels: Pixels, bySides: readonly Sides[], click: PicturePoint): SheetResult {
  const sides = sheetAbout(bySides, click);
  const found = sides && sheetWithin(pixels, sides);
  return found?.ok ? found : sheetOfRegion(pixels, click);
}

/** A sheet whose sides are known roughly. */
function sheetWithin(pixels: Pixels, { corners, inside, outside }: Sides): SheetResult {
  const step = [0, 1, 2].map((c) => linear(outside[c]!) - linear(inside[c]!));
  const size = Math.hypot(...step);
  const along = step.map((v) => v / size) as unknown as Rgb;
  const reachPx = 2 + Math.max(pixels.width, pixels.height) / ROUGH_SHARE;
  const far = MISSING_SHARE * unlike(inside, outside);
  const places = corners.map((corner) => inwardsOf(corner, corners, CORNER_SHARE));
  const isMissing = (place: Vec2, k: number) => {
    const own = colourNear(pixels, place);
    // Light falls off over a sheet: the way to the next corners says how.
    const beside = [places[(k + 1) % 4]!, places[(k + 3) % 4]!].map((other) =>
      colourNear(pixels, { x: place.x + BESIDE * (other.x - place.x), y: place.y + BESIDE * (other.y - place.y) }),
    );
    return own !== null && [inside, ...beside].every((like) => like !== null && unlike(own, like) > far);
  };
  return sheetOf(pixels, corners, reachPx, along, places.filter(isMissing).length);
}

const unlike = (a: Rgb, b: Rgb): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
const linear = (level: number): number => LINEAR_LIGHT[Math.round(Math.min(255, Math.max(0, level)))]!;

/** Sides found in the small copy are right to such a share of the picture's long side. */
const ROUGH_SHARE = 160;
/** A corner is covered where its colour is off the sheet's by more than so much of the step to the ground. */
const MISSING_SHARE = 0.6;
/** Colours beside a corner are taken so far along the way to the next one. */
const BESIDE = 0.3;
const PATCH_PX = 4;

/** Median colour about a place, levels. */
function colourNear({ width, height, data }: Pixels, { x, y }: Vec2): Rgb | null {
  const [i, j] = [Math.floor(x), Math.floor(y)];
  if (i < PATCH_PX || j < PATCH_PX || i >= width - PATCH_PX || j >= height - PATCH_PX) return null;
  const all: [number[], number[], number[]] = [[], [], []];
  for (let dy = -PATCH_PX; dy <= PATCH_PX; dy++)
    for (let dx = -PATCH_PX; dx <= PATCH_PX; dx++)
      for (let c = 0; c < 3; c++) all[c]!.push(data[((j + dy) * width + i + dx) * 4 + c]!);
  return all.map((v) => v.sort((a, b) => a - b)[v.length >> 1]!) as unknown as Rgb;
}

function sheetOfRegion(pixels: Pixels, click: PicturePoint): SheetResult {
  const coarse = coarseOf(pixels, REGION_LONG_PX);
  const inside = spread(coarse, click.uPx / coarse.step, click.vPx / coarse.step);
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
  const missing = four.filter((c) => !reaches(inside, coarse, c, four)).length;
  const found = sheetOf(pixels, four, 4 * coarse.step + 4, undefined, missing);
  return found.ok || outside.length === 0 ? found : { ok: false, reason: 'runs-out' };
}

/** Looks along the sides between four corners, which are known to `reachPx`. */
function sheetOf(
  pixels: Pixels,
  corners: readonly Vec2[],
  reachPx: number,
  along: Rgb | undefined,
  missingCorners: number,
): SheetResult {
  const edges = corners.map((from, k) => lookAlongSide(pixels, from, corners[(k + 1) % 4]!, reachPx, along));
  if (edges.some((e) => e.length < FEWEST_PLACES)) return { ok: false, reason: 'not-four-sides' };
  const length = (k: number) =>
    Math.hypot(corners[(k + 1) % 4]!.x - corners[k]!.x, corners[(k + 1) % 4]!.y - corners[k]!.y);
  const [across, down] = [(length(0) + length(2)) / 2, (length(1) + length(3)) / 2];
  const first = across >= down ? 0 : 1;
  return {
    ok: true,
    edges: [0, 1, 2, 3].map((k) => edges[(k + first) % 4]) as [PixelPick[], PixelPick[], PixelPick[], PixelPick[]],
    ratio: Math.max(across, down) / Math.min(across, down),
    missingCorners,
    bowPx: Math.max(...edges.map(bowOf)),
  };
}

/** The like-coloured region about a place, its pixels 1; null where it is none or nearly everything. */
function spread({ width, height, gray }: Coarse, x: number, y: number): Uint8Array | null {
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
      if (Math.abs(gray[next]! - gray[at]!) > SAME.near || Math.abs(gray[next]! - gray[seed]!) > SAME.far) continue;
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
function lookAlongSide(pixels: Pixels, from: Vec2, to: Vec2, roughPx: number, along?: Rgb): PixelPick[] {
  const way = unit({ x: to.x - from.x, y: to.y - from.y });
  // Counter-clockwise as it is seen, the outside lies to the right hand of the way, which in picture rows is +y of x.
  const normal = { x: -way.y, y: way.x };
  let places: PixelPick[] = [];
  for (const reachPx of [roughPx, 8]) {
    const found: PixelPick[] = [];
    for (let k = 0; k < PLACES; k++) {
      const t = CORNER_SHARE + ((1 - 2 * CORNER_SHARE) * (k + 0.5)) / PLACES;
      const near = places.length ? offAt(places, from, way, normal, t * Math.hypot(to.x - from.x, to.y - from.y)) : 0;
      const x = from.x + t * (to.x - from.x) + near * normal.x;
      const y = from.y + t * (to.y - from.y) + near * normal.y;
      const edges = colourEdges(pixels, x, y, normal.x, normal.y, {
        reachPx,
        halfLengthPx: 9,
        ...(along && { along, sharpWithinPx: SIDE_SHARP_PX }),
      });
      if (!edges.length) continue;
      const best = edges.reduce((p, q) => (merit(q, reachPx) > merit(p, reachPx) ? q : p));
      found.push({ uPx: x + best.offPx * normal.x, vPx: y + best.offPx * normal.y, sigmaPx: best.sigmaPx });
    }
    places = smoothLine(found);
    if (places.length < FEWEST_PLACES) return [];
  }
  return places;
}

const merit = (e: { contrast: number; offPx: number }, reach: number): number =>
  e.contrast * (1 - 0.5 * Math.abs(e.offPx / reach));

/** How far the places lie off the side at a distance along it: of the nearest one. */
function offAt(places: readonly PixelPick[], from: Vec2, way: Vec2, normal: Vec2, along: number): number {
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
function reaches(inside: Uint8Array, { step, width, height }: Coarse, corner: Vec2, all: readonly Vec2[]): boolean {
  const { x, y } = inwardsOf(corner, all, 0);
  const [i, j] = [Math.floor(x / step), Math.floor(y / step)];
  for (let dy = -1; dy <= 1; dy++)
    for (let dx = -1; dx <= 1; dx++)
      if (i + dx >= 0 && j + dy >= 0 && i + dx < width && j + dy < height && inside[(j + dy) * width + i + dx])
        return true;
  return false;
}

/**
 * A place a little inside a corner, by a share of the way to the middle at least: of known sides what is nearer is left
 * out anyway, and cards have round corners.
 */
function inwardsOf(corner: Vec2, all: readonly Vec2[], leastShare: number): Vec2 {
  const middle = { x: all.reduce((s, p) => s + p.x, 0) / 4, y: all.reduce((s, p) => s + p.y, 0) / 4 };
  const far = Math.hypot(corner.x - middle.x, corner.y - middle.y);
  const t = Math.max(CORNER_INSIDE_PX / far, leastShare);
  return { x: corner.x + t * (middle.x - corner.x), y: corner.y + t * (middle.y - corner.y) };
}

const CORNER_INSIDE_PX = 22;

/** Greatest distance of the places from the line through their ends, px. */
function bowOf(edge: readonly PixelPick[]): number {
  const [a, b] = [edge[0]!, edge[edge.length - 1]!];
  const size = Math.hypot(b.uPx - a.uPx, b.vPx - a.vPx) || 1;
  return Math.max(
    ...edge.map((p) => Math.abs((b.uPx - a.uPx) * (p.vPx - a.vPx) - (b.vPx - a.vPx) * (p.uPx - a.uPx)) / size),
  );
}
