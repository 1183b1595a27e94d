import type { Curve, Id, Path, Sketch } from './part';
import { askedBy, type Condition, clustersOf, conditionsOf } from './settle/clusters';
import { picksOfCurve, pointsOfCurve, walkOf } from './walk';

const excerpts = new WeakMap<Path, { of: Sketch; excerpt: Sketch }>();

/**
 * What a path alone is made of, as a sketch of its own: what a worker needs of it. The same object as long as nothing
 * that the path hangs on changed, so that whatever was worked out of it can be kept by it. Null where a part is missing.
 */
export function excerptOf(sketch: Sketch, path: Path): Sketch | null {
  const before = excerpts.get(path);
  if (before?.of === sketch) return before.excerpt;
  if (before && isStill(before, sketch)) {
    before.of = sketch;
    return before.excerpt;
  }
  const excerpt = cutOut(sketch, path);
  if (excerpt) excerpts.set(path, { of: sketch, excerpt });
  return excerpt;
}

/** Everything of the excerpt is still what it is in the sketch. */
function isStill({ of, excerpt }: { of: Sketch; excerpt: Sketch }, sketch: Sketch): boolean {
  if (excerpt.id !== sketch.id || excerpt.frame !== sketch.frame) return false;
  if ((of.dimensions !== sketch.dimensions || of.constraints !== sketch.constraints) && !sameBounds(excerpt, sketch))
    return false;
  // A record that is the same as before needs no looking into.
  const same = <T>(own: Record<Id, T>, was: Record<Id, T>, all: Record<Id, T>) => {
    if (was === all) return true;
    for (const id in own) if (own[id] !== all[id]) return false;
    return true;
  };
  return (
    same(excerpt.curves, of.curves, sketch.curves) &&
    same(excerpt.points, of.points, sketch.points) &&
    same(excerpt.picks, of.picks, sketch.picks)
  );
}

/** No condition that says something of the excerpt came, went, or changed. */
function sameBounds(excerpt: Sketch, sketch: Sketch): boolean {
  const touches = (s: Sketch) =>
    conditionsOf(s).filter((d) =>
      d.refs.some(({ id }) => [excerpt.points, excerpt.curves, excerpt.paths].some((all) => Object.hasOwn(all, id))),
    );
  const [own, all] = [touches(excerpt), touches(sketch)];
  return own.length === all.length && own.every((d) => (sketch.dimensions[d.id] ?? sketch.constraints[d.id]) === d);
}

function cutOut(sketch: Sketch, path: Path): Sketch | null {
  const walk = walkOf(sketch, path);
  if (!walk) return null;
  const points: Sketch['points'] = {};
  const picks: Sketch['picks'] = {};
  const curves: Sketch['curves'] = {};
  const addCurve = (curve: Curve): boolean => {
    curves[curve.id] = curve;
    for (const id of picksOfCurve(curve)) {
      if (!sketch.picks[id]) return false;
      picks[id] = sketch.picks[id];
    }
    for (const id of pointsOfCurve(curve)) {
      if (!sketch.points[id]) return false;
      points[id] = sketch.points[id];
    }
    return true;
  };
  for (const { curve } of walk.pieces) if (!addCurve(curve)) return null;
  const { of } = clustersOf(sketch);
  const conditions = new Set<Condition>();
  const paths: Sketch['paths'] = { [path.id]: path };
  for (const cluster of new Set([...Object.keys(points), ...Object.keys(curves)].map((id) => of.get(id)))) {
    if (!cluster) continue;
    for (const id of cluster.points) points[id] = sketch.points[id]!;
    for (const id of cluster.shapes) if (!addCurve(sketch.curves[id]!)) return null;
    for (const c of cluster.conditions) {
      conditions.add(c);
      for (const { id } of c.refs) if (Object.hasOwn(sketch.paths, id)) paths[id] = sketch.paths[id]!;
      for (const curve of askedBy(sketch, c).curves) if (!addCurve(curve)) return null;
    }
  }
  const held = <T extends Condition>(all: Record<Id, T>): Record<Id, T> =>
    Object.fromEntries(Object.entries(all).filter(([, c]) => conditions.has(c)));
  const [dimensions, constraints] = [held(sketch.dimensions), held(sketch.constraints)];
  return { ...sketch, points, picks, curves, dimensions, constraints, paths, order: [path.id] };
}
