import type { Constraint, Curve, Dimension, Id, Sketch } from '../part';
import { picksOfCurve, pointsOfCurve, walkOf } from '../walk';

/** A relation, or a size that was decided. */
export type Condition = Constraint | Dimension;

export const isConstraint = (c: Condition): c is Constraint => !('origin' in c);

/** What conditions tie together, directly or through others. */
export interface Cluster {
  points: readonly Id[];
  /** Curves whose bend is asked for: arcs, cubics, and circles. */
  shapes: readonly Id[];
  conditions: readonly Condition[];
  /** The circle that a point is the centre of. */
  circleAt: ReadonlyMap<Id, Id>;
}

export interface Clusters {
  all: readonly Cluster[];
  /** By point, pick or curve. */
  of: ReadonlyMap<Id, Cluster>;
}

const NONE: Clusters = { all: [], of: new Map() };
const known = new WeakMap<
  Sketch['curves'],
  { dimensions: unknown; constraints: unknown; paths: unknown; found: Clusters }
>();

/** Everything in a sketch that is settled together; nothing of what no condition names. */
export function clustersOf(sketch: Sketch): Clusters {
  const { curves, dimensions, constraints, paths } = sketch;
  const before = known.get(curves);
  if (before && before.dimensions === dimensions && before.constraints === constraints && before.paths === paths)
    return before.found;
  const found = gather(sketch);
  known.set(curves, { dimensions, constraints, paths, found });
  return found;
}

/** Conditions that hold something: sizes that are only measured hold nothing. */
export const conditionsOf = ({ constraints, dimensions }: Sketch): Condition[] => [
  ...Object.values(constraints),
  ...Object.values(dimensions).filter((d) => d.origin.kind === 'decided'),
];

/** Points and curves that a condition asks for. */
export function askedBy(sketch: Sketch, { refs }: Condition): { points: Id[]; curves: Curve[] } {
  const [points, curves]: [Id[], Curve[]] = [[], []];
  for (const { id } of refs) {
    const curve = own(sketch.curves, id);
    const path = own(sketch.paths, id);
    if (own(sketch.points, id)) points.push(id);
    else if (curve) curves.push(curve);
    else if (path) for (const piece of walkOf(sketch, path)?.pieces ?? []) curves.push(piece.curve);
  }
  return { points, curves };
}

const own = <T>(record: Record<Id, T>, id: Id): T | undefined => (Object.hasOwn(record, id) ? record[id] : undefined);

function gather(sketch: Sketch): Clusters {
  const conditions = conditionsOf(sketch);
  if (conditions.length === 0) return NONE;
  const parent = new Map<Id, Id>();
  const find = (id: Id): Id => {
    let root = id;
    for (let up = parent.get(root); up !== undefined && up !== root; up = parent.get(root)) root = up;
    if (root !== id) parent.set(id, root);
    return root;
  };
  const circleAt = new Map<Id, Id>();
  for (const curve of Object.values(sketch.curves)) if (curve.kind === 'circle') circleAt.set(curve.centre, curve.id);
  const shapes = new Set<Id>();
  const touch = (id: Id): Id => {
    if (!parent.has(id)) parent.set(id, id);
    return find(id);
  };
  const rootOf = new Map<Condition, Id>();
  for (const condition of conditions) {
    const { points, curves } = askedBy(sketch, condition);
    const tied: Id[] = [];
    const add = (id: Id) => {
      const root = touch(id);
      if (tied.length > 0) parent.set(root, find(tied[0]!));
      tied.push(id);
    };
    for (const id of [...points, ...curves.flatMap(pointsOfCurve)]) {
      add(id);
      const circle = circleAt.get(id);
      if (circle !== undefined) {
        shapes.add(circle);
        add(circle);
      }
    }
    for (const curve of curves)
      if (curve.kind !== 'line') {
        shapes.add(curve.id);
        add(curve.id);
      }
    if (tied.length > 0) rootOf.set(condition, tied[0]!);
  }
  type Gathered = { points: Id[]; shapes: Id[]; conditions: Condition[]; circleAt: Map<Id, Id> };
  const clusters = new Map<Id, Gathered>();
  const clusterAt = (id: Id): Gathered => {
    const root = find(id);
    const cluster: Gathered = clusters.get(root) ?? { points: [], shapes: [], conditions: [], circleAt: new Map() };
    clusters.set(root, cluster);
    return cluster;
  };
  const of = new Map<Id, Cluster>();
  for (const id of parent.keys()) {
    const cluster = clusterAt(id);
    of.set(id, cluster);
    if (shapes.has(id)) {
      cluster.shapes.push(id);
      for (const pick of picksOfCurve(sketch.curves[id]!)) of.set(pick, cluster);
    } else cluster.points.push(id);
    const circle = circleAt.get(id);
    if (circle !== undefined) cluster.circleAt.set(id, circle);
  }
  for (const [condition, root] of rootOf) clusterAt(root).conditions.push(condition);
  return { all: [...clusters.values()], of };
}
