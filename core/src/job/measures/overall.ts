import { type Segment, segmentBounds, type Vec2 } from '../../geometry';

/** A turn is better only where it saves more than this share of the area: of turns that are alike the first is kept. */
const SAME_ROOM = 1e-6;

/** A straight piece leads only where it is at least this share of the whole: a short one would turn with every pick. */
const LEAST_LEAD = 0.15;

/** What tells how long and how wide a form is, by the numbers of its pieces. */
export interface Leading {
  /** The straight piece that it is measured along. */
  lead: number;
  /** The pieces that reach furthest back, on, right and left of it. */
  reach: [back: number, on: number, right: number, left: number];
}

/**
 * The straight piece along and across which a form takes the least room, as somebody lays a caliper on it; null for one
 * without a straight piece that is long enough.
 * In: pieces by the places that they lie at, mm.
 */
export function leadingOf(segments: readonly Segment[]): Leading | null {
  const whole = spanOf(segments, 0);
  const most = Math.max(...whole.size);
  let best: (Leading & { room: number }) | null = null;
  for (const [lead, segment] of segments.entries()) {
    if (segment.kind !== 'line') continue;
    const [dx, dy] = [segment.to.x - segment.from.x, segment.to.y - segment.from.y];
    if (Math.hypot(dx, dy) < LEAST_LEAD * most) continue;
    const { size, reach } = spanOf(segments, Math.atan2(dy, dx));
    const room = size[0] * size[1];
    if (!best || room < (1 - SAME_ROOM) * best.room) best = { lead, reach, room };
  }
  return best && { lead: best.lead, reach: best.reach };
}

/** How far some pieces reach along a straight one, and across it, mm. */
export const overallAlong = (lead: Segment, segments: readonly Segment[]): [along: number, across: number] =>
  spanOf(segments, Math.atan2(lead.to.y - lead.from.y, lead.to.x - lead.from.x)).size;

function spanOf(segments: readonly Segment[], angle: number): { size: [number, number]; reach: Leading['reach'] } {
  const bounds = segments.map((s) => segmentBounds(turned(s, -angle)));
  const least = (of: (k: number) => number) => bounds.reduce((best, _, k) => (of(k) < of(best) ? k : best), 0);
  const [back, on] = [least((k) => bounds[k]!.min.x), least((k) => -bounds[k]!.max.x)];
  const [right, left] = [least((k) => bounds[k]!.min.y), least((k) => -bounds[k]!.max.y)];
  return {
    size: [bounds[on]!.max.x - bounds[back]!.min.x, bounds[left]!.max.y - bounds[right]!.min.y],
    reach: [back, on, right, left],
  };
}

function turned(segment: Segment, angle: number): Segment {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const at = ({ x, y }: Vec2): Vec2 => ({ x: c * x - s * y, y: s * x + c * y });
  const ends = { from: at(segment.from), to: at(segment.to) };
  if (segment.kind === 'line') return { kind: 'line', ...ends };
  return segment.kind === 'arc'
    ? { kind: 'arc', ...ends, via: at(segment.via) }
    : { kind: 'curve', ...ends, handleFrom: at(segment.handleFrom), handleTo: at(segment.handleTo) };
}
