import { between, type Circle, circleThrough, type Vec2 } from '../geometry';
import { medianOf, solveLeastSquares } from '../numeric';

/** A circle through many points, with how well they hold it. */
export interface CircleFit extends Circle {
  /** σ of one point about the circle, in the unit of the points. */
  scatter: number;
  /** Points that lie on it; the rest follow something else. */
  used: number;
}

/** Points further out than this many robust σ are not of the circle. */
const STRAY_SIGMAS = 3;
const FEWEST_POINTS = 6;
const ROUNDS = 4;

/**
 * Fits a circle by the distances of points to it (geometric, not algebraic), leaving strays out.
 *
 * Points are taken in order round the rim. The start is the circle through three of them, a third of the list apart,
 * from which the others lie least far in the median: up to half the points may follow something else. With `sigmas`, in
 * any unit, each counts by how well it is known.
 * Degenerate: fewer than six points that agree give null.
 * Source: Rousseeuw (1984) for the median; Taubin (1991), then least squares on the distances.
 */
export function fitCircle(points: readonly Vec2[], sigmas: readonly number[] | null = null): CircleFit | null {
  if (points.length < FEWEST_POINTS) return null;
  let circle = leastMedianCircle(points);
  const indices = points.map((_, k) => k);
  let used = indices;
  const off = (k: number, here: Circle) => Math.abs(between(points[k]!, here.centre) - here.radius);
  for (let round = 0; circle && round < ROUNDS; round++) {
    const here = circle;
    const usual =
      1.4826 *
      medianOf(
        used.map((k) => off(k, here)),
        0,
      );
    const kept = indices.filter((k) => off(k, here) <= STRAY_SIGMAS * usual + ROUNDING * here.radius);
    if (kept.length < FEWEST_POINTS) return null;
    const settled = kept.length === used.length && round > 0;
    used = kept;
    if (settled) break;
    const places = used.map((k) => points[k]!);
    const start = taubin(places);
    circle = start && settle(places, sigmas && used.map((k) => 1 / sigmas[k]!), start);
  }
  if (!circle) return null;
  const { centre, radius } = circle;
  const square = used.reduce((sum, k) => sum + (between(points[k]!, centre) - radius) ** 2, 0);
  return { centre, radius, scatter: Math.sqrt(square / Math.max(1, used.length - 3)), used: used.length };
}

/** Exact points lie off their circle by rounding only, relative to its radius. */
const ROUNDING = 1e-12;

function leastMedianCircle(points: readonly Vec2[]): Circle | null {
  const n = points.length;
  const third = Math.floor(n / 3);
  let best: Circle | null = null;
  let least = Number.POSITIVE_INFINITY;
  for (let k = 0; k < n; k++) {
    const circle = circleThrough(points[k]!, points[(k + third) % n]!, points[(k + 2 * third) % n]!);
    if (!circle) continue;
    const away = medianOf(points.map((p) => Math.abs(between(p, circle.centre) - circle.radius)));
    if (away < least) {
      least = away;
      best = circle;
    }
  }
  return best;
}

/** Taubin's algebraic fit by Newton on its characteristic polynomial, on centred points; null on a line. */
export function taubin(points: readonly Vec2[]): Circle | null {
  const n = points.length;
  const mx = points.reduce((s, p) => s + p.x, 0) / n;
  const my = points.reduce((s, p) => s + p.y, 0) / n;
  let [xx, yy, xy, xz, yz, zz] = [0, 0, 0, 0, 0, 0];
  for (const p of points) {
    const x = p.x - mx;
    const y = p.y - my;
    const z = x * x + y * y;
    xx += (x * x) / n;
    yy += (y * y) / n;
    xy += (x * y) / n;
    xz += (x * z) / n;
    yz += (y * z) / n;
    zz += (z * z) / n;
  }
  const mz = xx + yy;
  const cov = xx * yy - xy * xy;
  const a3 = 4 * mz;
  const a2 = -3 * mz * mz - zz;
  const a1 = zz * mz + 4 * cov * mz - xz * xz - yz * yz - mz * mz * mz;
  const a0 = xz * xz * yy + yz * yz * xx - zz * cov - 2 * xz * yz * xy + mz * mz * cov;
  let root = 0;
  for (let k = 0; k < 50; k++) {
    const value = a0 + root * (a1 + root * (a2 + root * a3));
    const slope = a1 + root * (2 * a2 + 3 * a3 * root);
    const next = root - value / slope;
    if (!Number.isFinite(next) || Math.abs(next - root) <= 1e-14 * mz) break;
    root = next;
  }
  const det = root * root - root * mz + cov;
  if (det === 0) return null;
  const cx = (xz * (yy - root) - yz * xy) / det / 2;
  const cy = (yz * (xx - root) - xz * xy) / det / 2;
  return { centre: { x: cx + mx, y: cy + my }, radius: Math.sqrt(cx * cx + cy * cy + mz) };
}

function settle(points: readonly Vec2[], weights: readonly number[] | null, start: Circle): Circle | null {
  const found = solveLeastSquares(
    {
      size: 3,
      residuals(p, sink) {
        for (const [k, q] of points.entries()) {
          const w = weights ? weights[k]! : 1;
          const dx = p[0]! - q.x;
          const dy = p[1]! - q.y;
          const d = Math.hypot(dx, dy);
          if (d === 0) return false;
          sink.add(w * (d - p[2]!), INDICES, [(w * dx) / d, (w * dy) / d, -w]);
        }
        return true;
      },
    },
    Float64Array.of(start.centre.x, start.centre.y, start.radius),
    { smallestStep: 1e-10 },
  );
  if (!found.ok) return null;
  const [x, y, radius] = found.parameters;
  return { centre: { x: x!, y: y! }, radius: radius! };
}

const INDICES = [0, 1, 2];
