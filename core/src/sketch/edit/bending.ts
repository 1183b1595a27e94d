import { type Id, type OpenCurve, observationIn, type Path, type PlaneName, type Sketch } from '../part';
import { planeOfPath } from '../walk';
import { dropEvidence, dropSizes, type NewPick, type NewPoint, putPoint } from './points';

/** How a curve runs between its ends, from its `from` on. */
export type Bend = { kind: 'line' } | { kind: 'arc'; via: NewPick } | { kind: 'cubic'; handles: [NewPick, NewPick] };

/** What bends a curve, on the plane that its path lies on: a new place is seen on no other. */
function onPlane(how: Bend, plane: PlaneName): Bend {
  const on = (pick: NewPick): NewPick => ({ ...pick, at: { ...pick.at, plane } });
  if (how.kind === 'arc') return { kind: 'arc', via: on(how.via) };
  return how.kind === 'cubic' ? { kind: 'cubic', handles: [on(how.handles[0]), on(how.handles[1])] } : how;
}

/** Gives a curve another form between its ends. */
export function bend(sketch: Sketch, curveId: Id, how: Bend): void {
  const curve = sketch.curves[curveId];
  if (!curve || curve.kind === 'circle') return;
  dropEvidence(sketch, curve);
  if (how.kind !== curve.kind) dropLengthOf(sketch, curve);
  const at = observationIn(sketch, curve.from);
  sketch.curves[curveId] = bent(sketch, curve, at ? onPlane(how, at.plane) : how);
}

function bent(sketch: Sketch, { id, from, to }: Pick<OpenCurve, 'id' | 'from' | 'to'>, how: Bend): OpenCurve {
  const picks = how.kind === 'line' ? [] : how.kind === 'arc' ? [how.via] : how.handles;
  for (const pick of picks) sketch.picks[pick.id] = pick.at;
  const evidence = picks.length ? [{ edge: 'pick' as const, picks: picks.map((p) => p.id) }] : [];
  return { id, kind: how.kind, from, to, evidence };
}

/** A distance between both ends was decided of a line; of what is bent it says something else. */
function dropLengthOf({ dimensions }: Sketch, { from, to }: OpenCurve): void {
  for (const d of Object.values(dimensions)) {
    const ids = d.refs.map((r) => r.id);
    if (d.kind === 'distance' && ids.includes(from) && ids.includes(to)) delete dimensions[d.id];
  }
}

/** Puts a point into a curve, which becomes two: it keeps its first part, `second` is the name of the other. */
export function insertPoint(
  sketch: Sketch,
  path: Path,
  curveId: Id,
  at: NewPoint,
  second: Id,
  [first, rest]: readonly [Bend, Bend],
): void {
  const curve = sketch.curves[curveId];
  const k = path.uses.findIndex((u) => u.curve === curveId);
  if (!curve || curve.kind === 'circle' || k < 0) return;
  dropLengthOf(sketch, curve);
  dropSizes(sketch, curveId);
  dropEvidence(sketch, curve);
  const plane = planeOfPath(sketch, path);
  putPoint(sketch, at.at ? { ...at, at: { ...at.at, plane } } : at);
  const { from, to } = curve;
  sketch.curves[curveId] = bent(sketch, { id: curveId, from, to: at.id }, onPlane(first, plane));
  sketch.curves[second] = bent(sketch, { id: second, from: at.id, to }, onPlane(rest, plane));
  const { reversed } = path.uses[k]!;
  const uses = [
    { curve: curveId, reversed },
    { curve: second, reversed },
  ];
  path.uses.splice(k, 1, ...(reversed ? uses.reverse() : uses));
}
