import type { Vec2 } from '../geometry';

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
  const mx = points.reduce((s, p) => s + p.x, 0) / n;
  const my = points.reduce((s, p) => s + p.y, 0) / n;
  const size = Math.sqrt(points.reduce((s, p) => s + (p.x - mx) ** 2 + (p.y - my) ** 2, 0) / n) || 1;
  const s1 = new Float64Array(9);
  const s2 = new Float64Array(9);
  const s3 = new Float64Array(9);
  for (const p of points) {
    const x = (p.x - mx) / size;
    const y = (p.y - my) / size;
    const square = [x * x, x * y, y * y];
    const plain = [x, y, 1];
    for (let i = 0; i < 3; i++)
      for (let j = 0; j < 3; j++) {
        s1[3 * i + j]! += square[i]! * square[j]!;
        s2[3 * i + j]! += square[i]! * plain[j]!;
        s3[3 * i + j]! += plain[i]! * plain[j]!;
      }
  }
  const inverse = invert3(s3);
  if (!inverse) return null;
  const t = times(inverse, transposed(s2)).map((v) => -v);
  const m = times(s2, t).map((v, k) => v + s1[k]!);
  // Rows of the inverse of the constraint 4ac − b² = 1.
  const reduced = [
    ...m.slice(6, 9).map((v) => v / 2),
    ...m.slice(3, 6).map((v) => -v),
    ...m.slice(0, 3).map((v) => v / 2),
  ];
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

function times(a: ArrayLike<number>, b: ArrayLike<number>): number[] {
  return Array.from({ length: 9 }, (_, k) => {
    const [i, j] = [Math.floor(k / 3), k % 3];
    return a[3 * i]! * b[j]! + a[3 * i + 1]! * b[3 + j]! + a[3 * i + 2]! * b[6 + j]!;
  });
}

const transposed = (m: ArrayLike<number>): number[] => [m[0]!, m[3]!, m[6]!, m[1]!, m[4]!, m[7]!, m[2]!, m[5]!, m[8]!];

function invert3(m: ArrayLike<number>): number[] | null {
  const [a, b, c, d, e, f, g, h, i] = Array.from(m) as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  if (Math.abs(det) < 1e-12) return null;
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

function nullVector(m: readonly number[], value: number): number[] | null {
  const rows = [0, 1, 2].map((i) => [0, 1, 2].map((j) => m[3 * i + j]! - (i === j ? value : 0)));
  let best: number[] | null = null;
  let most = 0;
  for (const [i, j] of [
    [0, 1],
    [0, 2],
    [1, 2],
  ] as const) {
    const [a, b] = [rows[i]!, rows[j]!];
    const cross = [a[1]! * b[2]! - a[2]! * b[1]!, a[2]! * b[0]! - a[0]! * b[2]!, a[0]! * b[1]! - a[1]! * b[0]!];
    const size = Math.hypot(...cross);
    if (size > most) {
      most = size;
      best = cross.map((v) => v / size);
    }
  }
  return best;
}
