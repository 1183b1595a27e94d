import type { Vec2 } from '../geometry';
import { factorCholesky, solveCholesky } from '../numeric';
import { lengthOf } from './expression';
import type { Id, Sketch } from './part';
import { observationIn } from './part';

/** Points that decided distances hold together, directly or through others. */
export interface Bound {
  points: Id[];
  /** How much each point resists being moved: one over the square of its scatter. */
  weights: number[];
  distances: { a: number; b: number; mm: number }[];
}

const bounds = new WeakMap<Sketch['dimensions'], { points: Sketch['points']; by: Map<Id, Bound> }>();
const NOTHING: ReadonlyMap<Id, Bound> = new Map();

/** What each point is bound to by decided distances; points that are free of them are not in it. */
export function boundPoints(sketch: Sketch): ReadonlyMap<Id, Bound> {
  const { dimensions, points } = sketch;
  const before = bounds.get(dimensions);
  if (before?.points === points) return before.by;
  const distances = Object.values(dimensions).flatMap((d) => {
    const mm = d.kind === 'distance' ? lengthOf(d.value) : null;
    const [a, b] = d.refs.map((r) => r.id) as [string, string];
    return mm !== null && a !== b && observationIn(sketch, a) && observationIn(sketch, b) ? [{ a, b, mm }] : [];
  });
  if (distances.length === 0) return NOTHING;
  const by = new Map<Id, Bound>();
  for (const { a, b, mm } of distances) {
    const into = by.get(a) ?? by.get(b) ?? { points: [], weights: [], distances: [] };
    const other = by.get(b);
    if (other && other !== into) merge(into, other, by);
    for (const id of [a, b])
      if (!by.has(id)) {
        by.set(id, into);
        into.points.push(id);
        into.weights.push(1 / (observationIn(sketch, id)?.sigmaPx ?? 1) ** 2);
      }
    into.distances.push({ a: into.points.indexOf(a), b: into.points.indexOf(b), mm });
  }
  bounds.set(dimensions, { points, by });
  return by;
}

function merge(into: Bound, other: Bound, by: Map<Id, Bound>): void {
  const shift = into.points.length;
  into.points.push(...other.points);
  into.weights.push(...other.weights);
  into.distances.push(...other.distances.map(({ a, b, mm }) => ({ a: a + shift, b: b + shift, mm })));
  for (const id of other.points) by.set(id, into);
}

/** Steps after which lengths that cannot be together are given up. */
const MOST_STEPS = 60;
const ARRIVED_MM = 1e-11;
/** Lengths that are left apart by more than this contradict each other, mm. */
const CONTRADICTS_MM = 1e-6;

/**
 * Moves places as little as their scatter asks for, until every decided distance is what was decided: weighted least
 * squares under equations, each step on their linear form.
 *
 * In: x and y of each bound point, mm; out: the same, settled. Null where the distances contradict each other.
 * Source: Nocedal & Wright, Numerical Optimization (2006), 18.1.
 */
export function settleDistances({ weights, distances }: Bound, seen: ArrayLike<number>): Float64Array | null {
  const at = Float64Array.from(seen);
  const m = distances.length;
  const square = new Float64Array(m * m);
  const right = new Float64Array(m);
  for (let step = 0; step < MOST_STEPS; step++) {
    const ways = distances.map(({ a, b }) => {
      const [dx, dy] = [at[2 * b]! - at[2 * a]!, at[2 * b + 1]! - at[2 * a + 1]!];
      const length = Math.hypot(dx, dy);
      return length > 0 ? { x: dx / length, y: dy / length, length } : { x: 1, y: 0, length: 0 };
    });
    square.fill(0);
    for (let i = 0; i < m; i++) {
      const { a, b, mm } = distances[i]!;
      const { x, y, length } = ways[i]!;
      // The equation's value, and what going back to what was seen would change of it.
      right[i] =
        length -
        mm +
        x * (seen[2 * b]! - at[2 * b]! - seen[2 * a]! + at[2 * a]!) +
        y * (seen[2 * b + 1]! - at[2 * b + 1]! - seen[2 * a + 1]! + at[2 * a + 1]!);
      for (let j = 0; j < m; j++) {
        const other = distances[j]!;
        const along = x * ways[j]!.x + y * ways[j]!.y;
        let sum = 0;
        if (a === other.a) sum += along / weights[a]!;
        if (b === other.b) sum += along / weights[b]!;
        if (a === other.b) sum -= along / weights[a]!;
        if (b === other.a) sum -= along / weights[b]!;
        square[i * m + j] = sum;
      }
      // Distances that say the same twice are no fault.
      square[i * m + i]! *= 1 + 1e-12;
    }
    if (!factorCholesky(square, m)) return null;
    solveCholesky(square, m, right);
    const next = Float64Array.from(seen);
    for (let i = 0; i < m; i++) {
      const { a, b } = distances[i]!;
      const { x, y } = ways[i]!;
      next[2 * a]! += (right[i]! * x) / weights[a]!;
      next[2 * a + 1]! += (right[i]! * y) / weights[a]!;
      next[2 * b]! -= (right[i]! * x) / weights[b]!;
      next[2 * b + 1]! -= (right[i]! * y) / weights[b]!;
    }
    let moved = 0;
    for (let k = 0; k < at.length; k++) moved = Math.max(moved, Math.abs(next[k]! - at[k]!));
    at.set(next);
    if (moved < ARRIVED_MM) break;
  }
  const worst = Math.max(
    ...distances.map(({ a, b, mm }) =>
      Math.abs(Math.hypot(at[2 * b]! - at[2 * a]!, at[2 * b + 1]! - at[2 * a + 1]!) - mm),
    ),
  );
  return worst < CONTRADICTS_MM ? at : null;
}

/** As `settleDistances`, by name; null where a place is missing or the distances contradict each other. */
export function settlePlaces(bound: Bound, seen: (id: Id) => Vec2 | null): Map<Id, Vec2> | null {
  const flat = new Float64Array(2 * bound.points.length);
  for (const [k, id] of bound.points.entries()) {
    const at = seen(id);
    if (!at) return null;
    flat[2 * k] = at.x;
    flat[2 * k + 1] = at.y;
  }
  const settled = settleDistances(bound, flat);
  return settled && new Map(bound.points.map((id, k) => [id, { x: settled[2 * k]!, y: settled[2 * k + 1]! }]));
}
