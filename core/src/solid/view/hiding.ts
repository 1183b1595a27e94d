import { Cells } from './cells';
import type { Seen, SeenMesh } from './seenMesh';

/** Nearer in front than this nothing hides: the figures of a mesh are single ones, mm. */
const IN_FRONT_MM = 1e-3;
/** What lies on the rim of a triangle lies in it, mm. */
const ON_RIM_MM = 2e-5;
/** Triangles nearer to edge on than this hide nothing: of a flat face they are as thin as its figures are rounded. */
const EDGE_ON = 1e-3;

/** Whether a triangle stands before a place; `own`: those that cannot. */
export type IsHidden = (at: Seen, own: readonly number[]) => boolean;

/** Of the triangles only those that face whoever looks hide anything: a body is closed. */
export function hiderOf({ corners, triangles }: SeenMesh, cellMm: number): IsHidden {
  const cells = new Cells<number>(cellMm);
  const cornersOf = (t: number) =>
    [corners[triangles[3 * t]!]!, corners[triangles[3 * t + 1]!]!, corners[triangles[3 * t + 2]!]!] as const;
  for (let t = 0; t < triangles.length / 3; t++) {
    const [a, b, c] = cornersOf(t);
    if (facingOf(a, b, c) < EDGE_ON) continue;
    const [u, v] = [[a.u, b.u, c.u] as const, [a.v, b.v, c.v] as const];
    cells.add(t, Math.min(...u), Math.min(...v), Math.max(...u), Math.max(...v));
  }
  return (p, own) =>
    cells
      .near(p.u - ON_RIM_MM, p.v - ON_RIM_MM, p.u + ON_RIM_MM, p.v + ON_RIM_MM)
      .some((t) => !own.includes(t) && heightOver(p, ...cornersOf(t)) > 0);
}

/** Twice the area of a triangle on the sheet; less than 0 where it faces away. */
const twiceArea = (a: Seen, b: Seen, c: Seen): number => (b.u - a.u) * (c.v - a.v) - (b.v - a.v) * (c.u - a.u);

/** How far a triangle faces whoever looks: 1 squarely, 0 edge on, less than 0 away. */
function facingOf(a: Seen, b: Seen, c: Seen): number {
  const [p, q] = [b, c].map((o) => ({ u: o.u - a.u, v: o.v - a.v, w: o.w - a.w })) as [Seen, Seen];
  const normal = Math.hypot(p.v * q.w - p.w * q.v, p.w * q.u - p.u * q.w, p.u * q.v - p.v * q.u);
  return normal === 0 ? 0 : twiceArea(a, b, c) / normal;
}

/** How far before a place a triangle surely stands, mm: the steeper it is the less is sure. Less than nothing beside it. */
function heightOver(p: Seen, a: Seen, b: Seen, c: Seen): number {
  const area = twiceArea(a, b, c);
  const sides = [
    [b, c],
    [c, a],
    [a, b],
  ] as const;
  const shares = sides.map(([from, to]) => twiceArea(from, to, p));
  const isOut = sides.some(([from, to], k) => shares[k]! < -ON_RIM_MM * Math.hypot(to.u - from.u, to.v - from.v));
  if (isOut) return Number.NEGATIVE_INFINITY;
  const height = (shares[0]! * a.w + shares[1]! * b.w + shares[2]! * c.w) / area - p.w;
  return height - IN_FRONT_MM - (2 * ON_RIM_MM) / facingOf(a, b, c);
}
