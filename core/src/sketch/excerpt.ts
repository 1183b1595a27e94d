import type { Id, Path, Sketch } from './part';
import { boundPoints } from './settle';
import { picksOfCurve, walkOf } from './walk';

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
  if (of.dimensions !== sketch.dimensions && !sameBounds(excerpt, sketch)) return false;
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

/** No dimension that says something of the excerpt came, went, or changed. */
function sameBounds(excerpt: Sketch, sketch: Sketch): boolean {
  const touches = (s: Sketch) =>
    Object.values(s.dimensions).filter((d) =>
      d.refs.some((r) => Object.hasOwn(excerpt.points, r.id) || Object.hasOwn(excerpt.curves, r.id)),
    );
  const [own, all] = [touches(excerpt), touches(sketch)];
  return own.length === all.length && own.every((d) => sketch.dimensions[d.id] === d);
}

function cutOut(sketch: Sketch, path: Path): Sketch | null {
  const walk = walkOf(sketch, path);
  if (!walk) return null;
  const points: Sketch['points'] = {};
  const picks: Sketch['picks'] = {};
  const curves: Sketch['curves'] = {};
  const bound = boundPoints(sketch);
  for (const id of walk.points)
    for (const own of [id, ...(bound.get(id)?.points ?? [])]) {
      if (!sketch.points[own]) return null;
      points[own] = sketch.points[own];
    }
  for (const { curve } of walk.pieces) {
    curves[curve.id] = curve;
    for (const id of picksOfCurve(curve)) {
      if (!sketch.picks[id]) return null;
      picks[id] = sketch.picks[id];
    }
  }
  const dimensions = Object.fromEntries(
    Object.entries(sketch.dimensions).filter(([, d]) =>
      d.refs.every((r) => Object.hasOwn(points, r.id) || Object.hasOwn(curves, r.id)),
    ),
  );
  return { ...sketch, points, picks, curves, dimensions, paths: { [path.id]: path }, order: [path.id] };
}
