import { factorLdl, type LdlFactor, newFactor, selectedInverse, solveLdl } from '../../numeric';
import type { Id, Sketch } from '../part';
import { type Cluster, isConstraint } from './clusters';
import { heldIn, type SettledCluster } from './settleSketch';
import { linearise, restore, type System } from './solve';

/** What is still free in a cluster, and what of it is said twice. */
export interface Freedom {
  /** How many ways it can move that its conditions leave open. */
  free: number;
  /** Of the ways that look free at first order: how many are held all the same, as a folded chain is. */
  onlyJust: number;
  /** By point: which way it can move, rad, and whether any way. Points that are settled are not in it. */
  points: ReadonlyMap<Id, { direction: number; anyWay: boolean }>;
  /** Arcs, curves and circles whose bend or size is free. */
  shapes: ReadonlySet<Id>;
  /** Decided sizes that the rest already gives. */
  given: ReadonlySet<Id>;
}

/** Damping of the rank, on rows of unit length. */
const DELTA = 1e-10;
/** Weight of what is held: what it could move by is nothing beside it. */
const PINNED = 1e12;
/** Below this share of a motion a point does not take part in it; noise of the inverse is far below. */
const TAKES_PART = 1e-5;
/** Freedoms of two points that differ by less are the same: the first is taken, whatever rounding says. */
const SAME_FREEDOM = 1e-9;
/** An equation is not stirred by a motion where its slopes cancel out to this share of themselves. */
const HELD_SHARE = 1e-7;
/** What is left of a way once those before it are taken out: less is none. */
const NO_WAY = 1e-9;
/** A motion that leaves conditions missed by more, mm, is held. */
const HELD_MM = 1e-7;
/** How far a motion that looks free is tried, mm. */
const TRIED_MM = 0.02;

/**
 * Tells what of a settled cluster is free. `isMain`: its place and turn on the sheet are as measured and count as settled;
 * another one may still move against the rest.
 *
 * Source: entries of the inverse, Erisman & Tinney (1975); redundancy numbers as in Baarda (1968).
 */
export function freedomOf(sketch: Sketch, cluster: Cluster, settled: SettledCluster, isMain: boolean): Freedom {
  const { system, solved } = settled;
  const { unknowns, equations } = system;
  linearise(system, solved.x);
  const rank = newRank(system);
  const all = new Set(equations.map((_, k) => k));
  // What is held as it was measured makes no size a mere consequence: of that it is told as if nothing were held.
  const sheet = new Set<number>();
  const loose = rank(sheet, all);
  if (isMain && loose) pinSheet(system, solved.x, loose.diagonal, sheet);
  const pinned = new Set<number>();
  for (const id of heldIn(sketch, cluster)) {
    const k = unknowns.pointAt.get(id);
    if (k !== undefined) pinned.add(k).add(k + 1);
    const shape = unknowns.shapeAt.get(id);
    if (shape) for (let j = 0; j < (shape.curve.kind === 'cubic' ? 4 : 1); j++) pinned.add(shape.at + j);
  }
  let found = rank(pinned, all);
  if (!found) return { free: 0, onlyJust: 0, points: new Map(), shapes: new Set(), given: new Set() };
  if (isMain && pinned.size === 0) {
    pinSheet(system, solved.x, found.diagonal, pinned);
    found = rank(pinned, all) ?? found;
  }
  const { diagonal, off } = found;
  let free = 0;
  for (const v of diagonal) free += v;
  const points = new Map<Id, { direction: number; anyWay: boolean }>();
  for (const [id, k] of unknowns.pointAt) {
    const [xx, yy, xy] = [diagonal[k]!, diagonal[k + 1]!, off(k, k + 1)];
    const [mean, half] = [(xx + yy) / 2, Math.hypot((xx - yy) / 2, xy)];
    if (mean + half < TAKES_PART) continue;
    points.set(id, { direction: Math.atan2(2 * xy, xx - yy) / 2, anyWay: mean - half > 0.1 * (mean + half) });
  }
  const shapes = new Set<Id>();
  for (const [id, { at, curve }] of unknowns.shapeAt)
    for (let k = 0; k < (curve.kind === 'cubic' ? 4 : 1); k++) if (diagonal[at + k]! > TAKES_PART) shapes.add(id);
  const count = Math.round(free);
  const onlyJust = count > 0 ? heldAtSecondOrder(system, solved.x, found.factor, pinned, count) : 0;
  const first = pinned.size === sheet.size ? found : rank(sheet, all);
  const given = first ? givenByRest(cluster, system, rank, sheet, first) : new Set<Id>();
  return { free: count - onlyJust, onlyJust, points, shapes, given };
}

interface Ranked {
  factor: LdlFactor;
  /** By the unknown: the share of it that is free to move. */
  diagonal: Float64Array;
  off(i: number, j: number): number;
  /** By the equation: how much of it the others say. */
  redundancy: Float64Array;
}

type Rank = (pinned: ReadonlySet<number>, which: ReadonlySet<number>) => Ranked | null;

/** Ranks the equations of a system as it was linearised last, or some of them. */
function newRank({ unknowns, equations, values, jAt, h, factor: { plan } }: System): Rank {
  const { size } = unknowns;
  const rows = equations.map((_, k) => values.slice(jAt[k]!, jAt[k + 1]!));
  const lengths = rows.map((row) => Math.hypot(...row) || 1);
  return (pinned, which) => {
    const filled = new Float64Array(values.length);
    h.forEach(({ i, j }, k) => {
      filled[k] = i !== j ? 0 : pinned.has(i) ? PINNED : 1;
    });
    rows.forEach((row, k) => {
      if (which.has(k)) for (let p = 0; p < row.length; p++) filled[jAt[k]! + p] = row[p]! / lengths[k]!;
    });
    filled.fill(-DELTA, jAt[equations.length]!);
    const factor = newFactor(plan);
    if (!factorLdl(factor, filled)) return null;
    const inverse = selectedInverse(factor);
    const at = (i: number, j: number) => inverse(i, j) ?? 0;
    return {
      factor,
      diagonal: Float64Array.from({ length: size }, (_, i) => Math.max(0, at(i, i))),
      off: at,
      redundancy: Float64Array.from(equations, (_, k) => (which.has(k) ? -DELTA * at(size + k, size + k) : 0)),
    };
  };
}

/** Pins one point, and the direction to another one, as far as the whole can move and turn on the sheet. */
function pinSheet(
  { unknowns, equations, values, jAt }: System,
  x: Float64Array,
  free: Float64Array,
  pinned: Set<number>,
) {
  const points = [...unknowns.pointAt.values()];
  if (points.length === 0) return;
  const freeOf = (k: number) => free[k]! + free[k + 1]!;
  const anchor = points.reduce((best, k) => (freeOf(k) < freeOf(best) - SAME_FREEDOM ? k : best));
  const pointOf = new Map(points.flatMap((k) => [[k, k] as const, [k + 1, k] as const]));
  const isFree = (byX: (k: number) => number, byY: (k: number) => number): boolean =>
    equations.every(({ at }, e) => {
      const [sum, size] = at.reduce(
        ([s, m], i, p) => {
          const k = pointOf.get(i);
          const v = k === undefined ? 0 : values[jAt[e]! + p]! * (k === i ? byX(k) : byY(k));
          return [s + v, m + Math.abs(v)] as [number, number];
        },
        [0, 0] as [number, number],
      );
      return Math.abs(sum) <= HELD_SHARE * Math.max(1, size);
    });
  if (
    isFree(
      () => 1,
      () => 0,
    )
  )
    pinned.add(anchor);
  if (
    isFree(
      () => 0,
      () => 1,
    )
  )
    pinned.add(anchor + 1);
  const turns = isFree(
    (k) => -(x[k + 1]! - x[anchor + 1]!),
    (k) => x[k]! - x[anchor]!,
  );
  if (!turns) return;
  const away = (k: number) => Math.hypot(x[k]! - x[anchor]!, x[k + 1]! - x[anchor + 1]!);
  const farthest = Math.max(...points.map(away));
  const far = points.filter((k) => away(k) > farthest / 2);
  const other = far.reduce((best, k) => (freeOf(k) < freeOf(best) - SAME_FREEDOM ? k : best), far[0]!);
  const isAcross = Math.abs(x[other]! - x[anchor]!) > Math.abs(x[other + 1]! - x[anchor + 1]!);
  pinned.add(isAcross ? other + 1 : other);
}

/**
 * Of motions that look free: how many go back to where they came from once they are tried, because the conditions hold
 * them at second order (Connelly & Whiteley, Second-order rigidity and prestress stability, 1996).
 */
function heldAtSecondOrder(
  system: System,
  x: Float64Array,
  factor: LdlFactor,
  pinned: ReadonlySet<number>,
  count: number,
): number {
  const { size } = system.unknowns;
  const ways: Float64Array[] = [];
  let held = 0;
  // Of many free motions none is worth a closer look: there is more to be settled first.
  const tried = Math.min(count, 12);
  for (let k = 0; k < tried; k++) {
    const way = new Float64Array(size + system.equations.length);
    for (let i = 0; i < size; i++) way[i] = Math.sin(12.9898 * (i + 1) + 78.233 * (k + 1));
    solveLdl(factor, way);
    const own = way.slice(0, size);
    for (const other of ways) {
      const along = own.reduce((sum, v, i) => sum + v * other[i]!, 0);
      for (let i = 0; i < size; i++) own[i]! -= along * other[i]!;
    }
    const length = Math.hypot(...own);
    if (!(length > NO_WAY)) continue;
    for (let i = 0; i < size; i++) own[i]! /= length;
    ways.push(own);
    const far = Math.max(...own.map(Math.abs));
    const at = x.map((v, i) => v + (own[i]! * TRIED_MM) / far);
    const missed = restore(system, at, 1, HELD_MM / 1000, 1e-13, pinned);
    const went = at.reduce((sum, v, i) => sum + (v - x[i]!) * own[i]!, 0) / (TRIED_MM / far);
    if (missed > HELD_MM || Math.abs(went) < 0.5) held += 1;
  }
  // The slopes were put where the last motion went.
  linearise(system, x);
  return held;
}

/** More than this share of an equation is said by others: it could go. */
const SAID = 1e-3;

/**
 * Decided sizes that could go and nothing would be freer; of those that say the same the one that came last. Several are
 * let go at once as long as nothing is freer without all of them, twice as many each time: one by one a part of which
 * everything is said twice would be ranked as often as it has sizes.
 */
function givenByRest(
  cluster: Cluster,
  system: System,
  rank: Rank,
  pinned: ReadonlySet<number>,
  first: Ranked,
): Set<Id> {
  const given = new Set<Id>();
  const equationsOfSize = new Map<Id, number[]>();
  for (const c of cluster.conditions) if (!isConstraint(c)) equationsOfSize.set(c.id, []);
  for (const [k, { condition }] of system.equations.entries()) equationsOfSize.get(condition)?.push(k);
  const sizes = [...equationsOfSize].reverse();
  let which = new Set(system.equations.map((_, k) => k));
  let now = first;
  let most = 1;
  for (let from = 0; from < sizes.length; ) {
    // What only it says stays so, whatever else goes.
    const going: typeof sizes = [];
    let to = from;
    for (; to < sizes.length && going.length < most; to++)
      if (sizes[to]![1].some((k) => now.redundancy[k]! > SAID)) going.push(sizes[to]!);
    if (going.length === 0) return given;
    const rest = new Set(which);
    for (const [, own] of going) for (const k of own) rest.delete(k);
    const next = rank(pinned, rest);
    if (!next) return given;
    if (most > 1 && freeIn(next) - freeIn(now) > SAID) {
      most >>= 1;
      continue;
    }
    for (const [id] of going) given.add(id);
    [which, now, from, most] = [rest, next, to, 2 * most];
  }
  return given;
}

const freeIn = ({ diagonal }: Ranked): number => diagonal.reduce((sum, v) => sum + v, 0);
