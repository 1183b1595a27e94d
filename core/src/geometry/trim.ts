import { type Crossing, crossingsOf, ONE_PLACE_MM, speedAt } from './crossings';
import { NO_HANDLE_MM, NO_SHARE } from './nothing';
import type { Form } from './run';
import { pointAt, type Segment, shapeOfArc } from './segment';
import { add, between, norm, scale, sub, type Vec2 } from './vector';

/** So far ahead something is looked for to extend to, mm: no part is longer. */
const FARTHEST_MM = 20_000;

/** A circle as two arcs, that whatever knows segments alone can deal with it. */
function halvesOfCircle({ centre, radius }: Extract<Form, { kind: 'circle' }>): [Segment, Segment] {
  const on = (x: number, y: number): Vec2 => ({ x: centre.x + radius * x, y: centre.y + radius * y });
  return [
    { kind: 'arc', from: on(1, 0), via: on(0, 1), to: on(-1, 0) },
    { kind: 'arc', from: on(-1, 0), via: on(0, -1), to: on(1, 0) },
  ];
}

/** The segments of a form. */
export const segmentsOf = (form: Form): readonly Segment[] =>
  form.kind === 'circle' ? halvesOfCircle(form) : form.segments;

/** A stretch of a segment by its shares, and what it ends at on either side; null where that is the segment's own end. */
export interface Between {
  from: number;
  to: number;
  before: Crossing | null;
  after: Crossing | null;
}

/** The stretch of a segment about t that lies between the crossings with others on either side. */
export function stretchAbout(segment: Segment, t: number, others: readonly Segment[]): Between {
  let before: Crossing | null = null;
  let after: Crossing | null = null;
  for (const other of others)
    for (const c of crossingsOf(segment, other)) {
      const isInner = between(c.at, segment.from) > ONE_PLACE_MM && between(c.at, segment.to) > ONE_PLACE_MM;
      if (!isInner) continue;
      if (c.t <= t && c.t > (before?.t ?? 0)) before = c;
      if (c.t > t && c.t < (after?.t ?? 1)) after = c;
    }
  return { from: before?.t ?? 0, to: after?.t ?? 1, before, after };
}

/**
 * Where a line or an arc, drawn on beyond its end, first meets another segment; null where it meets none, and for a
 * curve, which has no way on of its own. An arc goes on round its circle, up to its own other end.
 */
export function meetingAhead(segment: Segment, end: 'from' | 'to', others: readonly Segment[]): Vec2 | null {
  const ahead = wayOn(segment, end);
  if (!ahead) return null;
  let best: Crossing | null = null;
  for (const other of others)
    for (const c of crossingsOf(ahead, other)) {
      const away = between(c.at, segment[end]);
      if (away > ONE_PLACE_MM && (!best || c.t < best.t)) best = c;
    }
  return best?.at ?? null;
}

/** What goes on where a segment ends. */
function wayOn(segment: Segment, end: 'from' | 'to'): Segment | null {
  if (segment.kind === 'curve') return null;
  const here = segment[end];
  const arc = segment.kind === 'arc' ? shapeOfArc(segment) : null;
  if (arc) {
    const left = (2 * Math.PI - Math.abs(arc.sweep)) * Math.sign(arc.sweep) * (1 - NO_SHARE);
    const start = end === 'to' ? arc.startAngle + arc.sweep : arc.startAngle;
    const on = (angle: number): Vec2 => ({
      x: arc.centre.x + arc.radius * Math.cos(angle),
      y: arc.centre.y + arc.radius * Math.sin(angle),
    });
    const way = end === 'to' ? left : -left;
    return { kind: 'arc', from: here, via: on(start + way / 2), to: on(start + way) };
  }
  const speed = speedAt(segment, end === 'to' ? 1 : 0);
  const length = norm(speed);
  if (!(length > 0)) return null;
  const by = ((end === 'to' ? 1 : -1) * FARTHEST_MM) / length;
  return { kind: 'line', from: here, to: add(here, scale(speed, by)) };
}

/** Sine of the angle between a chord and the way at its start below which the arc is a line. */
const STRAIGHT_SINE = 1e-6;

/**
 * The arc that leaves a place in a direction and ends in another: tangent to what came before. A line where the end lies
 * straight ahead; null where it lies straight behind, or in the same place.
 */
export function tangentArc(from: Vec2, direction: Vec2, to: Vec2): Segment | null {
  const chord = sub(to, from);
  const [length, d] = [norm(chord), norm(direction)];
  if (!(length > ONE_PLACE_MM) || !(d > 0)) return null;
  const [ux, uy] = [direction.x / d, direction.y / d];
  const along = (chord.x * ux + chord.y * uy) / length;
  const aside = (ux * chord.y - uy * chord.x) / length;
  if (Math.abs(aside) < STRAIGHT_SINE) return along > 0 ? { kind: 'line', from, to } : null;
  // The chord stands at half the sweep to the tangent; the arc's middle at a quarter of it.
  const quarter = Math.atan2(aside, along) / 2;
  const reach = length / 2 / Math.cos(quarter);
  const [c, s] = [Math.cos(quarter), Math.sin(quarter)];
  return { kind: 'arc', from, via: add(from, scale({ x: ux * c - uy * s, y: ux * s + uy * c }, reach)), to };
}

/** Direction in which a segment leaves its end, of unit length. */
export function leaving(segment: Segment): Vec2 {
  const speed = speedAt(segment, 1);
  const length = norm(speed);
  // Handles of no length say nothing: the way from a little before the end does.
  const way = length > NO_HANDLE_MM ? speed : sub(segment.to, pointAt(segment, 0.999));
  return scale(way, 1 / (norm(way) || 1));
}
