import { between, circleThrough, threeOnCircle, type Vec2 } from '../geometry';
import { type Id, type PictureMap, pxPerUnit } from '../sketch';
import { fitCircleTo } from './fitCircleTo';
import { foundAlong, isEnough, type LookForEdges, NOTHING_FOUND } from './foundAlong';
import { COMMON_PX, LOOKS, type SettledPick, type SettleResult } from './settled';

/** Settles a circle by all places along its rim; its three picks tell the radius as surely as those do. */
export function settleCircle(
  curve: Id,
  picks: readonly Id[],
  place: (id: Id) => Vec2 | null,
  mapper: PictureMap,
  look: LookForEdges,
): SettleResult {
  const rim = picks.map(place);
  const drawn = rim.length === 3 && rim.every((p) => p !== null) ? circleThrough(rim[0]!, rim[1]!, rim[2]!) : null;
  if (!drawn) return { ok: false, reason: 'no-rim' };
  let circle = drawn;
  let fit: ReturnType<typeof fitCircleTo> = null;
  let found = NOTHING_FOUND;
  for (const { searchPx, most } of LOOKS) {
    const { centre, radius } = circle;
    const at = (eighth: number): Vec2 => ({
      x: centre.x + radius * Math.cos((eighth * Math.PI) / 4),
      y: centre.y + radius * Math.sin((eighth * Math.PI) / 4),
    });
    const each = [0, 2, 4, 6].map((k) =>
      foundAlong({ kind: 'arc', from: at(k), via: at(k + 1), to: at(k + 2) }, mapper, look, searchPx, most, 0),
    );
    found = {
      asked: each.reduce((sum, f) => sum + f.asked, 0),
      places: each.flatMap((f) => f.places),
      softPx: Math.max(...each.map((f) => f.softPx)),
    };
    fit = isEnough(found) ? fitCircleTo(circle, found.places) : null;
    if (!fit) return { ok: false, reason: 'no-edge' };
    circle = fit.circle;
  }
  const px = pxPerUnit(mapper, { x: circle.centre.x + circle.radius, y: circle.centre.y });
  // Three places evenly round a circle tell its radius by a third of their variance: that is what each is given.
  const sigmaPx = Math.sqrt(3) * Math.hypot(fit!.radiusSigma * px, COMMON_PX, found.softPx);
  const out: Record<Id, SettledPick> = {};
  for (const [k, at] of threeOnCircle(circle).entries()) {
    const point = mapper.toPicture(at);
    if (!point) return { ok: false, reason: 'not-here' };
    out[picks[k]!] = { ...point, sigmaPx };
  }
  return {
    ok: true,
    picks: out,
    moved: between(circle.centre, drawn.centre) + Math.abs(circle.radius - drawn.radius),
    pieces: [{ curve, found: fit!.used, asked: found.asked, rmsPx: fit!.rms * px, isDoubtful: false }],
  };
}
