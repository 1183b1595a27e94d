import { between, circleThrough, threeOnCircle, type Vec2 } from '../geometry';
import { type Id, type PictureMap, pxPerUnit } from '../sketch';
import type { Looking } from './foundAlong';
import type { SettledPick, SettleResult } from './settled';

/** Settles a circle on the round edge that it lies over; its three picks tell the radius as surely as all of that does. */
export function settleCircle(
  curve: Id,
  picks: readonly Id[],
  place: (id: Id) => Vec2 | null,
  mapper: PictureMap,
  { round }: Looking,
): SettleResult {
  const rim = picks.map(place);
  const drawn = rim.length === 3 && rim.every((p) => p !== null) ? circleThrough(rim[0]!, rim[1]!, rim[2]!) : null;
  if (!drawn) return { ok: false, reason: 'no-rim' };
  const circle = round(drawn);
  if (!circle) return { ok: false, reason: 'no-edge' };
  // The mean of three places evenly round a circle is its radius: each has three times its variance.
  const sigmaPx = Math.sqrt(3) * circle.radiusSigmaPx;
  const out: Record<Id, SettledPick> = {};
  for (const [k, at] of threeOnCircle(circle).entries()) {
    const point = mapper.toPicture(at);
    if (!point) return { ok: false, reason: 'not-here' };
    out[picks[k]!] = { ...point, sigmaPx };
  }
  const { used, scatter } = circle;
  const rmsPx = scatter * pxPerUnit(mapper, { x: circle.centre.x + circle.radius, y: circle.centre.y });
  return {
    ok: true,
    picks: out,
    moved: between(circle.centre, drawn.centre) + Math.abs(circle.radius - drawn.radius),
    pieces: [{ curve, found: used, asked: used, rmsPx, isDoubtful: false }],
  };
}
