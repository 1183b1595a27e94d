import { type Form, threeOnCircle, type Vec2 } from '../../geometry';
import type { Curve, Id, Observation, Path, Sketch } from '../part';
import { addPath } from './drawing';

/** Where a place of the part, mm, y up, is seen; null beyond what the camera could see. */
export type See = (place: Vec2) => Observation | null;

/** What a path that comes in as a form is called, and what is done along it. */
export type DraftPath = Pick<Path, 'id' | 'name' | 'role' | 'layer'>;

/**
 * Puts a form into a sketch as a path of ordinary curves: ends shared, arcs by a place in their middle, a circle by three
 * places on its rim.
 *
 * In: the form, mm; where its places are seen; what makes names. Out: false, with nothing put, where a place of it cannot
 * be seen, or it has no curve.
 */
export function putForm(sketch: Sketch, form: Form, path: DraftPath, see: See, newId: () => Id): boolean {
  const draft = { points: {} as Sketch['points'], picks: {} as Sketch['picks'], curves: [] as Curve[] };
  let isSeen = true;
  const seen = (place: Vec2): Observation => {
    const at = see(place);
    if (!at) isSeen = false;
    return at as Observation;
  };
  const add = (curve: Curve, picks: readonly Vec2[]) => {
    const ids = picks.map((place) => {
      const id = newId();
      draft.picks[id] = seen(place);
      return id;
    });
    draft.curves.push({ ...curve, evidence: ids.length ? [{ edge: 'pick', picks: ids }] : [] });
  };
  const point = (place: Vec2): Id => {
    const id = newId();
    draft.points[id] = { at: { kind: 'observed', ...seen(place) } };
    return id;
  };
  if (form.kind === 'circle') {
    const centre = newId();
    draft.points[centre] = { at: { kind: 'fitted' } };
    add({ id: newId(), kind: 'circle', centre, evidence: [] }, threeOnCircle(form));
  } else {
    const at = form.segments.map((s) => point(s.from));
    const last = form.segments.at(-1);
    if (last && !form.closed) at.push(point(last.to));
    form.segments.forEach((s, k) => {
      const ends = { id: newId(), from: at[k]!, to: at[(k + 1) % at.length]!, evidence: [] };
      if (s.kind === 'arc') add({ ...ends, kind: 'arc' }, [s.via]);
      else if (s.kind === 'curve') add({ ...ends, kind: 'cubic' }, [s.handleFrom, s.handleTo]);
      else add({ ...ends, kind: 'line' }, []);
    });
  }
  if (!isSeen || draft.curves.length === 0) return false;
  Object.assign(sketch.points, draft.points);
  Object.assign(sketch.picks, draft.picks);
  for (const curve of draft.curves) sketch.curves[curve.id] = curve;
  const uses = draft.curves.map(({ id }) => ({ curve: id, reversed: false }));
  addPath(sketch, { ...path, uses, closed: form.kind === 'circle' || form.closed });
  return true;
}

/** Puts all of one sketch into another; its names must be new there. */
export function mergeSketch(into: Sketch, other: Sketch): void {
  Object.assign(into.points, other.points);
  Object.assign(into.picks, other.picks);
  Object.assign(into.curves, other.curves);
  for (const d of Object.values(other.dimensions))
    into.dimensions[d.id] = { ...d, refs: d.refs.map((r) => ({ ...r, sketch: into.id })) };
  for (const c of Object.values(other.constraints))
    into.constraints[c.id] = { ...c, refs: c.refs.map((r) => ({ ...r, sketch: into.id })) };
  for (const id of other.order) {
    const path = other.paths[id];
    if (path) addPath(into, path);
  }
}
