import { nearRimAt, type OnTurned, silhouetteAt, type TurnedAxis } from '../calibration';
import { arcShape, type Segment, type Vec2 } from '../geometry';
import type { ChainRun, Run } from './document';
import { formOf } from './forms';
import { tangentAt } from './tangents';

type Placer = (pointId: string) => Vec2 | null;

/** Cosine to the axis below which an outline runs across it: an end or a shoulder, and no limb. */
const ACROSS = 0.17;

/**
 * Where the points of a run that was traced on a turned part truly lie in the plane of its axis: its section there.
 * Points where the outline runs along the axis lie on the limb; those where it only runs across, on the near rim of an
 * end as large as at the next point on the limb.
 *
 * In: places as they are seen on the axis's plane, mm; the axis and the lens in the same frame, its height over the plane.
 * Out: places in that frame; a run that nothing runs along the axis of is left as it is seen.
 */
export function placedOnTurned(run: Run, seen: Placer, axis: TurnedAxis, lens: ArrayLike<number>): Placer {
  const form = formOf(run, seen);
  if (run.kind === 'circle' || form?.kind !== 'chain') return seen;
  const count = run.points.length;
  const limbs = run.points.map((id, k) => onSilhouette(seen(id), tangentsAt(run, form.segments, k), axis, lens));
  const placed = new Map<string, Vec2 | null>();
  run.points.forEach((id, k) => {
    const limb = limbs[k];
    const at = seen(id);
    if (limb) placed.set(id, inPlane(axis, limb.along, limb.side * limb.radius));
    else if (at) placed.set(id, onRim(at, nextRadius(limbs, k, run.closed), axis, lens) ?? at);
  });
  run.segments.forEach((s, k) => {
    const segment = form.segments[k];
    const [from, to] = [k, (k + 1) % count];
    if (s.kind === 'arc' && segment.kind === 'arc') {
      const limb = onSilhouette(segment.via, [tangentAtVia(segment)], axis, lens);
      placed.set(s.via, limb ? inPlane(axis, limb.along, limb.side * limb.radius) : segment.via);
    }
    if (s.kind === 'curve' && segment.kind === 'curve') {
      const end = (k_: number) => placed.get(run.points[k_]) ?? null;
      placed.set(s.handleFrom, handle(segment.from, segment.handleFrom, end(from), axis, lens));
      placed.set(s.handleTo, handle(segment.to, segment.handleTo, end(to), axis, lens));
    }
  });
  return (id) => placed.get(id) ?? null;
}

/** Directions in which the outline leaves a point. */
function tangentsAt(run: ChainRun, segments: readonly Segment[], k: number): Vec2[] {
  const before = k > 0 ? segments[k - 1] : run.closed ? segments[segments.length - 1] : undefined;
  const after = segments[k];
  return [...(before ? [tangentAt(before, 'end')] : []), ...(after ? [tangentAt(after, 'start')] : [])];
}

function tangentAtVia({ from, via, to }: Extract<Segment, { kind: 'arc' }>): Vec2 {
  const shape = arcShape(from, via, to);
  return shape ? { x: shape.centre.y - via.y, y: via.x - shape.centre.x } : { x: to.x - from.x, y: to.y - from.y };
}

/** The point on the limb whose outline runs along one of these directions; null where they all run across the axis. */
function onSilhouette(
  at: Vec2 | null,
  tangents: readonly Vec2[],
  axis: TurnedAxis,
  lens: ArrayLike<number>,
): OnTurned | null {
  const straight = (t: Vec2) => Math.abs(t.x * axis.dx + t.y * axis.dy) / Math.hypot(t.x, t.y);
  const best = tangents.reduce<Vec2 | null>((b, t) => (b && straight(b) >= straight(t) ? b : t), null);
  if (!at || !best || !(straight(best) >= ACROSS)) return null;
  const found = silhouetteAt(axis, lens, at.x, at.y, best.x, best.y);
  return Number.isFinite(found.along + found.radius) ? found : null;
}

/** The radius at the nearest point of the run that lies on the limb. */
function nextRadius(limbs: readonly (OnTurned | null)[], k: number, closed: boolean): number | null {
  const count = limbs.length;
  for (let step = 1; step < count; step++)
    for (const j of [k + step, k - step]) {
      const limb = closed ? limbs[(j + count * step) % count] : limbs[j];
      if (limb) return limb.radius;
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
  const limb = onSilhouette(end, [tangent], axis, lens);
  const reach = tangent.x * axis.dx + tangent.y * axis.dy;
  if (!limb) return { x: placed.x + tangent.x, y: placed.y + tangent.y };
  const up = limb.side * limb.slope * reach;
  return { x: placed.x + reach * axis.dx - up * axis.dy, y: placed.y + reach * axis.dy + up * axis.dx };
}

const inPlane = ({ x, y, dx, dy }: TurnedAxis, along: number, across: number): Vec2 => ({
  x: x + along * dx - across * dy,
  y: y + along * dy + across * dx,
});
