import { crossingsWithin, ONE_PLACE_MM } from './crossings';
import { NO_CROSSING_SINE, SAME_SQUARE_SHARE } from './nothing';
import { offsetSegment } from './offset';
import type { Form } from './run';
import { pointAt, type Segment, segmentArea, segmentLength, shapeOfArc } from './segment';
import { add, between, cross, dot, norm, scale, sub, type Vec2 } from './vector';

/** How far pieces are drawn on to meet their neighbours, as a multiple of the larger distance: beyond that it would be a needle. */
const FARTHEST = 8;

/**
 * A closed chain each piece of which lies at a distance of its own: its neighbours are drawn on or cut back to where they
 * meet. Outwards positive, mm.
 *
 * Out: null where that makes no simple form: pieces that do not meet, curves beside pieces at another distance, or a form
 * that would cross itself. Lines and arcs stay exact.
 */
export function offsetEach(form: Form, distances: readonly number[]): Form | null {
  if (form.kind === 'circle' || !form.closed) return null;
  const { segments } = form;
  const count = segments.length;
  const area = segments.reduce((sum, s) => sum + segmentArea(s), 0);
  const beside: Segment[] = [];
  for (const [k, segment] of segments.entries()) {
    const d = (area > 0 ? -1 : 1) * distances[k]!;
    const own = d === 0 ? [segment] : offsetSegment(segment, d);
    if (own.length !== 1) return null;
    beside.push(own[0]!);
  }
  const joints: Vec2[] = [];
  for (let k = 0; k < count; k++) {
    const [a, b] = [beside[k]!, beside[(k + 1) % count]!];
    const most = FARTHEST * Math.max(Math.abs(distances[k]!), Math.abs(distances[(k + 1) % count]!), ONE_PLACE_MM);
    const at = meeting(a, b, segments[k]!.to, most);
    if (!at) return null;
    joints.push(at);
  }
  const made: Segment[] = [];
  for (let k = 0; k < count; k++) {
    const piece = reach(beside[k]!, joints[(k + count - 1) % count]!, joints[k]!);
    if (!piece) return null;
    made.push(piece);
  }
  return isSimple(made) ? { kind: 'chain', segments: made, closed: true } : null;
}

/** Where two pieces, drawn on as far as need be, meet nearest to the corner that they come from. */
function meeting(a: Segment, b: Segment, corner: Vec2, most: number): Vec2 | null {
  if (between(a.to, b.from) <= ONE_PLACE_MM) return a.to;
  if (a.kind === 'curve' || b.kind === 'curve') return null;
  const all = carriersMeet(a, b).filter((p) => between(p, corner) <= most + ONE_PLACE_MM);
  return all.reduce<Vec2 | null>((best, p) => (best && between(best, corner) <= between(p, corner) ? best : p), null);
}

function carriersMeet(a: Segment, b: Segment): Vec2[] {
  const [p, q] = [a, b].map((s) => (s.kind === 'arc' ? shapeOfArc(s) : null));
  if (p && q) {
    const way = sub(q.centre, p.centre);
    const d = norm(way);
    const along = (d * d + p.radius ** 2 - q.radius ** 2) / (2 * d);
    const square = p.radius ** 2 - along ** 2;
    if (!(d > 0) || square < -SAME_SQUARE_SHARE * p.radius ** 2) return [];
    const half = Math.sqrt(Math.max(0, square));
    const foot = add(p.centre, scale(way, along / d));
    return [-half, half].map((h) => ({ x: foot.x - (h * way.y) / d, y: foot.y + (h * way.x) / d }));
  }
  const arc = p ?? q;
  if (arc) {
    const line = p ? b : a;
    const way = sub(line.to, line.from);
    const unit = scale(way, 1 / norm(way));
    const off = sub(arc.centre, line.from);
    const square = arc.radius ** 2 - cross(unit, off) ** 2;
    if (square < -SAME_SQUARE_SHARE * arc.radius ** 2) return [];
    const half = Math.sqrt(Math.max(0, square));
    return [-half, half].map((h) => add(line.from, scale(unit, dot(off, unit) + h)));
  }
  const [d, e] = [sub(a.to, a.from), sub(b.to, b.from)];
  const det = cross(d, e);
  if (Math.abs(det) <= NO_CROSSING_SINE * norm(d) * norm(e)) return [];
  return [add(a.from, scale(d, cross(sub(b.from, a.from), e) / det))];
}

/** A piece of the same carrier between two places; null where it would run the other way. */
function reach(segment: Segment, from: Vec2, to: Vec2): Segment | null {
  if (between(from, to) <= ONE_PLACE_MM) return null;
  const isOwn = between(segment.from, from) <= ONE_PLACE_MM && between(segment.to, to) <= ONE_PLACE_MM;
  if (segment.kind === 'curve') return isOwn ? segment : null;
  const arc = segment.kind === 'arc' ? shapeOfArc(segment) : null;
  if (!arc) return dot(sub(to, from), sub(segment.to, segment.from)) > 0 ? { kind: 'line', from, to } : null;
  const angle = (p: Vec2) => Math.atan2(p.y - arc.centre.y, p.x - arc.centre.x);
  const middle = arc.startAngle + arc.sweep / 2;
  const turn = (a: number) => Math.atan2(Math.sin(a), Math.cos(a));
  // Both ends are told from the middle of what was there, so that a longer arc is still the same one.
  const [before, after] = [turn(angle(from) - middle), turn(angle(to) - middle)];
  const way = Math.sign(arc.sweep);
  if (before * way >= 0 || after * way <= 0) return null;
  const at = middle + (before + after) / 2;
  const via = add(arc.centre, { x: arc.radius * Math.cos(at), y: arc.radius * Math.sin(at) });
  return { kind: 'arc', from, via, to };
}

/** Nothing of a closed chain crosses but where one piece goes on from another. */
function isSimple(segments: readonly Segment[]): boolean {
  const count = segments.length;
  if (segments.some((s) => !(segmentLength(s) > ONE_PLACE_MM) || !Number.isFinite(pointAt(s, 0.5).x))) return false;
  return crossingsWithin(segments).every(({ i, j, t, u }) => {
    const follows = j - i === 1 || (i === 0 && j === count - 1);
    return follows && (t === 0 || t === 1) && (u === 0 || u === 1);
  });
}
