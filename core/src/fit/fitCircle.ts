import type { Circle, Vec2 } from '../geometry';
import { solveLeastSquares } from '../numeric';

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
 * Fits a circle by the distances of points to it (geometric, not algebraic), leaving strays out round by round.
 * Degenerate: fewer than six points that agree give null.
 * Source: started by Taubin (1991), settled by least squares on the distances.
 */
export function fitCircle(points: readonly Vec2[]): CircleFit | null {
  let used = [...points];
  for (let round = 0; round < ROUNDS; round++) {
    if (used.length < FEWEST_POINTS) return null;
    const start = taubin(used);
    const circle = start && settle(used, start);
    if (!circle) return null;
    const away = points.map((p) => Math.hypot(p.x - circle.centre.x, p.y - circle.centre.y) - circle.radius);
    const usual = 1.4826 * median(used.map((p) => Math.abs(Math.hypot(p.x - circle.centre.x, p.y - circle.centre.y) - circle.radius)));
    const kept = points.filter((_, k) => Math.abs(away[k]) <= STRAY_SIGMAS * usual + Number.EPSILON * circle.radius);
    if (round === ROUNDS - 1 || kept.length === used.length) {
      const square = kept.reduce((sum, p) => sum + (Math.hypot(p.x - circle.centre.x, p.y - circle.centre.y) - circle.radius) ** 2, 0);
      return { ...circle, scatter: Math.sqrt(square / Math.max(1, kept.length - 3)), used: kept.length };
    }
    used = kept;
  }
  return null;
}

/** Taubin's algebraic fit by Newton on its characteristic polynomial, on centred points. */
function taubin(points: readonly Vec2[]): Circle | null {
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

function settle(points: readonly Vec2[], start: Circle): Circle | null {
  const found = solveLeastSquares(
    {
      size: 3,
      residuals(p, sink) {
        for (const q of points) {
          const dx = p[0] - q.x;
          const dy = p[1] - q.y;
          const d = Math.hypot(dx, dy);
          if (d === 0) return false;
          sink.add(d - p[2], INDICES, [dx / d, dy / d, -1]);
        }
        return true;
      },
    },
    Float64Array.of(start.centre.x, start.centre.y, start.radius),
    { smallestStep: 1e-10 },
  );
  if (!found.ok) return null;
  const [x, y, radius] = found.parameters;
  return { centre: { x, y }, radius };
}

const INDICES = [0, 1, 2];

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted.length ? sorted[sorted.length >> 1] : 0;
}
