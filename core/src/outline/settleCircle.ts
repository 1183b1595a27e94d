import { between, type Circle, circleThrough, threeOnCircle, type Vec2 } from '../geometry';
import { type Id, type PictureMap, pxPerUnit } from '../sketch';
import { fitCircleTo } from './fitCircleTo';
import { foundAlong, isEnough, type Looking } from './foundAlong';
import { LOOKS, type SettledPick, type SettleResult } from './settled';

interface RoundEdge extends Circle {
  radiusSigmaPx: number;
  /** Places on it, of those looked at. */
  used: number;
  asked: number;
  rmsPx: number;
}

/** What all places of a rim share, px; as much as was found for circles that snap (edge/snapCircle.ts). */
const RIM_COMMON_PX = 0.1;

/**
 * Settles a circle on the round edge that it lies over; its three picks tell the radius as surely as all of that does.
 *
 * The edge is told in two ways: by the places of the sharpest edge all round, and by light across the rim as a whole, which
 * sees through shade and knows what a wall does to it. Each says how sure it is; the surer one counts.
 */
export function settleCircle(
  curve: Id,
  picks: readonly Id[],
  place: (id: Id) => Vec2 | null,
  mapper: PictureMap,
  look: Looking,
): SettleResult {
  const rim = picks.map(place);
  const drawn = rim.length === 3 && rim.every((p) => p !== null) ? circleThrough(rim[0]!, rim[1]!, rim[2]!) : null;
  if (!drawn) return { ok: false, reason: 'no-rim' };
  const [circle] = [throughLight(drawn, mapper, look), byPlaces(drawn, mapper, look)]
    .filter((c) => c !== null)
    .sort((p, q) => p.radiusSigmaPx - q.radiusSigmaPx);
  if (!circle) return { ok: false, reason: 'no-edge' };
  // The mean of three places evenly round a circle is its radius: each has three times its variance.
  const sigmaPx = Math.sqrt(3) * circle.radiusSigmaPx;
  const out: Record<Id, SettledPick> = {};
  for (const [k, at] of threeOnCircle(circle).entries()) {
    const point = mapper.toPicture(at);
    if (!point) return { ok: false, reason: 'not-here' };
    out[picks[k]!] = { ...point, sigmaPx };
  }
  const { used, asked, rmsPx } = circle;
  return {
    ok: true,
    picks: out,
    moved: between(circle.centre, drawn.centre) + Math.abs(circle.radius - drawn.radius),
    pieces: [{ curve, found: used, asked, rmsPx, isDoubtful: false }],
  };
}

/** Picture pixels a unit of the plane, at a circle's rim. */
const pxAt = ({ centre, radius }: Circle, mapper: PictureMap) =>
  pxPerUnit(mapper, { x: centre.x + radius, y: centre.y });

function throughLight(drawn: Circle, mapper: PictureMap, { round }: Looking): RoundEdge | null {
  const found = round(drawn);
  return found && { ...found, asked: found.used, rmsPx: found.scatter * pxAt(found, mapper) };
}

function byPlaces(drawn: Circle, mapper: PictureMap, look: Looking): RoundEdge | null {
  let edge: RoundEdge | null = null;
  let from = drawn;
  for (const { searchPx, most } of LOOKS) {
    const { centre, radius } = from;
    const at = (eighth: number): Vec2 => ({
      x: centre.x + radius * Math.cos((eighth * Math.PI) / 4),
      y: centre.y + radius * Math.sin((eighth * Math.PI) / 4),
    });
    const quarters = [0, 2, 4, 6].map((k) =>
      foundAlong({ kind: 'arc', from: at(k), via: at(k + 1), to: at(k + 2) }, mapper, look, searchPx, most),
    );
    const asked = quarters.reduce((sum, f) => sum + f.asked, 0);
    const places = quarters.flatMap((f) => f.places);
    const fit = isEnough({ asked, places, softPx: 0 }) ? fitCircleTo({ centre, radius }, places) : null;
    if (!fit) return null;
    const px = pxAt(fit.circle, mapper);
    const softPx = Math.max(...quarters.map((f) => f.softPx));
    const radiusSigmaPx = Math.hypot(fit.radiusSigma * px, RIM_COMMON_PX, softPx);
    edge = { ...fit.circle, radiusSigmaPx, used: fit.used, asked, rmsPx: fit.rms * px };
    from = fit.circle;
  }
  return edge;
}
