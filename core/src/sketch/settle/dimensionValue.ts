import type { Placer } from '../curveForm';
import type { Dimension, Id, Ref, Sketch } from '../part';
import { picksOfCurve, pointsOfCurve } from '../walk';
import { askedBy, type Cluster } from './clusters';
import { quantityOf } from './dimensionScalars';
import { type Unknowns, unknownsOf } from './unknowns';

const NOTHING_HELD: ReadonlySet<Id> = new Set();

/** What a condition would ask for by itself, as if nothing else held it. */
export function askedAlone(sketch: Sketch, refs: readonly Ref[]): Cluster {
  const { points, curves } = askedBy(sketch, { refs } as Dimension);
  const all = new Set([...points, ...curves.flatMap(pointsOfCurve)]);
  const shapes = new Set(curves.filter((c) => c.kind !== 'line').map((c) => c.id));
  const circleAt = new Map<Id, Id>();
  for (const curve of Object.values(sketch.curves))
    if (curve.kind === 'circle' && all.has(curve.centre)) {
      circleAt.set(curve.centre, curve.id);
      shapes.add(curve.id);
    }
  return { points: [...all], shapes: [...shapes], conditions: [], circleAt };
}

/** Everything that was seen of what a cluster holds: its points, and what bends its curves. */
export const seenOf = (sketch: Sketch, { points, shapes }: Cluster): Id[] => [
  ...points,
  ...shapes.flatMap((id) => picksOfCurve(sketch.curves[id]!)),
];

/** Its unknowns, where things lie. */
export const unknownsAlone = (sketch: Sketch, cluster: Cluster, place: Placer): Unknowns | null =>
  unknownsOf(sketch, cluster, place, NOTHING_HELD);

/** What a size comes to where things lie, mm, or of an angle rad; null where it is of nothing that is there. */
export function dimensionValue(sketch: Sketch, dimension: Dimension, place: Placer): number | null {
  const cluster = askedAlone(sketch, dimension.refs);
  const unknowns = unknownsAlone(sketch, cluster, place);
  const of = unknowns && quantityOf(sketch, unknowns, dimension);
  const value = of?.value(unknowns!.start);
  return value === undefined || !Number.isFinite(value) ? null : value;
}
