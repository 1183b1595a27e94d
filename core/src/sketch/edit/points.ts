import type { Constraint, Curve, Id, Observation, Sketch } from '../part';
import { pathsIn } from '../part';
import { picksOfCurve, pointsOfCurve, walkOf } from '../walk';
import { dropMakersOf } from './makers';

/** A point to come into a sketch under this name; with nothing seen of it, the point of that name that is there. */
export interface NewPoint {
  id: Id;
  at: Observation | null;
}

/** A pick to come into a sketch. */
export interface NewPick {
  id: Id;
  at: Observation;
}

export function putPoint({ points }: Sketch, { id, at }: NewPoint): void {
  if (at) points[id] = { at: { kind: 'observed', ...at } };
}

/** Takes curves out, with what was picked along them, and points that no other curve hangs on. */
export function dropCurves(sketch: Sketch, ids: readonly Id[]): void {
  const loose = new Set<Id>();
  for (const id of ids) {
    const curve = sketch.curves[id];
    if (!curve) continue;
    for (const point of pointsOfCurve(curve)) loose.add(point);
    dropEvidence(sketch, curve);
    delete sketch.curves[id];
    delete sketch.worn[id];
    dropSizes(sketch, id);
  }
  dropLoose(sketch, loose);
}

export function dropEvidence({ picks }: Sketch, curve: Curve): void {
  for (const id of picksOfCurve(curve)) delete picks[id];
  curve.evidence = [];
}

/** Takes out those of some points that no curve hangs on. */
export function dropLoose(sketch: Sketch, ids: Iterable<Id>): void {
  const used = new Set(Object.values(sketch.curves).flatMap(pointsOfCurve));
  for (const id of ids)
    if (!used.has(id)) {
      delete sketch.points[id];
      dropSizes(sketch, id);
    }
}

/**
 * Takes out sizes and relations of something that is gone; a relation of several others goes on without it, where enough
 * of them are left to make it.
 */
export function dropSizes({ dimensions, constraints }: Sketch, id: Id): void {
  for (const d of Object.values(dimensions)) if (d.refs.some((r) => r.id === id)) delete dimensions[d.id];
  for (const c of Object.values(constraints)) {
    if (!c.refs.some((r) => r.id === id)) continue;
    const left = c.refs.filter((r) => r.id !== id);
    // The centre, and what others lie on, stand at a place of their own.
    const isMain = (c.kind === 'around' && c.refs[0]!.id === id) || (c.kind === 'on' && c.refs.at(-1)!.id === id);
    const least = SHRINKS_TO[c.kind];
    if (least === undefined || isMain || left.length < least) delete constraints[c.id];
    else c.refs = left;
  }
}

/** Relations of any number of things, and how many of them it takes; all others fall with one of theirs. */
const SHRINKS_TO: Partial<Record<Constraint['kind'], number>> = {
  parallel: 2,
  equal: 2,
  concentric: 2,
  on: 2,
  even: 3,
  around: 3,
  fixed: 1,
};

/** Makes two points one: every curve and size that hung on the second hangs on the first. */
export function mergePoints(sketch: Sketch, keep: Id, gone: Id): boolean {
  if (keep === gone || !sketch.points[keep] || !sketch.points[gone]) return false;
  const curves = Object.values(sketch.curves);
  // A curve between both would have no length left.
  if (curves.some((c) => pointsOfCurve(c).includes(keep) && pointsOfCurve(c).includes(gone))) return false;
  for (const curve of curves) {
    if (curve.kind === 'circle') {
      if (curve.centre === gone) curve.centre = keep;
      continue;
    }
    if (curve.from === gone) curve.from = keep;
    if (curve.to === gone) curve.to = keep;
  }
  for (const d of [...Object.values(sketch.dimensions), ...Object.values(sketch.constraints)]) {
    for (const r of d.refs) if (r.id === gone) r.id = keep;
    // What was said between both says nothing any more.
    if (new Set(d.refs.map((r) => r.id)).size === d.refs.length) continue;
    delete sketch.dimensions[d.id];
    delete sketch.constraints[d.id];
  }
  delete sketch.points[gone];
  return true;
}

/**
 * Joins the two open paths that both end at a point into one, of which `stays` keeps its name; a path whose two ends it
 * is becomes closed. Where three or more end, or none does, nothing is joined.
 */
export function joinAt(sketch: Sketch, point: Id, stays: Id): void {
  const ending = pathsIn(sketch).flatMap((path) => {
    const points = path.closed ? [] : (walkOf(sketch, path)?.points ?? []);
    if (points.length < 2) return [];
    return [
      ...(points[0] === point ? [{ path, at: 'head' as const }] : []),
      ...(points.at(-1) === point ? [{ path, at: 'tail' as const }] : []),
    ];
  });
  if (ending.length !== 2) return;
  const [first, second] = [ending[0]!, ending[1]!];
  const [one, other] = second.path.id === stays ? [second, first] : [first, second];
  if (one.path === other.path) {
    if (one.path.uses.length > 1) one.path.closed = true;
    return;
  }
  const on = other.at === 'head' ? other.path.uses : turnedRound(other.path.uses);
  // Run so that the first one ends where the second begins.
  one.path.uses = one.at === 'tail' ? [...one.path.uses, ...on] : [...turnedRound(on), ...one.path.uses];
  delete sketch.paths[other.path.id];
  dropMakersOf(sketch, other.path.id);
  sketch.order = sketch.order.filter((id) => id !== other.path.id);
}

const turnedRound = <U extends { curve: Id; reversed: boolean }>(uses: readonly U[]) =>
  uses.map(({ curve, reversed }) => ({ curve, reversed: !reversed })).reverse();
