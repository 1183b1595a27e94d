import { pointAt, type Segment, shapeOfArc } from './segment';
import { between, dot, lerp, sub, type Vec2 } from './vector';

/** The place on a segment nearest to a point. */
export interface Nearest {
  t: number;
  point: Vec2;
  distance: number;
}

/** Samples of a curve before the refinement: its distance from a place has at most three valleys. */
const CURVE_SAMPLES = 48;
const REFINEMENTS = 40;

export function nearestOn(segment: Segment, p: Vec2): Nearest {
  if (segment.kind === 'line') return nearestOnLine(segment.from, segment.to, p);
  if (segment.kind === 'arc') return nearestOnArc(segment, p);
  const away = (t: number) => between(pointAt(segment, t), p);
  const sampled = Array.from({ length: CURVE_SAMPLES + 1 }, (_, k) => away(k / CURVE_SAMPLES));
  let t = 0;
  // Every valley is followed down: of two nearly as deep, the samples do not tell which is the deeper.
  sampled.forEach((here, k) => {
    if (here > (sampled[k - 1] ?? here) || here > (sampled[k + 1] ?? here)) return;
    const lowest = followDown(away, Math.max(0, (k - 1) / CURVE_SAMPLES), Math.min(1, (k + 1) / CURVE_SAMPLES));
    if (away(lowest) < away(t)) t = lowest;
  });
  return { t, point: pointAt(segment, t), distance: away(t) };
}

/** The lowest place of a valley, by thirds; its rims count as well. */
function followDown(away: (t: number) => number, from: number, to: number): number {
  let [low, high] = [from, to];
  for (let k = 0; k < REFINEMENTS; k++) {
    const a = low + (high - low) / 3;
    const b = high - (high - low) / 3;
    if (away(a) < away(b)) high = b;
    else low = a;
  }
  return [from, (low + high) / 2, to].reduce((best, t) => (away(t) < away(best) ? t : best));
}

function nearestOnLine(from: Vec2, to: Vec2, p: Vec2): Nearest {
  const along = sub(to, from);
  const square = dot(along, along);
  const t = square === 0 ? 0 : Math.min(1, Math.max(0, dot(sub(p, from), along) / square));
  const point = lerp(from, to, t);
  return { t, point, distance: between(point, p) };
}

function nearestOnArc(segment: Extract<Segment, { kind: 'arc' }>, p: Vec2): Nearest {
  const arc = shapeOfArc(segment);
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
    const a = polygon[i]!;
    const b = polygon[j]!;
    if (a.y > p.y !== b.y > p.y && p.x < ((b.x - a.x) * (p.y - a.y)) / (b.y - a.y) + a.x) inside = !inside;
  }
  return inside;
}
