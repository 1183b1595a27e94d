import {
  type Id,
  type Observation,
  observationIn,
  type Part,
  type Path,
  type PlaneName,
  pathsIn,
  type Sketch,
  sketchesOf,
} from '../part';
import { observedOf, picksOfCurve, pointsOfCurve, walkOf } from '../walk';
import { sketchFor } from './drawing';

/** Says anew where things were seen; together, so that a circle or a curve's handles move as one. */
export function movePicks(part: Part, moves: Readonly<Record<Id, Observation>>): void {
  for (const sketch of sketchesOf(part))
    for (const [id, at] of Object.entries(moves)) {
      if (Object.hasOwn(sketch.picks, id)) sketch.picks[id] = at;
      else if (Object.hasOwn(sketch.points, id)) sketch.points[id] = { at: { kind: 'observed', ...at } };
    }
}

/** Says on which plane a path was traced. */
export function setPlane(sketch: Sketch, path: Path, plane: PlaneName): void {
  for (const id of observedOf(sketch, path)) {
    const at = observationIn(sketch, id);
    if (at) at.plane = plane;
  }
}

/** Everything that was seen, of all sketches. */
export const allObservations = (part: Part): Observation[] =>
  sketchesOf(part).flatMap((sketch) => [
    ...Object.values(sketch.points).flatMap(({ at }) => (at.kind === 'observed' ? [at] : [])),
    ...Object.values(sketch.picks),
  ]);

/**
 * Puts paths into the sketches of the views that they lie in: paths that share points go together, by the first of them.
 */
export function sortIntoViews(part: Part, viewOf: (first: Observation) => { id: Id; name: string } | null): void {
  for (const sketch of sketchesOf(part)) {
    for (const paths of clusters(sketch)) {
      const first = paths.flatMap((p) => observedOf(sketch, p).map((id) => observationIn(sketch, id)))[0];
      const view = first ? viewOf(first) : null;
      if ((view?.id ?? null) !== sketch.frame.view) movePaths(sketch, sketchFor(part, view), paths);
    }
  }
  const isEmptied = (s: Sketch) => s.frame.view !== null && s.order.length === 0;
  for (const sketch of sketchesOf(part).filter(isEmptied)) {
    delete part.sketches[sketch.id];
    part.order = part.order.filter((id) => id !== sketch.id);
  }
}

/** Paths of a sketch that share points, together. */
function clusters(sketch: Sketch): Path[][] {
  const found: { paths: Path[]; points: Set<Id> }[] = [];
  const at = new Map<Id, (typeof found)[number]>();
  for (const path of pathsIn(sketch)) {
    const points = walkOf(sketch, path)?.points ?? [];
    const meeting = [...new Set(points.flatMap((p) => at.get(p) ?? []))];
    const into = meeting[0] ?? { paths: [], points: new Set<Id>() };
    if (meeting.length === 0) found.push(into);
    for (const other of meeting.slice(1)) {
      into.paths.push(...other.paths);
      for (const p of other.points) into.points.add(p);
      other.paths = [];
    }
    into.paths.push(path);
    for (const p of points) into.points.add(p);
    for (const p of into.points) at.set(p, into);
  }
  return found.map((f) => f.paths).filter((paths) => paths.length > 0);
}

function movePaths(from: Sketch, to: Sketch, paths: readonly Path[]): void {
  const take = <T>(own: Record<Id, T>, others: Record<Id, T>, id: Id) => {
    const one = Object.hasOwn(own, id) ? own[id] : undefined;
    if (one === undefined) return;
    others[id] = one;
    delete own[id];
  };
  const moved = new Set<Id>();
  for (const path of paths) {
    moved.add(path.id);
    for (const { curve } of walkOf(from, path)?.pieces ?? []) {
      for (const id of [...pointsOfCurve(curve), curve.id]) moved.add(id);
      for (const id of picksOfCurve(curve)) take(from.picks, to.picks, id);
    }
    take(from.paths, to.paths, path.id);
    to.order.push(path.id);
  }
  for (const id of moved) {
    take(from.points, to.points, id);
    take(from.curves, to.curves, id);
  }
  const gone = new Set(paths.map((p) => p.id));
  for (const maker of Object.values(from.makers)) if (gone.has(maker.path)) take(from.makers, to.makers, maker.id);
  for (const id of moved) take(from.worn, to.worn, id);
  from.order = from.order.filter((id) => !gone.has(id));
  for (const c of [...Object.values(from.dimensions), ...Object.values(from.constraints)]) {
    // Nothing holds across sketches.
    const count = c.refs.filter((r) => moved.has(r.id)).length;
    if (count === 0 || count === c.refs.length) continue;
    delete from.dimensions[c.id];
    delete from.constraints[c.id];
  }
  for (const d of Object.values(from.dimensions))
    if (d.refs.every((r) => moved.has(r.id))) {
      for (const r of d.refs) r.sketch = to.id;
      take(from.dimensions, to.dimensions, d.id);
    }
  for (const c of Object.values(from.constraints))
    if (c.refs.every((r) => moved.has(r.id))) {
      for (const r of c.refs) r.sketch = to.id;
      take(from.constraints, to.constraints, c.id);
    }
}
