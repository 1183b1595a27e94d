import type Flatbush from 'flatbush';
import type { Vec2 } from '../../../geometry';
import type { CornerSeen } from './corners';

/** A corner with its place in the board. */
export interface Placed {
  i: number;
  j: number;
  corner: CornerSeen;
}

/** From corner to corner: how far off the foretold place the next one may be, as a share of the way there. */
const NEAR = 0.28;
/** Neighbours look along the edges that lead to them, within so much, rad. */
const ALONG_RAD = 0.35;
/** Ways to the next corners differ by no more than this factor. */
const UNEVEN = 1.6;
/** A corner stands on the line between those beside it, off by no more than this share of the way. */
const STRAIGHT = 0.16;

/**
 * The board that a corner belongs to: its neighbours along both edges, and theirs, as far as there are any. Light and dark
 * change places from each to the next, which no other pattern does.
 */
export function growBoard(corners: readonly CornerSeen[], index: Flatbush, seed: number): Placed[] {
  const start = corners[seed]!;
  const [a, b] = start.along.map((angle) => nextAlong(corners, index, start, angle)) as [number | null, number | null];
  if (a === null || b === null) return [];
  const way = (to: number): Vec2 => ({ x: corners[to]!.x - start.x, y: corners[to]!.y - start.y });
  const basis = { i: way(a), j: way(b) };
  if (!isEven(size(basis.i), size(basis.j), 3)) return [];
  return growLattice(corners, index, seed, basis, STRAIGHT, (corner, from, isOdd) =>
    hasEdges(corner, from.basis, isOdd),
  ).map(({ i, j, place }) => ({ i, j, corner: place }));
}

/** The ways to the next places of a lattice, px. */
export interface Basis {
  i: Vec2;
  j: Vec2;
}

/** A place with its numbers in a lattice, and the ways from there to the next ones. */
interface Site<Place> {
  i: number;
  j: number;
  place: Place;
  basis: Basis;
}

/**
 * The places of a lattice that one of them belongs to, from each to the next, however they lie in perspective.
 * In: places with an index of them, the one to begin at and the ways to its neighbours, how far off the line between those
 * beside it one may lie, as a share of the way, and which may be the neighbour of which. Out: places by their numbers.
 */
export function growLattice<Place extends Vec2>(
  places: readonly Place[],
  index: Flatbush,
  seed: number,
  basis: Basis,
  straight: number,
  isWanted: (place: Place, from: Site<Place>, isOdd: boolean) => boolean,
): Site<Place>[] {
  const placed = new Map<string, Site<Place>>();
  const used = new Set<number>([seed]);
  const keyOf = (i: number, j: number) => `${i} ${j}`;
  placed.set(keyOf(0, 0), { i: 0, j: 0, place: places[seed]!, basis });
  const open = [keyOf(0, 0)];
  for (let key = open.shift(); key !== undefined; key = open.shift()) {
    const own = placed.get(key)!;
    for (const [di, dj] of STEPS) {
      const [i, j] = [own.i + di, own.j + dj];
      if (placed.has(keyOf(i, j))) continue;
      const by = di !== 0 ? own.basis.i : own.basis.j;
      const sign = di + dj;
      const at = { x: own.place.x + sign * by.x, y: own.place.y + sign * by.y };
      const isOdd = (i + j) % 2 !== 0;
      const isNext = (k: number) => !used.has(k) && isWanted(places[k]!, own, isOdd);
      const n = nearestTo(places, index, at, NEAR * size(by), isNext);
      if (n === null) continue;
      used.add(n);
      const place = places[n]!;
      const went = { x: sign * (place.x - own.place.x), y: sign * (place.y - own.place.y) };
      if (!isEven(size(went), size(by), UNEVEN)) continue;
      placed.set(keyOf(i, j), {
        i,
        j,
        place,
        basis: di !== 0 ? { ...own.basis, i: went } : { ...own.basis, j: went },
      });
      open.push(keyOf(i, j));
    }
  }
  return [...placed.values()].filter((p) => isInLine(p, straight, (i, j) => placed.get(keyOf(i, j))?.place));
}

const STEPS = [
  [1, 0],
  [-1, 0],
  [0, 1],
  [0, -1],
] as const;

const size = (v: Vec2): number => Math.hypot(v.x, v.y);
const isEven = (a: number, b: number, most: number): boolean => a < most * b && b < most * a;

/** Less than a half turn between two ways that have no sense. */
const between = (a: number, b: number): number => {
  const d = Math.abs(a - b) % Math.PI;
  return Math.min(d, Math.PI - d);
};

/** Both edges of a corner run as those about it do; those of an odd one have light and dark the other way about. */
function hasEdges({ along }: CornerSeen, basis: { i: Vec2; j: Vec2 }, isOdd: boolean): boolean {
  const ways = [Math.atan2(basis.i.y, basis.i.x), Math.atan2(basis.j.y, basis.j.x)] as const;
  const [first, second] = isOdd ? [along[1], along[0]] : along;
  return between(first, ways[0]) < ALONG_RAD && between(second, ways[1]) < ALONG_RAD;
}

/** The nearest corner along an edge, on either side, with light and dark the other way about. */
function nextAlong(corners: readonly CornerSeen[], index: Flatbush, from: CornerSeen, angle: number): number | null {
  for (const k of index.neighbors(from.x, from.y, 24)) {
    const other = corners[k]!;
    const [dx, dy] = [other.x - from.x, other.y - from.y];
    if (dx === 0 && dy === 0) continue;
    if (between(Math.atan2(dy, dx), angle) > ALONG_RAD / 2) continue;
    if (between(other.along[1], from.along[0]) > ALONG_RAD || between(other.along[0], from.along[1]) > ALONG_RAD)
      continue;
    return k;
  }
  return null;
}

function nearestTo(
  places: readonly Vec2[],
  index: Flatbush,
  at: Vec2,
  reach: number,
  isWanted: (k: number) => boolean,
): number | null {
  let best: number | null = null;
  let least = reach;
  for (const k of index.search(at.x - reach, at.y - reach, at.x + reach, at.y + reach)) {
    const off = Math.hypot(places[k]!.x - at.x, places[k]!.y - at.y);
    if (off < least && isWanted(k)) {
      least = off;
      best = k;
    }
  }
  return best;
}

/** Neighbours on both sides along a row or a column have it in their middle, as far as perspective and lens allow. */
function isInLine(own: Site<Vec2>, straight: number, at: (i: number, j: number) => Vec2 | undefined): boolean {
  let beside = 0;
  for (const [di, dj] of [
    [1, 0],
    [0, 1],
  ] as const) {
    const [a, b] = [at(own.i - di, own.j - dj), at(own.i + di, own.j + dj)];
    beside += (a ? 1 : 0) + (b ? 1 : 0);
    if (!a || !b) continue;
    const off = Math.hypot((a.x + b.x) / 2 - own.place.x, (a.y + b.y) / 2 - own.place.y);
    if (off > straight * Math.hypot(b.x - a.x, b.y - a.y)) return false;
  }
  return beside >= 2;
}
