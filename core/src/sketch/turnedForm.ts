import { nearRimAt, type OnTurned, roundedEndAt, silhouetteAt, type TurnedAxis } from '../calibration';
import { arcShape, type Segment, type Vec2 } from '../geometry';
import { formOf, type Placer } from './curveForm';
import type { Path, Sketch } from './part';
import { tangentAt } from './tangents';
import { isCircle, picksOfCurve, walkOf } from './walk';

/** Cosine to the axis below which an outline runs across it: an end or a shoulder, and no silhouette. */
const ACROSS = 0.17;

/**
 * Where the points of a path that was traced on a turned part truly lie in the plane of its axis: its section there.
 * Points where the outline runs along the axis lie on the silhouette; those where it only runs across, on the near rim
 * of an end as large as at the next point on the silhouette, or at the end of the round that leads to it.
 *
 * In: places as they are seen on the axis's plane, mm; the axis and the lens in the same frame, its height over the plane.
 * Out: places in that frame; a path that nothing runs along the axis of is left as it is seen.
 */
export function placedOnTurned(
  sketch: Sketch,
  path: Path,
  seen: Placer,
  axis: TurnedAxis,
  lens: ArrayLike<number>,
): Placer {
  const form = formOf(sketch, path, seen);
  const walk = walkOf(sketch, path);
  if (!walk || form?.kind !== 'chain' || isCircle(sketch, path)) return seen;
  const { points, pieces } = walk;
  const { segments } = form;
  const count = points.length;
  const on = points.map((id, k) =>
    endsRound(segments, k, path.closed, axis)
      ? null
      : onSilhouette(seen(id), tangentsAt(segments, k, path.closed), axis, lens),
  );
  const rounded = points.map((id, k) =>
    on[k] ? null : roundedEnd(seen(id), k, segments, on, path.closed, axis, lens),
  );
  const radii = points.map((_, k) => on[k]?.radius ?? (rounded[k] ? Math.abs(rounded[k].across) : null));
  const placed = new Map<string, Vec2 | null>();
  points.forEach((id, k) => {
    const found = on[k];
    const end = rounded[k];
    const at = seen(id);
    if (found) placed.set(id, inPlane(axis, found.along, found.side * found.radius));
    else if (end) placed.set(id, inPlane(axis, end.along, end.across));
    else if (at) placed.set(id, onRim(at, nextRadius(radii, k, path.closed), axis, lens) ?? at);
  });
  pieces.forEach(({ curve, reversed }, k) => {
    const segment = segments[k]!;
    const picks = picksOfCurve(curve);
    if (segment.kind === 'arc' && picks.length > 0) {
      const found = onSilhouette(segment.via, [tangentAtVia(segment)], axis, lens);
      placed.set(picks[0]!, found ? inPlane(axis, found.along, found.side * found.radius) : segment.via);
    }
    if (segment.kind === 'curve') {
      const [atStart, atEnd] = reversed ? [picks[1]!, picks[0]!] : [picks[0]!, picks[1]!];
      const end = (n: number) => placed.get(points[n]!) ?? null;
      placed.set(atStart, handle(segment.from, segment.handleFrom, end(k), axis, lens));
      placed.set(atEnd, handle(segment.to, segment.handleTo, end((k + 1) % count), axis, lens));
    }
  });
  return (id) => placed.get(id) ?? null;
}

/** Directions in which the outline leaves a point. */
function tangentsAt(segments: readonly Segment[], k: number, closed: boolean): Vec2[] {
  const before = k > 0 ? segments[k - 1] : closed ? segments[segments.length - 1] : undefined;
  const after = segments[k];
  return [...(before ? [tangentAt(before, 'end')] : []), ...(after ? [tangentAt(after, 'start')] : [])];
}

function tangentAtVia({ from, via, to }: Extract<Segment, { kind: 'arc' }>): Vec2 {
  const shape = arcShape(from, via, to);
  return shape ? { x: shape.centre.y - via.y, y: via.x - shape.centre.x } : { x: to.x - from.x, y: to.y - from.y };
}

/** The point on the silhouette whose outline runs along one of these directions; null where all run across the axis. */
function onSilhouette(
  at: Vec2 | null,
  tangents: readonly Vec2[],
  axis: TurnedAxis,
  lens: ArrayLike<number>,
): OnTurned | null {
  const best = tangents.reduce<Vec2 | null>((b, t) => (b && straight(b, axis) >= straight(t, axis) ? b : t), null);
  if (!at || !best || !(straight(best, axis) >= ACROSS)) return null;
  const found = silhouetteAt(axis, lens, at.x, at.y, best.x, best.y);
  return Number.isFinite(found.along + found.radius) ? found : null;
}

/** Steeper than this to the axis, by its cosine, a round that meets a line across runs out in it, however it was drawn. */
const RUNS_OUT = 0.7;

/** Whether a round ends at a point in a line that runs across the axis: the end is seen there, and no silhouette. */
function endsRound(segments: readonly Segment[], k: number, closed: boolean, axis: TurnedAxis): boolean {
  const before = k > 0 ? segments[k - 1] : closed ? segments[segments.length - 1] : undefined;
  const after = segments[k];
  const [line, round] = before?.kind === 'line' ? [before, after] : [after, before];
  if (line?.kind !== 'line' || !round || round.kind === 'line') return false;
  const atRound = tangentAt(round, round === before ? 'end' : 'start');
  return straight(tangentAt(line, 'start'), axis) < ACROSS && straight(atRound, axis) < RUNS_OUT;
}

/** Cosine to the axis. */
const straight = (t: Vec2, axis: TurnedAxis): number => Math.abs(t.x * axis.dx + t.y * axis.dy) / Math.hypot(t.x, t.y);

/** Where a point lies at which a round ends that began on the silhouette; null where none does. */
function roundedEnd(
  at: Vec2 | null,
  k: number,
  segments: readonly Segment[],
  on: readonly (OnTurned | null)[],
  closed: boolean,
  axis: TurnedAxis,
  lens: ArrayLike<number>,
): { along: number; across: number } | null {
  const count = on.length;
  if (!at) return null;
  for (const [segment, other] of [
    [segments[k], k + 1],
    [k > 0 || closed ? segments[(k - 1 + count) % count] : undefined, k - 1],
  ] as const) {
    const from = closed ? on[(other + count) % count] : on[other];
    if (!segment || segment.kind === 'line' || !from) continue;
    const found = roundedEndAt(axis, lens, at.x, at.y, from.radius);
    if (Number.isFinite(found.along)) return found;
  }
  return null;
}

/** The radius at the nearest point of the path where it is known. */
function nextRadius(radii: readonly (number | null)[], k: number, closed: boolean): number | null {
  const count = radii.length;
  for (let step = 1; step < count; step++)
    for (const j of [k + step, k - step]) {
      const found = closed ? radii[(j + count * step) % count] : radii[j];
      if (found != null) return found;
    }
  return null;
}

function onRim(at: Vec2, radius: number | null, axis: TurnedAxis, lens: ArrayLike<number>): Vec2 | null {
  if (radius === null) return null;
  const { along, across } = nearRimAt(axis, lens, at.x, at.y, radius);
  return Number.isFinite(along) ? inPlane(axis, along, across) : null;
}

/** A handle keeps its reach along the axis and takes the true slope of the outline. */
function handle(end: Vec2, at: Vec2, placed: Vec2 | null, axis: TurnedAxis, lens: ArrayLike<number>): Vec2 | null {
  if (!placed) return null;
  const tangent = { x: at.x - end.x, y: at.y - end.y };
  const found = onSilhouette(end, [tangent], axis, lens);
  const reach = tangent.x * axis.dx + tangent.y * axis.dy;
  if (!found) return { x: placed.x + tangent.x, y: placed.y + tangent.y };
  const up = found.side * found.slope * reach;
  return { x: placed.x + reach * axis.dx - up * axis.dy, y: placed.y + reach * axis.dy + up * axis.dx };
}

const inPlane = ({ x, y, dx, dy }: TurnedAxis, along: number, across: number): Vec2 => ({
  x: x + along * dx - across * dy,
  y: y + along * dy + across * dx,
});
