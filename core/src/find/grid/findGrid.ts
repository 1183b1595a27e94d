import type { Crossing, PicturePoint } from '../../calibration';
import type { Vec2 } from '../../geometry';
import { medianOf } from '../../numeric';
import type { Pixels } from '../../raster';
import { lineCentre } from '../shared/centre';
import { greenAt } from '../shared/greenAt';
import { detrended, repeats } from '../shared/repeat';
import { findBoard } from './board/findBoard';
import { findDots } from './dots/findDots';
import { withoutWild } from './wildCrossings';

export type GridFault =
  /** No two families of lines across each other near the click. */
  | 'no-grid'
  /** Its lines lie too near to each other to be told apart. */
  | 'too-fine'
  /** Too few crossings are seen. */
  | 'hidden';

export type GridResult =
  | {
      ok: true;
      crossings: Crossing[];
      /** How many columns and rows of crossings they span. */
      columns: number;
      rows: number;
      /** Share of those that were seen. */
      seen: number;
    }
  | { ok: false; reason: GridFault };

const LEAST_PERIOD_PX = 12;
const MOST_PERIOD_PX = 260;
const FEWEST_CROSSINGS = 9;
/** So many crossings are looked at, and at most so many are kept, evenly chosen. */
const MOST_LOOKED = 6000;
const MOST_CROSSINGS = 500;

interface Basis {
  /** To the next crossing of the same row, px. */
  i: Vec2;
  /** To the next one up the column. */
  j: Vec2;
}

interface Found {
  i: number;
  j: number;
  at: Vec2;
  sigmaPx: number;
  basis: Basis;
}

/**
 * Finds a grid of lines, a checkerboard, or a grid of dots, from one click on it. Of a checkerboard its inner corners are the
 * crossings, of dots their middles.
 */
export function findGrid(pixels: Pixels, click: PicturePoint): GridResult {
  const lines = findLineGrid(pixels, click);
  const board = lines.ok ? null : (findBoard(pixels, click) ?? findDots(pixels, click));
  return board ? { ok: true, ...board } : lines;
}

/**
 * Finds a grid of lines from one click on it: the two ways in which lines run there and how far they lie apart, then
 * crossing after crossing from neighbour to neighbour, so that perspective, a bent lens and whatever lies on the grid
 * are gone round.
 */
export function findLineGrid(pixels: Pixels, click: PicturePoint): GridResult {
  const seeds = seedsNear(pixels, { x: click.uPx, y: click.vPx });
  if (seeds.length === 0) return { ok: false, reason: 'no-grid' };
  if (seeds.every((s) => Math.min(size(s.basis.i), size(s.basis.j)) < LEAST_PERIOD_PX))
    return { ok: false, reason: 'too-fine' };
  let best: Found[] = [];
  for (const seed of seeds) {
    for (const dark of [true, false]) {
      let found = largestPiece(consistent(grow(pixels, seed, dark)));
      for (let halvings = 0; halvings < MOST_HALVINGS; halvings++) {
        const basis = finerBasis(pixels, found, dark);
        if (!basis) break;
        // From a crossing that is known to be one.
        found = largestPiece(consistent(grow(pixels, { at: found[0]!.at, basis }, dark)));
      }
      if (found.length > best.length) best = found;
    }
    if (best.length > ENOUGH) break;
  }
  best = withoutWild(best);
  if (best.length < FEWEST_CROSSINGS) return { ok: false, reason: best.length ? 'hidden' : 'no-grid' };
  const least = (pick: (...all: number[]) => number) => ({
    i: pick(...best.map((f) => f.i)),
    j: pick(...best.map((f) => f.j)),
  });
  const [low, high] = [least(Math.min), least(Math.max)];
  const [columns, rows] = [high.i - low.i + 1, high.j - low.j + 1];
  if (columns < 2 || rows < 2) return { ok: false, reason: 'hidden' };
  const every = Math.ceil(best.length / MOST_CROSSINGS);
  const crossings = best
    .filter((_, k) => k % every === 0)
    .map(({ i, j, at, sigmaPx }) => ({ i: i - low.i, j: j - low.j, pick: { uPx: at.x, vPx: at.y, sigmaPx } }));
  return { ok: true, crossings, columns, rows, seen: best.length / (columns * rows) };
}

/** So many crossings leave no doubt that the right grid was found. */
const ENOUGH = 60;

const size = (v: Vec2): number => Math.hypot(v.x, v.y);

/** Most of them lead to the grid, or none: where something lies on it, the near ones do not. */
const MOST_SEEDS = 10;
/** Places about the click from which the grid may be followed, px: what lies on it may be as large as a hand. */
const AROUND = [0, 45, 110, 190, 300, 430] as const;

function seedsNear(pixels: Pixels, click: Vec2): { at: Vec2; basis: Basis }[] {
  const seeds: { at: Vec2; basis: Basis }[] = [];
  for (const r of AROUND)
    for (let k = 0; k < (r === 0 ? 1 : 6); k++) {
      const angle = (2 * Math.PI * k) / 6 + r;
      const at = { x: click.x + r * Math.cos(angle), y: click.y + r * Math.sin(angle) };
      const basis = basisAt(pixels, at);
      if (basis) seeds.push({ at, basis });
      if (seeds.length >= MOST_SEEDS) return seeds;
    }
  return seeds;
}

const WINDOW_PX = 130;
const BINS = 90;

/** Whether lines run two ways about a place, as a grid's do. */
export const gridsAt = (pixels: Pixels, at: Vec2): boolean => basisAt(pixels, at) !== null;

/** The two ways in which lines run about a place, and their periods. */
function basisAt(pixels: Pixels, { x, y }: Vec2): Basis | null {
  const bins = new Float64Array(BINS);
  for (let v = y - WINDOW_PX; v <= y + WINDOW_PX; v += 3)
    for (let u = x - WINDOW_PX; u <= x + WINDOW_PX; u += 3) {
      if (u < 2 || v < 2 || u > pixels.width - 2 || v > pixels.height - 2) continue;
      const gx = greenAt(pixels, u + 1, v) - greenAt(pixels, u - 1, v);
      const gy = greenAt(pixels, u, v + 1) - greenAt(pixels, u, v - 1);
      const strength = gx * gx + gy * gy;
      if (strength < LEAST_GRADIENT) continue;
      const angle = (Math.atan2(gy, gx) + Math.PI) % Math.PI;
      bins[Math.floor((angle / Math.PI) * BINS) % BINS]! += strength;
    }
  const smooth = bins.map((_, k) => [-2, -1, 0, 1, 2].reduce((s, d) => s + bins[(k + d + BINS) % BINS]!, 0));
  const total = bins.reduce((a, b) => a + b, 0);
  const first = smooth.indexOf(Math.max(...smooth));
  let second = -1;
  for (let d = BINS / 3; d <= (2 * BINS) / 3; d++) {
    const k = (first + d) % BINS;
    if (second < 0 || smooth[k]! > smooth[second]!) second = k;
  }
  if (total === 0 || smooth[second]! < 0.1 * total || smooth[first]! < 0.2 * total) return null;
  // Across each family of lines, and so roughly along the other.
  const normals = [first, second].map((k) => {
    const angle = ((weighted(bins, k) + 0.5) * Math.PI) / BINS;
    return { x: Math.cos(angle), y: Math.sin(angle) };
  });
  const along = normals.map((_, k) => {
    const other = normals[1 - k]!;
    return { x: -other.y, y: other.x };
  });
  const strides = along.map((way) => {
    const stride = strideAlong(pixels, { x, y }, way);
    return stride && { x: way.x * stride, y: way.y * stride };
  });
  const [a, b] = strides;
  if (!a || !b) return null;
  // i to the right and j up, as far as that can be said.
  const [i, j] = Math.abs(a.x) >= Math.abs(b.x) ? [a, b] : [b, a];
  return { i: i.x < 0 ? { x: -i.x, y: -i.y } : i, j: j.y > 0 ? { x: -j.x, y: -j.y } : j };
}

const LEAST_GRADIENT = 60;

/** The middle of a peak of directions, as a fraction of bins. */
function weighted(bins: Float64Array, peak: number): number {
  let [sum, moment] = [0, 0];
  for (let d = -3; d <= 3; d++) {
    const weight = bins[(peak + d + BINS) % BINS]!;
    sum += weight;
    moment += weight * d;
  }
  return peak + (sum ? moment / sum : 0);
}

const PROFILE_PX = 420;

/** From line to line along a way: the first clear repeat of the profile, averaged along the lines. */
function strideAlong(pixels: Pixels, at: Vec2, way: Vec2): number | null {
  const count = 2 * PROFILE_PX;
  // Along the lines of the family that is crossed, so that each stands out and the others are averaged away.
  const side = { x: -way.y, y: way.x };
  const raw = new Float64Array(count);
  for (let k = 0; k < count; k++) {
    const t = k - PROFILE_PX;
    let sum = 0;
    for (let s = -14; s <= 14; s += 4)
      sum += greenAt(pixels, at.x + t * way.x + s * side.x, at.y + t * way.y + s * side.y);
    raw[k] = sum / 8;
  }
  const matches = repeats(detrended(raw, 60), 4, MOST_PERIOD_PX);
  const most = Math.max(...matches.slice(LEAST_LAG));
  if (most < LEAST_REPEAT) return null;
  let dipped = false;
  for (let lag = 4; lag <= MOST_PERIOD_PX; lag++) {
    dipped ||= matches[lag]! < 0.25 * most;
    if (dipped && matches[lag]! > 0.6 * most && matches[lag]! >= matches[lag - 1]! && matches[lag]! > matches[lag + 1]!)
      return lag;
  }
  return null;
}

const LEAST_LAG = 8;
const LEAST_REPEAT = 0.25;

/** From a seed crossing over all its neighbours. */
function grow(pixels: Pixels, { at, basis }: { at: Vec2; basis: Basis }, dark: boolean): Found[] {
  const seed = seedCrossing(pixels, at, basis, dark);
  if (!seed) return [];
  const found = new Map<string, Found>([['0 0', { ...seed, i: 0, j: 0, basis }]]);
  const queue = [found.get('0 0') as Found];
  let usual = seed.contrast;
  for (let head = 0; head < queue.length && found.size < MOST_LOOKED; head++) {
    const here = queue[head]!;
    for (const [di, dj] of [
      [1, 0],
      [-1, 0],
      [0, 1],
      [0, -1],
    ] as const) {
      const key = `${here.i + di} ${here.j + dj}`;
      if (found.has(key)) continue;
      const step = di ? here.basis.i : here.basis.j;
      const sense = di + dj;
      const guess = { x: here.at.x + sense * step.x, y: here.at.y + sense * step.y };
      const crossing = crossingAt(pixels, guess, here.basis, dark, REACH);
      if (!crossing || crossing.contrast < 0.3 * usual) continue;
      usual += (crossing.contrast - usual) / 30;
      const moved = { x: sense * (crossing.at.x - here.at.x), y: sense * (crossing.at.y - here.at.y) };
      const blend = (own: Vec2): Vec2 => ({ x: 0.5 * own.x + 0.5 * moved.x, y: 0.5 * own.y + 0.5 * moved.y });
      const next: Found = {
        i: here.i + di,
        j: here.j + dj,
        at: crossing.at,
        sigmaPx: crossing.sigmaPx,
        basis: di ? { i: blend(here.basis.i), j: here.basis.j } : { i: here.basis.i, j: blend(here.basis.j) },
      };
      found.set(key, next);
      queue.push(next);
    }
  }
  return [...found.values()];
}

/** A stride that is so many times too long is no grid that was meant: 2³ or 3³. */
const MOST_HALVINGS = 3;

/** Steps side by side differ by less than this share, however a grid is tilted; one and a half of them do not. */
const UNEVEN = 0.15;

/**
 * The largest piece of a grid that hangs together crossing by crossing. What lies on a grid may lead astray whoever goes
 * round it: how the columns and rows beyond are numbered is known only where good crossings lead there.
 */
function largestPiece(all: readonly Found[]): Found[] {
  const at = new Map(all.map((f) => [`${f.i} ${f.j}`, f]));
  /** From one crossing to the next as far as to the one before it, and to the one after, along the same line. */
  const isOneStep = (a: Found, b: Found): boolean => {
    const [di, dj] = [b.i - a.i, b.j - a.j];
    const length = Math.hypot(b.at.x - a.at.x, b.at.y - a.at.y);
    const [before, after] = [at.get(`${a.i - di} ${a.j - dj}`), at.get(`${b.i + di} ${b.j + dj}`)];
    const others = [before && [before, a], after && [b, after]].flatMap((pair) =>
      pair ? [Math.hypot(pair[1]!.at.x - pair[0]!.at.x, pair[1]!.at.y - pair[0]!.at.y)] : [],
    );
    return others.every((other) => Math.abs(Math.log(length / other)) < UNEVEN);
  };
  const seen = new Set<Found>();
  let largest: Found[] = [];
  for (const first of all) {
    if (seen.has(first)) continue;
    const piece = [first];
    seen.add(first);
    for (let head = 0; head < piece.length; head++) {
      const { i, j } = piece[head]!;
      for (const key of [`${i + 1} ${j}`, `${i - 1} ${j}`, `${i} ${j + 1}`, `${i} ${j - 1}`]) {
        const next = at.get(key);
        if (!next || seen.has(next) || !isOneStep(piece[head]!, next)) continue;
        seen.add(next);
        piece.push(next);
      }
    }
    if (piece.length > largest.length) largest = piece;
  }
  return largest;
}

/** Lines between those that were followed are sought at so many crossings, and are there if so many show them. */
const BETWEEN = { looked: 60, seen: 0.5, contrast: 0.3 } as const;

/**
 * Where there are as good lines half way, or a third, between those that were followed, each second or third of them
 * was taken for the next: faint lines repeat themselves as well over two periods. Null where there are none.
 */
function finerBasis(pixels: Pixels, found: readonly Found[], dark: boolean): Basis | null {
  const first = found[0];
  if (!first || found.length < FEWEST_CROSSINGS) return null;
  const every = Math.ceil(found.length / BETWEEN.looked);
  const looked = found.filter((_, k) => k % every === 0);
  /** How clear the lines of a family are at a share of a stride on, at each crossing looked at; 0 where there is none. */
  const clarity = (along: 'i' | 'j', share: number): number[] =>
    looked.map(({ at, basis }) => {
      const [step, other] = [basis[along], basis[along === 'i' ? 'j' : 'i']];
      const guess = { x: at.x + share * step.x, y: at.y + share * step.y };
      const line = lineBy(pixels, guess, other, (size(step) * (share || 1)) / 2, dark, 2 * REACH);
      return line?.arms === 2 ? line.contrast : 0;
    });
  const parts = (['i', 'j'] as const).map((along) => {
    const own = medianOf(clarity(along, 0));
    return ([3, 2] as const).find((n) => {
      if (size(first.basis[along]) / n < LEAST_PERIOD_PX) return false;
      const between = Array.from({ length: n - 1 }, (_, k) => clarity(along, (k + 1) / n)).flat();
      return between.filter((c) => c > BETWEEN.contrast * own).length > BETWEEN.seen * between.length;
    });
  });
  const [ni, nj] = parts;
  if (!ni && !nj) return null;
  const { i, j } = first.basis;
  return { i: { x: i.x / (ni ?? 1), y: i.y / (ni ?? 1) }, j: { x: j.x / (nj ?? 1), y: j.y / (nj ?? 1) } };
}

/** How far from where it is foretold a line is looked for, in periods. */
const REACH = 0.2;

/** The crossing nearest to a place that may lie anywhere between lines. */
function seedCrossing(pixels: Pixels, at: Vec2, basis: Basis, dark: boolean) {
  let best: ReturnType<typeof crossingAt> = null;
  for (let p = -0.6; p <= 0.6; p += 0.15)
    for (let q = -0.6; q <= 0.6; q += 0.15) {
      const guess = { x: at.x + p * basis.i.x + q * basis.j.x, y: at.y + p * basis.i.y + q * basis.j.y };
      const crossing = crossingAt(pixels, guess, basis, dark, REACH);
      if (crossing && crossing.arms === 4 && (!best || crossing.contrast > best.contrast)) best = crossing;
    }
  return best;
}

/** Arms of a crossing are looked at so far out, in periods. */
const ARM = 0.3;

/** A crossing near a guess, from points on its four arms; three are enough, as at the grid's own edge. */
function crossingAt(pixels: Pixels, guess: Vec2, { i, j }: Basis, dark: boolean, reach: number) {
  const row = lineBy(pixels, guess, i, size(j), dark, reach);
  const column = lineBy(pixels, guess, j, size(i), dark, reach);
  if (!row || !column || row.arms + column.arms < 3) return null;
  const det = row.way.x * column.way.y - row.way.y * column.way.x;
  if (Math.abs(det) < 0.5) return null;
  const [dx, dy] = [column.at.x - row.at.x, column.at.y - row.at.y];
  const t = (dx * column.way.y - dy * column.way.x) / det;
  const at = { x: row.at.x + t * row.way.x, y: row.at.y + t * row.way.y };
  if (Math.hypot(at.x - guess.x, at.y - guess.y) > 1.5 * reach * Math.max(size(i), size(j))) return null;
  return {
    at,
    sigmaPx: Math.hypot(row.sigmaPx, column.sigmaPx) / Math.SQRT2,
    contrast: Math.min(row.contrast, column.contrast),
    arms: row.arms + column.arms,
  };
}

/** The line along `stride` near a guess, from a place on it to either side. */
function lineBy(pixels: Pixels, guess: Vec2, stride: Vec2, period: number, dark: boolean, reach: number) {
  const length = size(stride);
  const way = { x: stride.x / length, y: stride.y / length };
  const normal = { x: -way.y, y: way.x };
  const arms = [-ARM, ARM].flatMap((t) => {
    const x = guess.x + t * stride.x;
    const y = guess.y + t * stride.y;
    const line = lineCentre(pixels, x, y, normal.x, normal.y, {
      reachPx: Math.max(4, reach * period + 3),
      halfLengthPx: Math.max(2, 0.15 * length),
    });
    if (!line || line.contrast < 0 !== dark || Math.abs(line.offPx) > reach * period) return [];
    return [
      {
        at: { x: x + line.offPx * normal.x, y: y + line.offPx * normal.y },
        sigmaPx: line.sigmaPx,
        contrast: Math.abs(line.contrast),
      },
    ];
  });
  const [a, b] = arms;
  if (!a) return null;
  if (!b) return { ...a, way, arms: 1 };
  const span = Math.hypot(b.at.x - a.at.x, b.at.y - a.at.y);
  const own = { x: (b.at.x - a.at.x) / span, y: (b.at.y - a.at.y) / span };
  // Two pieces of one line, not of two: their direction is that of the family.
  if (own.x * way.x + own.y * way.y < 0.99) return null;
  return {
    at: { x: (a.at.x + b.at.x) / 2, y: (a.at.y + b.at.y) / 2 },
    sigmaPx: Math.hypot(a.sigmaPx, b.sigmaPx) / 2,
    contrast: Math.min(a.contrast, b.contrast),
    way: own,
    arms: 2,
  };
}

/** A crossing lies this near to where its neighbours along a line foretell it: so many px and periods. */
const MOST_OFF = { px: 0.35, periods: 0.004, coarsePeriods: 0.012 } as const;

/** Those that lie where their neighbours on one of their lines say. */
function consistent(all: Found[]): Found[] {
  const at = new Map(all.map((f) => [`${f.i} ${f.j}`, f]));
  const near = (f: Found, di: number, dj: number, k: number) => at.get(`${f.i + k * di} ${f.j + k * dj}`)?.at;
  return all.filter((f) => {
    const period = Math.min(size(f.basis.i), size(f.basis.j));
    const ways = [
      [1, 0],
      [0, 1],
    ] as const;
    return ways.some(([di, dj]) => {
      const [a, b, c, d] = [-2, -1, 1, 2].map((k) => near(f, di, dj, k));
      if (!b || !c) return false;
      // Four neighbours foretell it through a cubic, two through a line, which perspective bends.
      const x = a && d ? (4 * (b.x + c.x) - a.x - d.x) / 6 : (b.x + c.x) / 2;
      const y = a && d ? (4 * (b.y + c.y) - a.y - d.y) / 6 : (b.y + c.y) / 2;
      const most = MOST_OFF.px + (a && d ? MOST_OFF.periods : MOST_OFF.coarsePeriods) * period;
      return Math.hypot(f.at.x - x, f.at.y - y) < most;
    });
  });
}
