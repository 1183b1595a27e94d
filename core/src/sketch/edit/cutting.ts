import { type Segment, splitSegment } from '../../geometry';
import type { Id, OpenCurve, Part, Path, Sketch } from '../part';
import { endOf, startOf, walkOf } from '../walk';
import type { Bend } from './bending';
import { addPath, dropPath, nextName } from './drawing';
import type { See } from './forms';
import { dropCurves, joinAt, mergePoints, type NewPick } from './points';

/**
 * How both halves of a segment that is cut at t run, and where it is cut; null where a place of them cannot be seen.
 */
export function bendsOfCut(
  segment: Segment,
  t: number,
  see: See,
  newId: () => Id,
): { bends: [Bend, Bend]; at: NewPick } | null {
  const halves = splitSegment(segment, t);
  const pick = (place: { x: number; y: number }): NewPick | null => {
    const at = see(place);
    return at && { id: newId(), at };
  };
  const bends = halves.map((half): Bend | null => {
    if (half.kind === 'line') return { kind: 'line' };
    if (half.kind === 'arc') {
      const via = pick(half.via);
      return via && { kind: 'arc', via };
    }
    const [a, b] = [pick(half.handleFrom), pick(half.handleTo)];
    return a && b ? { kind: 'cubic', handles: [a, b] } : null;
  });
  const [first, second] = bends;
  const at = pick(halves[0].to);
  return first && second && at ? { bends: [first, second], at } : null;
}

/** Takes one curve out of a path: a closed one opens there, an open one falls in two, of which the second gets `rest`. */
export function removePiece(part: Part, sketch: Sketch, path: Path, curveId: Id, rest: Id): void {
  const k = path.uses.findIndex((u) => u.curve === curveId);
  if (k < 0) return;
  const [before, after] = [path.uses.slice(0, k), path.uses.slice(k + 1)];
  if (path.closed) {
    path.uses = [...after, ...before];
    path.closed = false;
    if (path.uses.length === 0) dropPath(sketch, path);
  } else if (before.length === 0 && after.length === 0) dropPath(sketch, path);
  else if (before.length === 0 || after.length === 0) path.uses = before.length ? before : after;
  else {
    path.uses = before;
    addPath(sketch, { ...path, id: rest, name: nextName(part, 'Path'), uses: after, closed: false });
  }
  dropCurves(sketch, [curveId]);
}

/** Cuts a path at a point that it passes: a closed one opens there, an open one falls in two, of which the second gets `rest`. */
export function breakPath(part: Part, sketch: Sketch, path: Path, point: Id, own: { rest: Id; point: Id }): void {
  const walk = walkOf(sketch, path);
  const k = walk?.points.indexOf(point) ?? -1;
  const at = sketch.points[point];
  if (!walk || k < 0 || !at || (!path.closed && (k === 0 || k === walk.points.length - 1))) return;
  // What begins there gets a point of its own in the same place.
  sketch.points[own.point] = { at: at.at.kind === 'observed' ? { ...at.at } : at.at };
  const next = path.uses[k]!;
  const curve = sketch.curves[next.curve] as OpenCurve;
  if (startOf(curve, next) !== point) return;
  if (next.reversed) curve.to = own.point;
  else curve.from = own.point;
  const far = endOf(curve, next);
  for (const d of [...Object.values(sketch.dimensions), ...Object.values(sketch.constraints)]) {
    const ids = d.refs.map((r) => r.id);
    if (ids.includes(point) && ids.includes(far)) for (const r of d.refs) if (r.id === point) r.id = own.point;
  }
  if (path.closed) {
    path.uses = [...path.uses.slice(k), ...path.uses.slice(0, k)];
    path.closed = false;
    return;
  }
  const uses = path.uses.slice(k);
  path.uses = path.uses.slice(0, k);
  addPath(sketch, { ...path, id: own.rest, name: nextName(part, 'Path'), uses, closed: false });
}

/** Runs a path the other way. */
export function reversePath(path: Path): void {
  path.uses = path.uses.map(({ curve, reversed }) => ({ curve, reversed: !reversed })).reverse();
}

/**
 * Brings the ends of two open paths, or both of one, together: one point where a weighted mean of both was seen, and one
 * path, `path`. Does nothing where a curve between both would be left with no length.
 */
export function joinEnds(sketch: Sketch, keep: Id, gone: Id, path: Id): void {
  const [a, b] = [sketch.points[keep]?.at, sketch.points[gone]?.at];
  if (a?.kind === 'observed' && b?.kind === 'observed' && a.picture === b.picture) {
    const [p, q] = [1 / a.sigmaPx ** 2, 1 / b.sigmaPx ** 2];
    const mean = (x: number, y: number) => (p * x + q * y) / (p + q);
    const [uPx, vPx] = [mean(a.uPx, b.uPx), mean(a.vPx, b.vPx)];
    // Brought together they are no better known than the gap between them says.
    const sigmaPx = Math.max(1 / Math.sqrt(p + q), Math.hypot(a.uPx - b.uPx, a.vPx - b.vPx) / 2);
    if (!mergePoints(sketch, keep, gone)) return;
    sketch.points[keep] = { at: { ...a, uPx, vPx, sigmaPx, snappedTo: 'free', neighbouringEdge: null } };
  } else if (!mergePoints(sketch, keep, gone)) return;
  joinAt(sketch, keep, path);
}
