import type { Vec2 } from '../../geometry';

export interface Spline {
  degree: number;
  knots: readonly number[];
  controls: readonly Vec2[];
}

/** Most control points that one spline may have. */
const MOST_CONTROLS = 20_000;

/**
 * A B-spline without weights, of degree 1 to 3, as cubic Béziers end to end, lower degrees raised. Exact: the controls
 * of the piece over a knot span are the spline's polar form at that span's ends (Ramshaw 1989), so that the cost is in
 * proportion to the spans.
 * Null where the knots do not fit the controls.
 */
export function splineCurves(spline: Spline): { from: Vec2; handleFrom: Vec2; handleTo: Vec2; to: Vec2 }[] | null {
  const { degree, knots, controls } = spline;
  if (!(degree >= 1 && degree <= 3) || !Number.isInteger(degree)) return null;
  if (controls.length <= degree || controls.length > MOST_CONTROLS) return null;
  if (knots.length !== controls.length + degree + 1 || !isSorted(knots)) return null;
  const pieces: { from: Vec2; handleFrom: Vec2; handleTo: Vec2; to: Vec2 }[] = [];
  for (let span = degree; span < controls.length; span++) {
    const [a, b] = [knots[span]!, knots[span + 1]!];
    if (!(b > a)) continue;
    const own = Array.from({ length: degree + 1 }, (_, k) => polarForm(spline, span, (r) => (r <= degree - k ? a : b)));
    const piece = asCubic(own);
    const before = pieces.at(-1);
    // One place where two pieces meet, also in the last digit; a spline may break where a knot is there often enough.
    if (before && Math.hypot(before.to.x - piece.from.x, before.to.y - piece.from.y) <= SAME_PLACE * size(piece))
      piece.from = before.to;
    pieces.push(piece);
  }
  return pieces.length ? pieces : null;
}

/** Share of a piece's size that rounding may set two ends apart that are one. */
const SAME_PLACE = 1e-9;

const size = ({ from, to }: { from: Vec2; to: Vec2 }): number =>
  Math.abs(from.x) + Math.abs(from.y) + Math.hypot(to.x - from.x, to.y - from.y);

const isSorted = (knots: readonly number[]): boolean =>
  knots.every((k, i) => Number.isFinite(k) && (i === 0 || k >= knots[i - 1]!));

/** The value of the polynomial of a span at as many arguments as its degree: de Boor's steps, each with its own. */
function polarForm({ degree, knots, controls }: Spline, span: number, argument: (step: number) => number): Vec2 {
  const d = controls.slice(span - degree, span + 1).map((p) => ({ ...p }));
  for (let r = 1; r <= degree; r++)
    for (let j = degree; j >= r; j--) {
      const i = span - degree + j;
      const share = (argument(r) - knots[i]!) / (knots[i + degree - r + 1]! - knots[i]!);
      d[j] = { x: d[j - 1]!.x + share * (d[j]!.x - d[j - 1]!.x), y: d[j - 1]!.y + share * (d[j]!.y - d[j - 1]!.y) };
    }
  return d[degree]!;
}

function asCubic(c: readonly Vec2[]): { from: Vec2; handleFrom: Vec2; handleTo: Vec2; to: Vec2 } {
  const mix = (p: Vec2, q: Vec2, t: number): Vec2 => ({ x: p.x + t * (q.x - p.x), y: p.y + t * (q.y - p.y) });
  if (c.length === 4) return { from: c[0]!, handleFrom: c[1]!, handleTo: c[2]!, to: c[3]! };
  if (c.length === 3)
    return { from: c[0]!, handleFrom: mix(c[0]!, c[1]!, 2 / 3), handleTo: mix(c[2]!, c[1]!, 2 / 3), to: c[2]! };
  return { from: c[0]!, handleFrom: mix(c[0]!, c[1]!, 1 / 3), handleTo: mix(c[0]!, c[1]!, 2 / 3), to: c[1]! };
}
