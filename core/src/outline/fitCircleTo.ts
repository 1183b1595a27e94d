import type { Circle, Vec2 } from '../geometry';
import { medianOf, solveLeastSquares } from '../numeric';

const STRAY_SIGMAS = 3;
const ROUNDS = 3;

/**
 * The circle that places lie on, each with its σ across it; those that stray are left out.
 * In: a circle to begin with, all in one unit. Out: σ of its radius, widened by the places' own scatter.
 * Degenerate: null where they do not tell a circle.
 */
export function fitCircleTo(
  begin: Circle,
  places: readonly { at: Vec2; sigma: number }[],
): { circle: Circle; radiusSigma: number; used: number; rms: number } | null {
  let here = Float64Array.from([begin.centre.x, begin.centre.y, begin.radius]);
  let used = places;
  let width = 1;
  let radiusSigma = 0;
  const off = (v: Float64Array, p: Vec2) => Math.hypot(p.x - v[0]!, p.y - v[1]!) - v[2]!;
  for (let round = 0; round < ROUNDS; round++) {
    const own = used;
    const solved = solveLeastSquares(
      {
        size: 3,
        residuals(v, sink) {
          for (const { at, sigma } of own) {
            const far = Math.hypot(at.x - v[0]!, at.y - v[1]!) || 1;
            const s = sigma * width;
            sink.add(off(v, at) / s, [0, 1, 2], [(v[0]! - at.x) / far / s, (v[1]! - at.y) / far / s, -1 / s]);
          }
          return true;
        },
      },
      here,
      { maxSteps: 30 },
    );
    if (!solved.ok) return null;
    here = Float64Array.from(solved.parameters);
    radiusSigma = Math.sqrt(solved.covariance[8]!);
    const sigmas = places.map((p) => Math.abs(off(here, p.at)) / p.sigma);
    width = Math.max(1, 1.4826 * medianOf(sigmas, 0));
    used = places.filter((_, k) => sigmas[k]! <= STRAY_SIGMAS * width);
    if (used.length < 3) return null;
  }
  const squares = used.reduce((sum, p) => sum + off(here, p.at) ** 2, 0);
  const circle = { centre: { x: here[0]!, y: here[1]! }, radius: here[2]! };
  return { circle, radiusSigma, used: used.length, rms: Math.sqrt(squares / used.length) };
}
