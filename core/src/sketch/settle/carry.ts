import { type Form, threeOnCircle, type Vec2 } from '../../geometry';
import { formOf, type Placer } from '../curveForm';
import type { Curve, Id, OpenCurve, Path, Sketch } from '../part';
import { picksOfCurve } from '../walk';
import { multiple, ratio, type Unknowns } from './unknowns';

/** Where a point lies among the unknowns; undefined for one that is not of them. */
export function settledPoint({ pointAt }: Unknowns, x: Float64Array, id: Id): Vec2 | undefined {
  const k = pointAt.get(id);
  return k === undefined ? undefined : { x: x[k]!, y: x[k + 1]! };
}

/**
 * Where what bends a curve lies when its ends and its bend are these: an arc's through point in its middle, handles, three
 * places on a rim in the directions in which they were seen.
 */
export function bentPicks(
  unknowns: Unknowns,
  curve: Curve,
  x: Float64Array,
  place: Placer,
  seen: Placer,
): Vec2[] | null {
  const shape = unknowns.shapeAt.get(curve.id);
  if (curve.kind === 'line') return [];
  if (curve.kind === 'circle') {
    const [centre, was] = [place(curve.centre), picksOfCurve(curve).map(seen)];
    if (!shape || !centre) return null;
    const radius = x[shape.at]!;
    const k = unknowns.pointAt.get(curve.centre)!;
    const [ox, oy] = [unknowns.start[k]!, unknowns.start[k + 1]!];
    return was.map((p, j) => {
      if (!p) return threeOnCircle({ centre, radius })[j]!;
      const length = Math.hypot(p.x - ox, p.y - oy) || 1;
      return { x: centre.x + ((p.x - ox) / length) * radius, y: centre.y + ((p.y - oy) / length) * radius };
    });
  }
  const [from, to] = [place(curve.from), place(curve.to)];
  if (!from || !to || !shape) return null;
  const bent = Array.from({ length: curve.kind === 'arc' ? 1 : 4 }, (_, k) => x[shape.at + k]! / shape.scale);
  if (curve.kind === 'arc') return [multiple(from, to, 0.5, -bent[0]! / 2)];
  return [multiple(from, to, bent[0]!, bent[1]!), multiple(to, from, bent[2]!, bent[3]!)];
}

/** Where what bends a curve goes when its ends go there and its form stays what it is. */
export function carriedPicks(curve: OpenCurve, from: Vec2, to: Vec2, seen: Placer): Vec2[] | null {
  const [a, b] = [seen(curve.from), seen(curve.to)];
  const picks = picksOfCurve(curve).map(seen);
  if (!a || !b || picks.some((p) => !p)) return null;
  return picks.map((p, k) => {
    // The second handle is kept by the end that it belongs to.
    const [own, other, start, end] = k === 0 ? [a, b, from, to] : [b, a, to, from];
    return multiple(start, end, ...ratio(own, other, p!));
  });
}

/** A path as a form when the unknowns are these; all of its curves are among them. */
export function pathForm(sketch: Sketch, unknowns: Unknowns, path: Path, x: Float64Array): Form | null {
  const picks = new Map<Id, Vec2>();
  const place: Placer = (id) => settledPoint(unknowns, x, id) ?? picks.get(id) ?? null;
  for (const { curve: id } of path.uses) {
    const curve = sketch.curves[id];
    if (!curve) return null;
    if (curve.kind === 'circle') {
      const [centre, shape] = [place(curve.centre), unknowns.shapeAt.get(id)];
      return centre && shape ? { kind: 'circle', centre, radius: x[shape.at]! } : null;
    }
    const bent = bentPicks(unknowns, curve, x, place, () => null);
    if (!bent) return null;
    picksOfCurve(curve).forEach((p, k) => {
      picks.set(p, bent[k]!);
    });
  }
  return formOf(sketch, path, place);
}
