import Flatbush from 'flatbush';
import type { Crossing, PicturePoint } from '../../../calibration';
import type { Vec2 } from '../../../geometry';
import { medianOf } from '../../../numeric';
import type { Patch, Pixels } from '../../../raster';
import { bilinear, grayOf } from '../board/corners';
import type { FoundBoard } from '../board/findBoard';
import { type Basis, growLattice } from '../board/lattice';
import { upright } from '../board/upright';
import { type Dot, dotsIn } from './dotsIn';

/** Fewer dots than these, or in fewer rows and columns, are no grid: holes and letters stand in rows as well. */
const FEWEST = 20;
const FEWEST_LINES = 4;
const LEAST_SEEN = 0.5;
const MOST_SEEDS = 40;
const MOST_CROSSINGS = 500;
/** Dots of one grid differ from each to the next by no more than this factor of their area. */
const ALIKE = 1.7;
/** The ways to both neighbours: how far from square to each other, rad, and how unlike in length they may be. */
const SQUARE = { leastRad: 0.9, uneven: 1.5 } as const;
/**
 * Diagonals of squares are as long as each other, but for perspective; those of dots that stand in gaps, as holes of a sieve
 * do, are not.
 */
const DIAGONALS = 1.55;
/** Dots leave this share of their squares free: the dark half of a checkerboard, blurred, does not. */
const MOST_COVER = 0.42;
/** A dot lies on the line between those beside it, off by no more than this share of the way. */
const STRAIGHT = 0.05;
/** A dot that is smaller or larger than those beside it by more than this share is covered in part, or runs into something. */
const COVERED = 0.12;
/** No dot is known better, px: printing and the lens leave as much. */
const LEAST_SIGMA_PX = 0.05;

/**
 * Finds a grid of round dots, all alike, in squares: partly covered, cut by the frame, bent by a lens.
 *
 * In: a picture, and a place on the grid, or null for wherever it is largest. Out: the middles of its dots as crossings of a
 * grid, i to the right and j upwards; null where there is none.
 */
export function findDots(pixels: Pixels, click: PicturePoint | null): FoundBoard | null {
  const all = dotsIn(pixels);
  const grids = [true, false]
    .map((isDark) => {
      const alike = all.filter((d) => d.isDark === isDark);
      return gridOf(alike, click);
    })
    .filter((grid) => grid !== null);
  const best = grids.sort((p, q) => q.length - p.length)[0];
  return best
    ? told(
        grayOf(pixels),
        upright(best, (p) => p.place),
      )
    : null;
}

interface Site {
  i: number;
  j: number;
  place: Dot;
}

function gridOf(dots: readonly Dot[], click: PicturePoint | null): Site[] | null {
  if (dots.length < FEWEST) return null;
  const index = new Flatbush(dots.length);
  for (const { x, y } of dots) index.add(x, y, x, y);
  index.finish();
  const every = Math.max(1, Math.floor(dots.length / MOST_SEEDS));
  const seeds = click
    ? index.neighbors(click.uPx, click.vPx, MOST_SEEDS)
    : dots.flatMap((_, k) => (k % every === 0 ? [k] : []));
  let best: Site[] = [];
  const tried = new Set<Dot>();
  for (const seed of seeds) {
    if (tried.has(dots[seed]!)) continue;
    const basis = basisAt(dots, index, seed);
    if (!basis) continue;
    const grown = growLattice(dots, index, seed, basis, STRAIGHT, (dot, from) => isAlike(dot, from.place));
    for (const { place } of grown) tried.add(place);
    if (grown.length > best.length) best = grown;
    if (click && best.length >= FEWEST) break;
  }
  return best.length < FEWEST ? null : best;
}

const isAlike = (a: Dot, b: Dot): boolean => a.area < ALIKE * b.area && b.area < ALIKE * a.area;

/** The ways from a dot to its neighbours in a row and in a column; null where it has none such. */
function basisAt(dots: readonly Dot[], index: Flatbush, seed: number): Basis | null {
  const start = dots[seed]!;
  const ways = index
    .neighbors(start.x, start.y, 9)
    .filter((k) => k !== seed && isAlike(dots[k]!, start))
    .map((k): Vec2 => ({ x: dots[k]!.x - start.x, y: dots[k]!.y - start.y }));
  const i = ways[0];
  if (!i) return null;
  const j = ways.find((way) => {
    const angle = Math.abs(Math.atan2(i.x * way.y - i.y * way.x, i.x * way.x + i.y * way.y));
    return Math.min(angle, Math.PI - angle) > SQUARE.leastRad;
  });
  if (!j) return null;
  const size = (x: number, y: number) => Math.hypot(x, y);
  const [p, q] = [size(i.x + j.x, i.y + j.y), size(i.x - j.x, i.y - j.y)];
  const isSquare = size(j.x, j.y) < SQUARE.uneven * size(i.x, i.y) && Math.max(p, q) < DIAGONALS * Math.min(p, q);
  const cell = Math.abs(i.x * j.y - i.y * j.x);
  return isSquare && start.area < MOST_COVER * cell ? { i, j } : null;
}

/**
 * Between two dots there is ground, and in the middle of four; between two dark squares of a checkerboard only half of it,
 * at the corner that they share, or in the middle of four a fifth.
 */
const LEAST_GROUND = 0.75;

function standApart(gray: Patch, placed: readonly Site[], at: ReadonlyMap<string, Dot>): boolean {
  const shares = placed.flatMap(({ i, j, place }) => {
    const [right, up, across] = [at.get(`${i + 1} ${j}`), at.get(`${i} ${j + 1}`), at.get(`${i + 1} ${j + 1}`)];
    if (!right || !up || !across) return [];
    const light = (...of: Dot[]) =>
      bilinear(
        gray,
        of.reduce((sum, d) => sum + d.x, 0) / of.length - 0.5,
        of.reduce((sum, d) => sum + d.y, 0) / of.length - 0.5,
      );
    const between = [light(place, right), light(place, up), light(place, right, up, across)];
    const away = between.map((v) => Math.abs(v - light(place)));
    return [Math.min(...away) / Math.max(...away)];
  });
  return medianOf(shares, 0) > LEAST_GROUND;
}

function told(gray: Patch, placed: readonly Site[]): FoundBoard | null {
  const at = new Map(placed.map((p) => [`${p.i} ${p.j}`, p.place]));
  if (!standApart(gray, placed, at)) return null;
  const crossings = placed.flatMap(({ i, j, place }): Crossing[] => {
    const beside = [at.get(`${i - 1} ${j}`), at.get(`${i + 1} ${j}`), at.get(`${i} ${j - 1}`), at.get(`${i} ${j + 1}`)];
    const spacing = Math.min(...beside.flatMap((o) => (o ? [Math.hypot(o.x - place.x, o.y - place.y)] : [])));
    const own = beside.flatMap((o) => (o ? [o.area] : []));
    const usual = own.reduce((sum, area) => sum + area, 0) / own.length;
    const pick = Math.abs(place.area / usual - 1) > COVERED ? null : middleOfDot(gray, place, spacing);
    return pick ? [{ i, j, pick }] : [];
  });
  if (crossings.length < FEWEST) return null;
  const columns = Math.max(...crossings.map((c) => c.i)) + 1;
  const rows = Math.max(...crossings.map((c) => c.j)) + 1;
  const seen = crossings.length / (columns * rows);
  if (columns < FEWEST_LINES || rows < FEWEST_LINES || seen < LEAST_SEEN) return null;
  const every = Math.ceil(crossings.length / MOST_CROSSINGS);
  return { crossings: crossings.filter((_, k) => k % every === 0), columns, rows, seen };
}

/** Places on a ring. */
const RING = Array.from(
  { length: 24 },
  (_, k) => [Math.cos((Math.PI * k) / 12), Math.sin((Math.PI * k) / 12)] as const,
);
const LEAST_DEPTH = 0.03;

/**
 * The middle of what stands out from the ground round a dot, by its weight; the ground slopes as it does on a ring about
 * the dot, where light falls off. Null where it hardly stands out, or at the picture's rim.
 */
function middleOfDot(gray: Patch, dot: Dot, spacing: number): { uPx: number; vPx: number; sigmaPx: number } | null {
  const reach = Math.min(1.35 * dot.radius + 1.5, 0.5 * spacing);
  const isIn = (v: number, size: number) => v > reach + 1 && v < size - reach - 2;
  if (!isIn(dot.x, gray.width) || !isIn(dot.y, gray.height)) return null;
  const rim = RING.map(([c, s]) => bilinear(gray, dot.x - 0.5 + reach * c, dot.y - 0.5 + reach * s));
  const mean = rim.reduce((sum, v) => sum + v, 0) / rim.length;
  const slope = ([0, 1] as const).map(
    (axis) => (2 / (rim.length * reach)) * rim.reduce((sum, v, k) => sum + v * RING[k]![axis], 0),
  ) as [number, number];
  const groundAt = (dx: number, dy: number) => mean + slope[0] * dx + slope[1] * dy;
  const rest = Math.sqrt(
    rim.reduce((sum, v, k) => sum + (v - groundAt(reach * RING[k]![0], reach * RING[k]![1])) ** 2, 0) / rim.length,
  );
  const sign = dot.isDark ? 1 : -1;
  let [sum, su, sv] = [0, 0, 0];
  const r = Math.ceil(reach);
  const [cx, cy] = [Math.floor(dot.x), Math.floor(dot.y)];
  for (let y = cy - r; y <= cy + r; y++)
    for (let x = cx - r; x <= cx + r; x++) {
      const [dx, dy] = [x + 0.5 - dot.x, y + 0.5 - dot.y];
      if (Math.hypot(dx, dy) > reach) continue;
      const weight = sign * (groundAt(dx, dy) - gray.light[y * gray.width + x]!);
      sum += weight;
      su += weight * dx;
      sv += weight * dy;
    }
  const depth = sum / dot.area;
  if (depth < LEAST_DEPTH) return null;
  // A slope that the ring does not show to so much would move the middle by this.
  const unknown = (rest * Math.SQRT2) / (Math.sqrt(rim.length) * reach);
  const pulled = (unknown * Math.PI * reach ** 4) / (4 * sum);
  return { uPx: dot.x + su / sum, vPx: dot.y + sv / sum, sigmaPx: Math.hypot(LEAST_SIGMA_PX, pulled) };
}
