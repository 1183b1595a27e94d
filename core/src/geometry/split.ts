import { pointAt, type Segment } from './segment';
import { lerp, type Vec2, vec } from './vector';

/** Cuts a segment in two at t; both pieces together run exactly where it ran. */
export function splitSegment(segment: Segment, t: number): [Segment, Segment] {
  const at = pointAt(segment, t);
  const { from, to } = segment;
  if (segment.kind === 'line')
    return [
      { kind: 'line', from, to: at },
      { kind: 'line', from: at, to },
    ];
  if (segment.kind === 'arc')
    return [
      { kind: 'arc', from, via: pointAt(segment, t / 2), to: at },
      { kind: 'arc', from: at, via: pointAt(segment, (1 + t) / 2), to },
    ];
  // De Casteljau.
  const a = lerp(from, segment.handleFrom, t);
  const b = lerp(segment.handleFrom, segment.handleTo, t);
  const c = lerp(segment.handleTo, to, t);
  const ab = lerp(a, b, t);
  const bc = lerp(b, c, t);
  return [
    { kind: 'curve', from, handleFrom: a, handleTo: ab, to: at },
    { kind: 'curve', from: at, handleFrom: bc, handleTo: c, to },
  ];
}

/** A segment from one of its places to another. */
export function stretchOf(segment: Segment, from: number, to: number): Segment {
  const upTo = to < 1 ? splitSegment(segment, to)[0] : segment;
  return from > 0 ? splitSegment(upTo, from / to)[1] : upTo;
}

/** Handles of the plainest cubic from `from` to `to` whose middle is at `middle`. */
export function handlesThrough(from: Vec2, middle: Vec2, to: Vec2): { handleFrom: Vec2; handleTo: Vec2 } {
  const bowX = (4 / 3) * (middle.x - (from.x + to.x) / 2);
  const bowY = (4 / 3) * (middle.y - (from.y + to.y) / 2);
  const third = lerp(from, to, 1 / 3);
  const twoThirds = lerp(from, to, 2 / 3);
  return { handleFrom: vec(third.x + bowX, third.y + bowY), handleTo: vec(twoThirds.x + bowX, twoThirds.y + bowY) };
}
