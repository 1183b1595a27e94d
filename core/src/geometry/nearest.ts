import { arcShape, pointAt, type Segment } from './segment';
import { between, dot, lerp, sub, type Vec2 } from './vector';

/** The place on a segment nearest to a point. */
export interface Nearest {
  t: number;
  point: Vec2;
  distance: number;
}

/** Samples of a curve before the refinement: a cubic turns at most twice, so its nearest valley is never missed. */
const CURVE_SAMPLES = 24;
const REFINEMENTS = 40;

export function nearestOn(segment: Segment, p: Vec2): Nearest {
  if (segment.kind === 'line') return nearestOnLine(segment.from, segment.to, p);
  if (segment.kind === 'arc') return nearestOnArc(segment, p);
  let best = 0;
  const away = (t: number) => between(pointAt(segment, t), p);
  for (let k = 1; k <= CURVE_SAMPLES; k++) if (away(k / CURVE_SAMPLES) < away(best / CURVE_SAMPLES)) best = k;
  let low = Math.max(0, (best - 1) / CURVE_SAMPLES);
  let high = Math.min(1, (best + 1) / CURVE_SAMPLES);
  for (let k = 0; k < REFINEMENTS; k++) {
    const a = low + (high - low) / 3;
    const b = high - (high - low) / 3;
    if (away(a) < away(b)) high = b;
    else low = a;
  }
  const t = (low + high) / 2;
  return { t, point: pointAt(segment, t), distance: away(t) };
}

function nearestOnLine(from: Vec2, to: Vec2, p: Vec2): Nearest {
  const along = sub(to, from);
  const square = dot(along, along);
  const t = square === 0 ? 0 : Math.min(1, Math.max(0, dot(sub(p, from), along) / square));
  const point = lerp(from, to, t);
  return { t, point, distance: between(point, p) };
}

function nearestOnArc(segment: Extract<Segment, { kind: 'arc' }>, p: Vec2): Nearest {
  const arc = arcShape(segment.from, segment.via, segment.to);
  if (!arc) return nearestOnLine(segment.from, segment.to, p);
  const angle = Math.atan2(p.y - arc.centre.y, p.x - arc.centre.x);
  const away = arc.sweep > 0 ? angle - arc.startAngle : arc.startAngle - angle;
  const turn = ((away % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI);
  const sweep = Math.abs(arc.sweep);
  // Past the end, the nearer end is the one less than half the gap away.
  const t = turn <= sweep ? turn / sweep : turn - sweep < (2 * Math.PI - sweep) / 2 ? 1 : 0;
  const point = pointAt(segment, t);
  return { t, point, distance: between(point, p) };
}

/** Whether a point lies inside a closed polygon (even-odd). */
export function isInside(polygon: readonly Vec2[], p: Vec2): boolean {
  let inside = false;
  for (let i = 0, j = polygon.length - 1; i < polygon.length; j = i++) {
    const a = polygon[i];
    const b = polygon[j];
    if (a.y > p.y !== b.y > p.y && p.x < ((b.x - a.x) * (p.y - a.y)) / (b.y - a.y) + a.x) inside = !inside;
  }
  return inside;
}
