import { factorLdl, type LdlFactor, type LdlPlan, newFactor, planLdl, solveLdl } from '../../numeric';
import type { Equation } from './equations';
import type { Unknowns } from './unknowns';

/** Unknowns, their evidence and their equations, set up to be solved as often as wanted. */
export interface System {
  unknowns: Unknowns;
  equations: readonly Equation[];
  factor: LdlFactor;
  /** Entries of [H Jᵀ; J −δI] in the order in which they were planned: H, then J by equations, then the lower diagonal. */
  values: Float64Array;
  h: readonly { i: number; j: number; value: number }[];
  /** Where the entries of each equation begin. */
  jAt: Int32Array;
  slopes: Float64Array;
  residuals: Float64Array;
}

/** Settled to this, mm: far below anything that is made or measured. */
const SETTLED_MM = 1e-9;
const NEARLY_MM = 1e-7;
/** A drag's frame may begin from so near, mm; while it is dragged its figures are rounded further than that. */
const DRAGGED_MM = 1e-6;
/** Damping is not lowered below these shares: while conditions are neared, and once they nearly hold. */
const DAMPED = { nearing: 1e-12, settled: 1e-13 } as const;
/** What keeps a system that hangs together by a hair from dividing by nothing: far below any weight in it. */
const REGULARISED = 1e-9;
/** Nothing is adjusted by smaller steps, mm. */
const ADJUSTED_MM = 1e-9;
/** A misfit is not lower for what rounding leaves of it: a share of it, and a square in mm². */
const SAME_MERIT = { share: 1e-12, mm2: 1e-15 } as const;
const MOST_RESTORING = 40;
const MOST_ADJUSTING = 12;
/** In how many steps a decided size that is far off is tried to be reached. */
const FAR_STEPS = [1, 4, 16] as const;

const plans = new WeakMap<object, { rows: number[]; columns: number[]; plan: LdlPlan }>();

/** Plans the factoring, or has it from the last time for the same thing, where its entries are the same. */
function planOnce(of: object, size: number, rows: number[], columns: number[]): LdlPlan {
  const known = plans.get(of);
  const isSame = (a: number[], b: number[]) => a.length === b.length && a.every((v, k) => v === b[k]);
  if (known && known.plan.size === size && isSame(known.rows, rows) && isSame(known.columns, columns))
    return known.plan;
  const plan = planLdl(size, rows, columns);
  plans.set(of, { rows, columns, plan });
  return plan;
}

/** H, entry by entry of its lower triangle. */
function weightsOf({ size, rows }: Unknowns): System['h'] {
  const weights = new Map<number, number>();
  for (const { at, slopes, weight } of rows)
    for (let p = 0; p < at.length; p++)
      for (let q = 0; q <= p; q++) {
        const [i, j] = [Math.max(at[p]!, at[q]!), Math.min(at[p]!, at[q]!)];
        weights.set(i * size + j, (weights.get(i * size + j) ?? 0) + weight * slopes[p]! * slopes[q]!);
      }
  // Even what nothing was seen of has an entry.
  for (let i = 0; i < size; i++) if (!weights.has(i * size + i)) weights.set(i * size + i, REGULARISED);
  return [...weights].map(([key, value]) => ({ i: Math.floor(key / size), j: key % size, value }));
}

/** The same system with the same equations, of unknowns that were seen elsewhere. */
export const renewSystem = (before: System, unknowns: Unknowns): System => ({
  ...before,
  unknowns,
  h: weightsOf(unknowns),
});

/** Sets a system up. `of`: what it is of, whose plan of factoring is kept for the next time. */
export function newSystem(unknowns: Unknowns, equations: readonly Equation[], of: object = unknowns): System {
  const { size } = unknowns;
  const rows: number[] = [];
  const columns: number[] = [];
  const h = weightsOf(unknowns);
  for (const { i, j } of h) {
    rows.push(i);
    columns.push(j);
  }
  const jAt = new Int32Array(equations.length + 1);
  jAt[0] = rows.length;
  equations.forEach(({ at }, k) => {
    for (const i of at) {
      rows.push(size + k);
      columns.push(i);
    }
    jAt[k + 1] = rows.length;
  });
  for (let k = 0; k < equations.length; k++) {
    rows.push(size + k);
    columns.push(size + k);
  }
  return {
    unknowns,
    equations,
    factor: newFactor(planOnce(of, size + equations.length, rows, columns)),
    values: new Float64Array(rows.length),
    h,
    jAt,
    slopes: new Float64Array(size),
    residuals: new Float64Array(equations.length),
  };
}

/** What the equations come to; with their slopes put in place, where that is wanted. Out: the largest, mm. */
function evaluate(system: System, x: Float64Array, share: number, withSlopes: boolean): number {
  const { equations, residuals, slopes, values, jAt } = system;
  let largest = 0;
  for (let k = 0; k < equations.length; k++) {
    const { at, value } = equations[k]!;
    const own = value(x, withSlopes ? slopes : null, share);
    residuals[k] = own;
    largest = Number.isNaN(own) ? Number.NaN : Math.max(largest, Math.abs(own));
    if (!withSlopes) continue;
    for (let p = 0; p < at.length; p++) {
      values[jAt[k]! + p] = slopes[at[p]!]!;
      slopes[at[p]!] = 0;
    }
  }
  return largest;
}

const squared = (residuals: Float64Array): number => residuals.reduce((sum, r) => sum + r * r, 0);

/** How much more what is pinned weighs than what may move. */
const PINNED = 1e8;

/** Puts H (or ones, `pinned` unknowns apart) and −δ in place, and factors. */
export function factorAt(
  system: System,
  evidence: boolean,
  delta: number,
  pinned: ReadonlySet<number> | null = null,
): boolean {
  const { h, values, jAt, equations, factor } = system;
  for (let k = 0; k < h.length; k++) {
    const { i, j, value } = h[k]!;
    values[k] = evidence ? value : i === j ? (pinned?.has(i) ? PINNED : 1) : 0;
  }
  values.fill(-delta, jAt[equations.length]!);
  return factorLdl(factor, values);
}

/** Puts the slopes at x in place, for whoever factors next. */
export const linearise = (system: System, x: Float64Array): number => evaluate(system, x, 1, true);

/**
 * Brings x to where all equations hold, moving it as little as they ask for: damped as far as they are from holding.
 * Out: the largest that is left, mm.
 * Source: Yamashita & Fukushima, On the rate of convergence of the Levenberg-Marquardt method (2001); Fan & Yuan (2005).
 */
export function restore(
  system: System,
  x: Float64Array,
  share: number,
  until: number,
  least: number,
  pinned: ReadonlySet<number> | null = null,
): number {
  const { unknowns, equations, residuals, factor } = system;
  const { size } = unknowns;
  let largest = evaluate(system, x, share, true);
  let damping = 0.1;
  let stalled = 0;
  const step = new Float64Array(size + equations.length);
  const next = new Float64Array(size);
  for (let k = 0; k < MOST_RESTORING && !(largest < until) && stalled < 8; k++) {
    const before = squared(residuals);
    const delta = Math.max(least, Math.min(1, damping * before));
    step.fill(0, 0, size);
    for (let e = 0; e < equations.length; e++) step[size + e] = -residuals[e]!;
    const was = residuals.slice();
    if (!factorAt(system, false, delta, pinned)) {
      damping *= 30;
      stalled += 1;
      continue;
    }
    solveLdl(factor, step);
    for (let i = 0; i < size; i++) next[i] = x[i]! + step[i]!;
    const after = evaluate(system, next, share, true);
    const sum = squared(residuals);
    if (sum < before) {
      // Hardly nearer: that is as near as it gets.
      stalled = sum > before * 0.98 ? stalled + 1 : 0;
      x.set(next);
      largest = after;
      damping /= 4;
    } else {
      residuals.set(was);
      evaluate(system, x, share, true);
      damping = Math.min(damping * 30, 1e12);
      stalled += 1;
    }
  }
  return largest;
}

/** Moves x to where the evidence is missed least while all equations hold. */
function adjust(system: System, x: Float64Array, most: number): void {
  const { unknowns, equations, residuals, factor, h } = system;
  const { size, start } = unknowns;
  const step = new Float64Array(size + equations.length);
  const next = new Float64Array(size);
  const misfit = (at: Float64Array): number => {
    let sum = 0;
    for (const { i, j, value } of h) sum += (i === j ? 1 : 2) * value * (at[i]! - start[i]!) * (at[j]! - start[j]!);
    return sum / 2;
  };
  evaluate(system, x, 1, true);
  for (let k = 0; k < most; k++) {
    const merit = misfit(x) + 10 * Math.sqrt(squared(residuals));
    step.fill(0);
    for (const { i, j, value } of h) {
      step[i]! -= value * (x[j]! - start[j]!);
      if (i !== j) step[j]! -= value * (x[i]! - start[i]!);
    }
    for (let e = 0; e < equations.length; e++) step[size + e] = -residuals[e]!;
    if (!factorAt(system, true, REGULARISED)) return;
    solveLdl(factor, step);
    let moved = 0;
    for (let i = 0; i < size; i++) moved = Math.max(moved, Math.abs(step[i]!));
    let way = 1;
    for (; way > 0.01; way /= 2) {
      for (let i = 0; i < size; i++) next[i] = x[i]! + way * step[i]!;
      evaluate(system, next, 1, false);
      if (misfit(next) + 10 * Math.sqrt(squared(residuals)) <= merit * (1 + SAME_MERIT.share) + SAME_MERIT.mm2) break;
    }
    if (way > 0.01) x.set(next);
    evaluate(system, x, 1, true);
    if (way <= 0.01 || moved < ADJUSTED_MM) return;
  }
}

export interface Solved {
  x: Float64Array;
  /** The largest that an equation is left from holding, mm. */
  missedMm: number;
}

/**
 * Settles a system: all equations hold, and what was seen is missed as little as they allow. `from`: where to begin, for a
 * frame of a drag; else from what was seen. What lies far off is gone to in steps. Null where no such place was found.
 *
 * Source: quasi-definite systems, Vanderbei (1995), Friedlander & Orban (2012); sequential quadratic programming, Nocedal
 * & Wright, Numerical Optimization (2006), 18.
 */
export function solve(system: System, from: Float64Array | null = null): Solved | null {
  const { start } = system.unknowns;
  if (from) {
    const x = Float64Array.from(from);
    if (restore(system, x, 1, DRAGGED_MM, DAMPED.nearing) < DRAGGED_MM) {
      adjust(system, x, 3);
      const missedMm = restore(system, x, 1, DRAGGED_MM / 100, DAMPED.settled);
      if (missedMm < DRAGGED_MM) return { x, missedMm };
    }
  }
  for (const steps of FAR_STEPS) {
    const x = Float64Array.from(start);
    let missed = 0;
    for (let k = 1; k <= steps && (k === 1 || missed < NEARLY_MM); k++)
      missed = restore(system, x, k / steps, NEARLY_MM, DAMPED.nearing);
    if (!(missed < NEARLY_MM)) continue;
    const feasible = Float64Array.from(x);
    adjust(system, x, MOST_ADJUSTING);
    missed = restore(system, x, 1, SETTLED_MM / 10, DAMPED.settled);
    if (missed < SETTLED_MM) return { x, missedMm: missed };
    missed = restore(system, feasible, 1, SETTLED_MM / 10, DAMPED.settled);
    // With a double root the last digits are not to be had.
    if (missed < NEARLY_MM) return { x: feasible, missedMm: missed };
  }
  const { x, missedMm } = nearestWay(system);
  return missedMm < NEARLY_MM ? { x, missedMm } : null;
}

/**
 * How softly widths are told on the way, mm: from what a hand is off by to what nobody sees, by this factor each time. With
 * larger steps the crease is left: measured on 75 rectangles, 6 of 25 arrived by tens, all of them so.
 */
const SOFT = { fromMm: 0.3, toMm: 1e-8, factor: 2.5 } as const;
/** Where it creeps it is begun anew so often. */
const MOST_TRIES = 12;
/** At a place where nothing comes nearer the equations pull against each other to this share. */
const PULLING = 1e-3;
/** Missing by more, mm, and by more than this share of what it missed at first, conditions are sure not to hold together. */
const SURELY = { mm: 0.05, share: 0.2 } as const;
/** Nearer than this to holding, mm, nobody can say that they do not hold. */
const CERTAIN_MM = 1e-5;

/**
 * As near as a system comes to holding from where it was seen, its widths told softly at first: past creases, where two
 * corners are outermost at once, and to double roots, where each step goes half of the way.
 *
 * Out: where that is, how far it misses there, mm, and whether it is sure that nothing nearby misses less: all that misses
 * pulls against one another. Where that is not sure nothing contradicts itself; it was only not found.
 */
export function nearestWay(system: System): { x: Float64Array; missedMm: number; isSure: boolean } {
  const { unknowns } = system;
  const x = Float64Array.from(unknowns.start);
  let isSure: boolean | null = null;
  for (let soft: number = SOFT.fromMm; soft > SOFT.toMm; soft /= SOFT.factor) {
    unknowns.soft.mm = soft;
    let missed = Number.POSITIVE_INFINITY;
    for (let k = 0; k < MOST_TRIES; k++) {
      const before = missed;
      missed = restore(system, x, 1, NEARLY_MM / 100, DAMPED.nearing);
      if (missed < NEARLY_MM || missed > 0.99 * before) break;
    }
    if (soft < CERTAIN_MM) isSure ??= isHeldApart(system, x);
  }
  unknowns.soft.mm = 0;
  const atFirst = evaluate(system, unknowns.start, 1, false);
  const missedMm = evaluate(system, x, 1, true);
  // Along a crease slopes tell nothing: there only what all that way hardly helped against is sure.
  const hardlyHelped = missedMm > SURELY.mm && missedMm > SURELY.share * atFirst;
  return { x, missedMm, isSure: missedMm > CERTAIN_MM && (isSure === true || hardlyHelped) };
}

/** Whether what misses cancels out: the slope of the misfit is nothing beside the pulls that it is made of. */
function isHeldApart(system: System, x: Float64Array): boolean {
  for (let k = 0; k < 3; k++) restore(system, x, 1, NEARLY_MM / 100, DAMPED.nearing);
  evaluate(system, x, 1, true);
  const { equations, residuals, values, jAt, unknowns } = system;
  const pull = new Float64Array(unknowns.size);
  let pulls = 0;
  equations.forEach(({ at }, e) => {
    let square = 0;
    for (let p = 0; p < at.length; p++) {
      const own = residuals[e]! * values[jAt[e]! + p]!;
      pull[at[p]!]! += own;
      square += own * own;
    }
    pulls = Math.max(pulls, Math.sqrt(square));
  });
  return pulls > 0 && Math.hypot(...pull) <= PULLING * pulls;
}
