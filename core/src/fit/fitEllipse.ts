import type { Vec2 } from '../geometry';

/** A matrix with a smaller determinant, its figures being near 1, is not inverted. */
const SINGULAR = 1e-12;

/** An ellipse: its middle, its half axes a ≥ b, and the direction of a, rad. */
export interface Ellipse {
  x: number;
  y: number;
  a: number;
  b: number;
  turn: number;
}

/**
 * The ellipse nearest to points by algebraic distance, never another conic.
 * Source: Halíř & Flusser (1998), Numerically stable direct least squares fitting of ellipses.
 * Degenerate: fewer than six points, or points on a line, give null.
 */
export function fitEllipse(points: readonly Vec2[]): Ellipse | null {
  const n = points.length;
  if (n < 6) return null;
  let [mx, my] = [0, 0];
  for (const p of points) {
    mx += p.x / n;
    my += p.y / n;
  }
  let square = 0;
  for (const p of points) square += (p.x - mx) ** 2 + (p.y - my) ** 2;
  const size = Math.sqrt(square / n) || 1;
  // Sums of powers: what the three blocks of the scatter matrix are made of.
  let [x4, x3y, xxyy, xy3, y4] = [0, 0, 0, 0, 0];
  let [x3, xxy, xyy, y3] = [0, 0, 0, 0];
  let [xx, xy, yy, x1, y1] = [0, 0, 0, 0, 0];
  for (const p of points) {
    const x = (p.x - mx) / size;
    const y = (p.y - my) / size;
    const [px, pm, py] = [x * x, x * y, y * y];
    x4 += px * px;
    x3y += px * pm;
    xxyy += px * py;
    xy3 += pm * py;
    y4 += py * py;
    x3 += px * x;
    xxy += px * y;
    xyy += x * py;
    y3 += py * y;
    xx += px;
    xy += pm;
    yy += py;
    x1 += x;
    y1 += y;
  }
  const s1 = [x4, x3y, xxyy, x3y, xxyy, xy3, xxyy, xy3, y4];
  const s2 = [x3, xxy, xx, xxy, xyy, xy, xyy, y3, yy];
  const s3 = [xx, xy, x1, xy, yy, y1, x1, y1, n];
  const inverse = invert3(s3);
  if (!inverse) return null;
  const t = times(inverse, transposed(s2)).map((v) => -v);
  const m = times(s2, t).map((v, k) => v + s1[k]!);
  // Rows of the inverse of the constraint 4ac − b² = 1.
  const reduced = [m[6]! / 2, m[7]! / 2, m[8]! / 2, -m[3]!, -m[4]!, -m[5]!, m[0]! / 2, m[1]! / 2, m[2]! / 2];
  for (const value of realRoots(reduced)) {
    const vector = nullVector(reduced, value);
    if (!vector || 4 * vector[0]! * vector[2]! - vector[1]! ** 2 <= 0) continue;
    const rest = [0, 1, 2].map((i) => t[3 * i]! * vector[0]! + t[3 * i + 1]! * vector[1]! + t[3 * i + 2]! * vector[2]!);
    const ellipse = shapeOf([...vector, ...rest] as Conic);
    if (ellipse)
      return {
        ...ellipse,
        x: mx + size * ellipse.x,
        y: my + size * ellipse.y,
        a: size * ellipse.a,
        b: size * ellipse.b,
      };
  }
  return null;
}

/** How far a point lies outside an ellipse (inside: negative), to first order. */
export function offEllipse({ x, y, a, b, turn }: Ellipse, p: Vec2): number {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const u = (c * (p.x - x) + s * (p.y - y)) / a;
  const v = (c * (p.y - y) - s * (p.x - x)) / b;
  const r = Math.hypot(u, v);
  if (r === 0) return -b;
  return ((r - 1) * r) / Math.hypot(u / a, v / b);
}

/** A to F of A x² + B xy + C y² + D x + E y + F = 0. */
type Conic = [number, number, number, number, number, number];

/** Middle, axes and turn from A x² + B xy + C y² + D x + E y + F = 0. */
function shapeOf([A, B, C, D, E, F]: Conic): Ellipse | null {
  const det = 4 * A * C - B * B;
  const x = (B * E - 2 * C * D) / det;
  const y = (B * D - 2 * A * E) / det;
  const level = -(F + (D * x + E * y) / 2);
  const spread = Math.hypot(A - C, B);
  const [small, large] = [(A + C - spread) / 2, (A + C + spread) / 2];
  const squares = [level / small, level / large];
  if (!squares.every((v) => v > 0 && Number.isFinite(v))) return null;
  const turn = 0.5 * Math.atan2(B, A - C);
  const [p, q] = [Math.sqrt(squares[0]!), Math.sqrt(squares[1]!)];
  // The larger eigenvalue belongs to the shorter axis, which lies along `turn`.
  return p >= q ? { x, y, a: p, b: q, turn: turn + Math.PI / 2 } : { x, y, a: q, b: p, turn };
}

function times(a: readonly number[], b: readonly number[]): number[] {
  const out: number[] = [];
  for (let i = 0; i < 9; i += 3)
    for (let j = 0; j < 3; j++) out.push(a[i]! * b[j]! + a[i + 1]! * b[3 + j]! + a[i + 2]! * b[6 + j]!);
  return out;
}

const transposed = (m: readonly number[]): number[] => [m[0]!, m[3]!, m[6]!, m[1]!, m[4]!, m[7]!, m[2]!, m[5]!, m[8]!];

function invert3(m: readonly number[]): number[] | null {
  const [a, b, c, d, e, f, g, h, i] = m as [number, number, number, number, number, number, number, number, number];
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  if (Math.abs(det) < SINGULAR) return null;
  return [
    e * i - f * h,
    c * h - b * i,
    b * f - c * e,
    f * g - d * i,
    a * i - c * g,
    c * d - a * f,
    d * h - e * g,
    b * g - a * h,
    a * e - b * d,
  ].map((v) => v / det);
}

/** Real eigenvalues of a 3 × 3 matrix, from its characteristic cubic. */
function realRoots(m: readonly number[]): number[] {
  const trace = m[0]! + m[4]! + m[8]!;
  const minors = m[0]! * m[4]! - m[1]! * m[3]! + m[0]! * m[8]! - m[2]! * m[6]! + m[4]! * m[8]! - m[5]! * m[7]!;
  const det =
    m[0]! * (m[4]! * m[8]! - m[5]! * m[7]!) -
    m[1]! * (m[3]! * m[8]! - m[5]! * m[6]!) +
    m[2]! * (m[3]! * m[7]! - m[4]! * m[6]!);
  // λ³ − trace λ² + minors λ − det = 0, shifted by a third of the trace.
  const shift = trace / 3;
  const p = minors - trace * shift;
  const q = -det + minors * shift - 2 * shift ** 3;
  const inside = (q * q) / 4 + (p * p * p) / 27;
  if (inside > 0) {
    const root = Math.sqrt(inside);
    return [Math.cbrt(-q / 2 + root) + Math.cbrt(-q / 2 - root) + shift];
  }
  const r = Math.sqrt(-p / 3);
  const angle = Math.acos(Math.min(1, Math.max(-1, r === 0 ? 1 : -q / (2 * r ** 3))));
  return [0, 1, 2].map((k) => 2 * r * Math.cos((angle - 2 * Math.PI * k) / 3) + shift);
}

/** What a 3 × 3 matrix stretches by a value: across two rows of the matrix less the value, the two least alike. */
function nullVector(m: readonly number[], value: number): [number, number, number] | null {
  const [a, b, c] = [m[0]! - value, m[1]!, m[2]!];
  const [d, e, f] = [m[3]!, m[4]! - value, m[5]!];
  const [g, h, i] = [m[6]!, m[7]!, m[8]! - value];
  let best: [number, number, number] | null = null;
  let most = 0;
  for (const cross of [
    [b * f - c * e, c * d - a * f, a * e - b * d],
    [b * i - c * h, c * g - a * i, a * h - b * g],
    [e * i - f * h, f * g - d * i, d * h - e * g],
  ] as [number, number, number][]) {
    const square = cross[0] ** 2 + cross[1] ** 2 + cross[2] ** 2;
    if (square > most) {
      most = square;
      best = cross;
    }
  }
  const length = Math.sqrt(most);
  return best && [best[0] / length, best[1] / length, best[2] / length];
}
