import type { PicturePoint } from '../calibration';
import type { SnappedCircle } from '../edge';
import { type Circle, threeOnCircle, type Vec2 } from '../geometry';
import { type EvaluatedPath, type NewPick, observationIn, observedOf } from '../sketch';
import { derivedPick, type Seeing, type Setting } from './setting';

/**
 * Three rim points that carry the fit's own scatter: the mean of three has the radius's σ.
 */
export function rimOf(
  circle: Circle,
  sigmaPx: number,
  snapped: SnappedCircle | null,
  context: Seeing,
): NewPick[] | null {
  const rimSigma = snapped ? Math.sqrt(3) * snapped.radiusSigmaPx : sigmaPx;
  const places = threeOnCircle(circle);
  const rim = places.map((p, k): NewPick | null => {
    const pick = derivedPick(context, p, rimSigma);
    const neighbouringEdge = otherRimAt(snapped?.beside ?? [], places[k]!, circle);
    return pick && { id: pick.id, at: { ...pick.at, snappedTo: snapped ? 'edge' : 'free', neighbouringEdge } };
  });
  const whole = rim.filter((r): r is NewPick => r !== null);
  return whole.length === 3 ? whole : null;
}

/** The other rim, where one was seen within a sixth of a turn from a place on this one. */
function otherRimAt(beside: SnappedCircle['beside'], place: Vec2, circle: Circle): PicturePoint | null {
  const away = (b: SnappedCircle['beside'][number]) => Math.hypot(b.place.x - place.x, b.place.y - place.y);
  const nearest = beside.reduce<SnappedCircle['beside'][number] | null>(
    (best, b) => (!best || away(b) < away(best) ? b : best),
    null,
  );
  return nearest && away(nearest) < circle.radius ? nearest.other : null;
}

/** Whether a circle was settled on an edge of the picture on the board, as wide as it was seen, and may be once more. */
export function maySettle({ sketch, path, form, made }: EvaluatedPath, { picture }: Pick<Setting, 'picture'>): boolean {
  if (form?.kind !== 'circle' || made || picture.kind === 'drawing') return false;
  const curve = path.uses[0]?.curve;
  const isTyped = Object.values(sketch.dimensions).some(
    ({ origin, refs }) => origin.kind === 'decided' && refs.some((r) => r.id === curve),
  );
  if (isTyped) return false;
  const seen = observedOf(sketch, path).map((id) => observationIn(sketch, id));
  const isOnEdge = (at: (typeof seen)[number]) =>
    at?.snappedTo === 'edge' && at.plane === 'face' && at.picture === picture.id;
  return seen.length === 3 && seen.every(isOnEdge);
}

/** A path's circle; null where it is none. */
export const circleOf = ({ form }: EvaluatedPath): Circle | null =>
  form?.kind === 'circle' ? { centre: form.centre, radius: form.radius } : null;
