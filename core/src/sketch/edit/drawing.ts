import {
  type Id,
  newSketch,
  type Part,
  type Path,
  pathsOf,
  type Role,
  type Sketch,
  sketchesOf,
  sketchOfView,
} from '../part';
import { endOf, picksOfCurve, planeOfPath, startOf, walkOf } from '../walk';
import { dropMakersOf } from './makers';
import { dropCurves, dropLoose, joinAt, mergePoints, type NewPick, type NewPoint, putPoint } from './points';

/** What a new path is called, and what is done along it. */
export interface NewPath {
  id: Id;
  name: string;
  role: Role;
}

/** The sketch of a view, made when it is first drawn in. */
export function sketchFor(part: Part, view: { id: Id; name: string } | null): Sketch {
  const id = sketchOfView(view?.id ?? null);
  part.sketches[id] ??= newSketch(id, view?.name ?? 'Sketch', view?.id ?? null);
  if (!part.order.includes(id)) part.order.push(id);
  return part.sketches[id];
}

/** The sketch that holds points that are there already; the one given where they are all new; null where they are in two. */
function sketchUnder(part: Part, points: readonly NewPoint[], fresh: Sketch): Sketch | null {
  const old = points.filter((p) => p.at === null);
  const holds = (s: Sketch) => old.every((p) => Object.hasOwn(s.points, p.id));
  return old.length === 0 ? fresh : (sketchesOf(part).find(holds) ?? null);
}

/** Begins a path with its first line. Nothing happens where both ends are one, or lie in two sketches. */
export function startPath(part: Part, into: Sketch, path: NewPath, ends: [NewPoint, NewPoint], curve: Id): void {
  const sketch = sketchUnder(part, ends, into);
  if (!sketch || ends[0].id === ends[1].id) return;
  for (const p of ends) putPoint(sketch, p);
  sketch.curves[curve] = { id: curve, kind: 'line', from: ends[0].id, to: ends[1].id, evidence: [] };
  addPath(sketch, { ...path, layer: null, uses: [{ curve, reversed: false }], closed: false });
  for (const p of ends) if (p.at === null) joinAt(sketch, p.id, path.id);
}

export function addPath(sketch: Sketch, path: Path): void {
  sketch.paths[path.id] = path;
  sketch.order.push(path.id);
}

/** Draws a line on from one end of an open path; to another path's end, it joins both. */
export function extendPath(sketch: Sketch, path: Path, end: 'head' | 'tail', next: NewPoint, curve: Id): void {
  const points = walkOf(sketch, path)?.points;
  const here = end === 'tail' ? points?.at(-1) : points?.[0];
  if (path.closed || !here || here === next.id || (next.at === null && !sketch.points[next.id])) return;
  putPoint(sketch, next.at ? { ...next, at: { ...next.at, plane: planeOfPath(sketch, path) } } : next);
  if (end === 'tail') {
    sketch.curves[curve] = { id: curve, kind: 'line', from: here, to: next.id, evidence: [] };
    path.uses.push({ curve, reversed: false });
  } else {
    sketch.curves[curve] = { id: curve, kind: 'line', from: next.id, to: here, evidence: [] };
    path.uses.unshift({ curve, reversed: false });
  }
  if (next.at === null) joinAt(sketch, next.id, path.id);
}

/** Two points nearer than this in one picture are one place, px: far below what any pick can tell. */
const SAME_PLACE_PX = 1e-3;

/**
 * Closes a path with a line from its end to its start; where both lie in one place already, by making them one: a line
 * of no length would go into the files. `isBent` of a last piece that is bent afterwards: back along the only line there is
 * would be no form.
 */
export function closePath(part: Part, sketch: Sketch, path: Path, curve: Id, isBent = false): void {
  const points = walkOf(sketch, path)?.points;
  const straight = !isBent && path.uses.every((use) => sketch.curves[use.curve]?.kind === 'line');
  if (path.closed || !points || points.length < (straight ? 3 : 2)) return;
  const [first, last] = [points[0]!, points[points.length - 1]!];
  if (first === last) path.closed = true;
  else if (isSamePlace(sketch, first, last) && points.length > 3 && mergePoints(sketch, first, last))
    path.closed = true;
  else {
    sketch.curves[curve] = { id: curve, kind: 'line', from: last, to: first, evidence: [] };
    path.uses.push({ curve, reversed: false });
    path.closed = true;
  }
  nameByForm(part, sketch, path);
}

function isSamePlace({ points }: Sketch, a: Id, b: Id): boolean {
  const [p, q] = [points[a]!.at, points[b]!.at];
  if (p.kind !== 'observed' || q.kind !== 'observed' || p.picture !== q.picture) return false;
  return Math.hypot(p.uPx - q.uPx, p.vPx - q.vPx) < SAME_PLACE_PX;
}

/** Opens a closed path by taking its last curve away. */
export function openPath(sketch: Sketch, path: Path): void {
  if (!path.closed || path.uses.length < 2) return;
  const last = path.uses.pop();
  path.closed = false;
  if (last) dropCurves(sketch, [last.curve]);
}

/** A circle through three places on its rim. */
export function addCircle(
  sketch: Sketch,
  path: NewPath,
  own: { curve: Id; centre: Id },
  rim: readonly NewPick[],
): void {
  for (const { id, at } of rim) sketch.picks[id] = at;
  sketch.points[own.centre] = { at: { kind: 'fitted' } };
  putCircle(
    sketch,
    path,
    own,
    rim.map((r) => r.id),
  );
}

/** A circle about a place; how wide it is says the size that is decided for it. */
export function addCircleAbout(sketch: Sketch, path: NewPath, curve: Id, centre: NewPoint): void {
  putPoint(sketch, centre);
  putCircle(sketch, path, { curve, centre: centre.id }, []);
}

function putCircle(sketch: Sketch, path: NewPath, { curve, centre }: { curve: Id; centre: Id }, picks: Id[]): void {
  sketch.curves[curve] = {
    id: curve,
    kind: 'circle',
    centre,
    evidence: picks.length ? [{ edge: 'pick', picks }] : [],
  };
  addPath(sketch, { ...path, layer: null, uses: [{ curve, reversed: false }], closed: true });
}

/** Takes a path away, with the curves that it runs along. */
export function dropPath(sketch: Sketch, path: Path): void {
  const { uses, id } = path;
  delete sketch.paths[id];
  dropMakersOf(sketch, id);
  sketch.order = sketch.order.filter((other) => other !== id);
  dropCurves(
    sketch,
    uses.map((u) => u.curve),
  );
}

/** Takes a point out of a path; its neighbours are joined by a line. A path without a curve left goes as well. */
export function deletePoint(sketch: Sketch, path: Path, point: Id): void {
  const walk = walkOf(sketch, path);
  const at = walk?.points.indexOf(point) ?? -1;
  if (!walk || at < 0) return;
  const { points, pieces } = walk;
  if (points.length <= 2 || (path.closed && points.length <= 3)) {
    dropPath(sketch, path);
    return;
  }
  const before = at === 0 ? (path.closed ? pieces.length - 1 : -1) : at - 1;
  const after = at < pieces.length ? at : -1;
  const ends = [before, after].map((k) => (k < 0 ? null : pieces[k]));
  const from = ends[0] && ends[0].curve.kind !== 'circle' ? startOf(ends[0].curve, ends[0]) : null;
  const to = ends[1] && ends[1].curve.kind !== 'circle' ? endOf(ends[1].curve, ends[1]) : null;
  const gone = ends.flatMap((p) => (p ? [p.curve.id] : []));
  const kept = from && to ? gone[0] : null;
  path.uses = path.uses.flatMap((use, k) => {
    if (k === before) return kept ? [{ curve: kept, reversed: false }] : [];
    return k === after ? [] : [use];
  });
  // The one that stays takes hold of the far end first, so that nothing drops that.
  if (kept && from && to) {
    for (const id of picksOfCurve(sketch.curves[kept]!)) delete sketch.picks[id];
    sketch.curves[kept] = { id: kept, kind: 'line', from, to, evidence: [] };
  }
  dropCurves(
    sketch,
    gone.filter((id) => id !== kept),
  );
  dropLoose(sketch, [point]);
}

/** A name that nobody gave. */
const NAMED_BY_ITSELF = /^(Path|Run) \d+$/;

/** A closed path that has the form of a slot is called one, unless somebody named it. */
export function nameByForm(part: Part, sketch: Sketch, path: Path): void {
  if (path.closed && NAMED_BY_ITSELF.test(path.name) && isSlot(sketch, path)) path.name = nextName(part, 'Slot');
}

/** Two lines and two arcs in turn. */
function isSlot({ curves }: Sketch, { uses }: Path): boolean {
  const kinds = uses.map((u) => curves[u.curve]?.kind).join(' ');
  return kinds === 'line arc line arc' || kinds === 'arc line arc line';
}

/** The first name of its kind that is free: `Hole 3` again only once the other was deleted. */
export function nextName(part: Part, kind: 'Path' | 'Hole' | 'Slot' | 'Guide'): string {
  const taken = new Set(pathsOf(part).map((path) => path.name));
  for (let k = 1; ; k++) if (!taken.has(`${kind} ${k}`)) return `${kind} ${k}`;
}
