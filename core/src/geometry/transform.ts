import type { Form } from './run';
import type { Segment } from './segment';
import { add, scale, sub, turned, type Vec2 } from './vector';

/** A form with each of its places taken elsewhere by a similarity, which makes lengths `grow` times as long. */
export function mapForm(form: Form, at: (p: Vec2) => Vec2, grow = 1): Form {
  if (form.kind === 'circle') return { ...form, centre: at(form.centre), radius: form.radius * grow };
  return { ...form, segments: form.segments.map((s) => mappedSegment(s, at)) };
}

function mappedSegment(segment: Segment, at: (p: Vec2) => Vec2): Segment {
  const [from, to] = [at(segment.from), at(segment.to)];
  if (segment.kind === 'line') return { kind: 'line', from, to };
  if (segment.kind === 'arc') return { kind: 'arc', from, via: at(segment.via), to };
  return { kind: 'curve', from, handleFrom: at(segment.handleFrom), handleTo: at(segment.handleTo), to };
}

/** A place as a mirror standing on the line through two others shows it; they must not be one place. */
export function mirrorPlace(p: Vec2, a: Vec2, b: Vec2): Vec2 {
  const way = sub(b, a);
  const off = sub(p, a);
  const along = (off.x * way.x + off.y * way.y) / (way.x * way.x + way.y * way.y);
  return sub(add(a, scale(way, 2 * along)), off);
}

/** A form as a mirror standing on the line through two places shows it; null where both are one place. */
export const mirrorForm = (form: Form, a: Vec2, b: Vec2): Form | null =>
  a.x === b.x && a.y === b.y ? null : mapForm(form, (p) => mirrorPlace(p, a, b));

/** Turned about a place, rad, counter-clockwise positive. */
export const turnForm = (form: Form, centre: Vec2, angle: number): Form =>
  mapForm(form, (p) => add(centre, turned(sub(p, centre), angle)));

export const shiftForm = (form: Form, by: Vec2): Form => mapForm(form, (p) => add(p, by));

export function reverseSegment(segment: Segment): Segment {
  const { from, to } = segment;
  if (segment.kind === 'line') return { kind: 'line', from: to, to: from };
  if (segment.kind === 'arc') return { kind: 'arc', from: to, via: segment.via, to: from };
  return { kind: 'curve', from: to, handleFrom: segment.handleTo, handleTo: segment.handleFrom, to: from };
}

/** The same form, run the other way. */
export const reverseForm = (form: Form): Form =>
  form.kind === 'circle' ? form : { ...form, segments: [...form.segments].reverse().map(reverseSegment) };
