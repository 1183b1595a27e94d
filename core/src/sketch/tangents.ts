import { arcShape, type Segment, type Vec2 } from '../geometry';

/** Direction of travel at an end of a segment; not of unit length. */
export function tangentAt(segment: Segment, end: 'start' | 'end'): Vec2 {
  const { from, to } = segment;
  if (segment.kind === 'curve') {
    const [a, b] = end === 'start' ? [from, segment.handleFrom] : [segment.handleTo, to];
    return { x: b.x - a.x, y: b.y - a.y };
  }
  const arc = segment.kind === 'arc' ? arcShape(from, segment.via, to) : null;
  if (!arc) return { x: to.x - from.x, y: to.y - from.y };
  const angle = end === 'start' ? arc.startAngle : arc.startAngle + arc.sweep;
  const way = Math.sign(arc.sweep);
  return { x: -way * Math.sin(angle), y: way * Math.cos(angle) };
}
