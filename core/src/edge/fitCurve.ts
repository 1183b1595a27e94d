/** A parabola through row centres: offset, slope and half the bend, all along the tangent's px. */
export interface Parabola {
  offset: number;
  slope: number;
  bend: number;
  at(t: number): number;
}

/**
 * Least-squares curve through row centres: a parabola where its bend is beyond doubt, else a line. A bend that is only
 * noise would more than double the variance of the offset.
 * Degenerate: no point gives a straight zero.
 */
export function fitParabola(t: readonly number[], y: readonly number[]): Parabola {
  const line = polynomial(t, y, 2);
  if (t.length < LEAST_FOR_BEND) return line;
  const curve = polynomial(t, y, 3);
  const square = t.reduce((sum, x, k) => sum + (y[k]! - curve.at(x)) ** 2, 0) / (t.length - 3);
  return Math.abs(curve.bend) > CERTAIN_SIGMAS * Math.sqrt(square) * bendScatter(t) ? curve : line;
}

const LEAST_FOR_BEND = 7;
const CERTAIN_SIGMAS = 3;

/** σ of the bend for unit scatter of the points. */
function bendScatter(t: readonly number[]): number {
  const n = t.length;
  const mean = t.reduce((a, b) => a + b) / n;
  const second = t.reduce((a, b) => a + (b - mean) ** 2, 0) / n;
  const fourth = t.reduce((a, b) => a + (b - mean) ** 4, 0) / n;
  return 1 / Math.sqrt(n * (fourth - second * second));
}

function polynomial(t: readonly number[], y: readonly number[], most: number): Parabola {
  const terms = Math.min(most, t.length);
  const m = Array.from({ length: terms }, () => new Float64Array(terms + 1));
  for (let k = 0; k < t.length; k++)
    for (let i = 0; i < terms; i++) {
      for (let j = 0; j < terms; j++) m[i]![j]! += t[k]! ** (i + j);
      m[i]![terms]! += y[k]! * t[k]! ** i;
    }
  const [offset = 0, slope = 0, bend = 0] = eliminate(m, terms);
  return { offset, slope, bend, at: (x) => offset + x * (slope + x * bend) };
}

function eliminate(m: Float64Array[], n: number): number[] {
  for (let i = 0; i < n; i++) {
    let p = i;
    for (let r = i + 1; r < n; r++) if (Math.abs(m[r]![i]!) > Math.abs(m[p]![i]!)) p = r;
    [m[i], m[p]] = [m[p]!, m[i]!];
    if (m[i]![i] === 0) return [];
    for (let r = i + 1; r < n; r++) {
      const f = m[r]![i]! / m[i]![i]!;
      for (let c = i; c <= n; c++) m[r]![c]! -= f * m[i]![c]!;
    }
  }
  const x: number[] = new Array(n);
  for (let i = n - 1; i >= 0; i--) {
    let sum = m[i]![n]!;
    for (let c = i + 1; c < n; c++) sum -= m[i]![c]! * x[c]!;
    x[i] = sum / m[i]![i]!;
  }
  return x;
}
