import type { Vec2 } from '../../geometry';

export interface Spline {
  degree: number;
  knots: readonly number[];
  controls: readonly Vec2[];
}

/** Most control points that one spline may have: knots are inserted one by one. */
const MOST_CONTROLS = 5000;

/**
 * A B-spline without weights, of degree 1 to 3, as cubic Béziers end to end: every inner knot is inserted until the
 * curve touches its controls there (Boehm 1980), and lower degrees are raised. Exact.
 * Null where the knots do not fit the controls, or the curve does not begin and end in its first and last control.
 */
export function splineCurves(spline: Spline): { from: Vec2; handleFrom: Vec2; handleTo: Vec2; to: Vec2 }[] | null {
  const { degree } = spline;
  let { knots, controls } = spline;
  if (degree < 1 || degree > 3 || controls.length <= degree || controls.length > MOST_CONTROLS) return null;
  if (knots.length !== controls.length + degree + 1 || !isSorted(knots)) return null;
  const [low, high] = [knots[degree], knots[controls.length]];
  if (!(high > low)) return null;
  // Also the ends, where a spline does not touch them of itself.
  for (const knot of new Set(knots.filter((k) => k >= low && k <= high))) {
    for (let have = count(knots, knot); have < degree; have++)
      [knots, controls] = insertKnot(degree, knots, controls, knot);
  }
  const first = knots.lastIndexOf(low) - degree;
  const last = knots.indexOf(high) - 1;
  const pieces: { from: Vec2; handleFrom: Vec2; handleTo: Vec2; to: Vec2 }[] = [];
  for (let k = Math.max(0, first); k + degree <= last && k + degree < controls.length; k += degree)
    pieces.push(asCubic(controls.slice(k, k + degree + 1)));
  return pieces.length ? pieces : null;
}

const isSorted = (knots: readonly number[]): boolean =>
  knots.every((k, i) => Number.isFinite(k) && (i === 0 || k >= knots[i - 1]));

const count = (knots: readonly number[], knot: number): number => knots.filter((k) => k === knot).length;

function insertKnot(
  degree: number,
  knots: readonly number[],
  controls: readonly Vec2[],
  u: number,
): [number[], Vec2[]] {
  // The span that u lies in; at the end of the curve the last one that is not empty.
  let span = knots.findLastIndex((k) => k <= u);
  while (span > 0 && knots[span] === knots[span + 1]) span -= 1;
  span = Math.min(span, controls.length - 1);
  const next: Vec2[] = [];
  for (let i = 0; i <= controls.length; i++) {
    if (i <= span - degree) next.push(controls[i]);
    else if (i > span) next.push(controls[i - 1]);
    else {
      const share = (u - knots[i]) / (knots[i + degree] - knots[i]);
      const [p, q] = [controls[i - 1], controls[i]];
      next.push({ x: p.x + share * (q.x - p.x), y: p.y + share * (q.y - p.y) });
    }
  }
  return [[...knots.slice(0, span + 1), u, ...knots.slice(span + 1)], next];
}

function asCubic(c: readonly Vec2[]): { from: Vec2; handleFrom: Vec2; handleTo: Vec2; to: Vec2 } {
  const mix = (p: Vec2, q: Vec2, t: number): Vec2 => ({ x: p.x + t * (q.x - p.x), y: p.y + t * (q.y - p.y) });
  if (c.length === 4) return { from: c[0], handleFrom: c[1], handleTo: c[2], to: c[3] };
  if (c.length === 3)
    return { from: c[0], handleFrom: mix(c[0], c[1], 2 / 3), handleTo: mix(c[2], c[1], 2 / 3), to: c[2] };
  return { from: c[0], handleFrom: mix(c[0], c[1], 1 / 3), handleTo: mix(c[0], c[1], 2 / 3), to: c[1] };
}
