import { add, between, cross, dot, left, lerp, norm, scale, sub, type Vec2, vec } from './vector';

/** One piece of a run, in mm, y up. */
export type Segment =
  | { kind: 'line'; from: Vec2; to: Vec2 }
  /** A circular arc through three points. */
  | { kind: 'arc'; from: Vec2; via: Vec2; to: Vec2 }
  /** A cubic Bézier. */
  | { kind: 'curve'; from: Vec2; handleFrom: Vec2; handleTo: Vec2; to: Vec2 };

export interface Circle {
  centre: Vec2;
  radius: number;
}

/** An arc as it is drawn and written to files: angles in rad, counter-clockwise positive. */
export interface ArcShape extends Circle {
  startAngle: number;
  /** Signed angle from start to end: positive counter-clockwise, at most a full turn. */
  sweep: number;
}

/**
 * Flatter than this an arc is a line: sagitta over chord. A micrometre of bow on 100 mm is beyond any cutter, and the
 * centre would lie kilometres away.
 */
const FLATTEST_ARC = 1e-5;

/**
 * The circle through three points.
 * Degenerate: points on one line, or two in one place, give null.
 */
export function circleThrough(a: Vec2, b: Vec2, c: Vec2): Circle | null {
  const ab = sub(b, a);
  const ac = sub(c, a);
  const twice = 2 * cross(ab, ac);
  const longest = Math.max(norm(ab), norm(ac), between(b, c));
  if (Math.abs(twice) <= 4 * FLATTEST_ARC * longest * longest) return null;
  const offset = scale(left(sub(scale(ab, dot(ac, ac)), scale(ac, dot(ab, ab)))), 1 / twice);
  return { centre: add(a, scale(offset, 1)), radius: norm(offset) };
}

/** Three points round a circle, a third of a turn apart: what a circle is kept as. */
export function threeOnCircle({ centre, radius }: Circle): [Vec2, Vec2, Vec2] {
  const on = (k: number): Vec2 => {
    const a = Math.PI / 2 + (k * 2 * Math.PI) / 3;
    return { x: centre.x + radius * Math.cos(a), y: centre.y + radius * Math.sin(a) };
  };
  return [on(0), on(1), on(2)];
}

/** The shape of an arc segment, null where it is as flat as a line. */
export function arcShape(from: Vec2, via: Vec2, to: Vec2): ArcShape | null {
  const circle = circleThrough(from, via, to);
  if (!circle) return null;
  const angle = (p: Vec2) => Math.atan2(p.y - circle.centre.y, p.x - circle.centre.x);
  const startAngle = angle(from);
  const anticlockwise = cross(sub(via, from), sub(to, from)) > 0;
  let sweep = angle(to) - startAngle;
  if (anticlockwise && sweep <= 0) sweep += 2 * Math.PI;
  if (!anticlockwise && sweep >= 0) sweep -= 2 * Math.PI;
  return { ...circle, startAngle, sweep };
}

const shapes = new WeakMap<Extract<Segment, { kind: 'arc' }>, ArcShape | null>();

/** As `arcShape`, worked out once for each segment: pieces are never changed once they are made. */
export function shapeOfArc(segment: Extract<Segment, { kind: 'arc' }>): ArcShape | null {
  let shape = shapes.get(segment);
  if (shape === undefined) {
    shape = arcShape(segment.from, segment.via, segment.to);
    shapes.set(segment, shape);
  }
  return shape;
}

/** Place at t from 0 to 1 along a segment; t is not length on a curve. */
export function pointAt(segment: Segment, t: number): Vec2 {
  if (segment.kind === 'line') return lerp(segment.from, segment.to, t);
  if (segment.kind === 'curve') return cubicAt(segment, t);
  const arc = shapeOfArc(segment);
  if (!arc) return lerp(segment.from, segment.to, t);
  const angle = arc.startAngle + arc.sweep * t;
  return vec(arc.centre.x + arc.radius * Math.cos(angle), arc.centre.y + arc.radius * Math.sin(angle));
}

type Cubic = Extract<Segment, { kind: 'curve' }>;

function cubicAt({ from, handleFrom, handleTo, to }: Cubic, t: number): Vec2 {
  const s = 1 - t;
  const [a, b, c, d] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
  return vec(
    a * from.x + b * handleFrom.x + c * handleTo.x + d * to.x,
    a * from.y + b * handleFrom.y + c * handleTo.y + d * to.y,
  );
}

/** Derivative of a cubic by t, mm. */
export function cubicSpeed({ from, handleFrom, handleTo, to }: Cubic, t: number): Vec2 {
  const s = 1 - t;
  const [a, b, c] = [3 * s * s, 6 * s * t, 3 * t * t];
  return add(add(scale(sub(handleFrom, from), a), scale(sub(handleTo, handleFrom), b)), scale(sub(to, handleTo), c));
}

/** Length of a segment, mm: closed for lines and arcs, Gauss-Legendre on halves of a curve until they agree. */
export function segmentLength(segment: Segment): number {
  if (segment.kind === 'line') return between(segment.from, segment.to);
  if (segment.kind === 'arc') {
    const arc = shapeOfArc(segment);
    return arc ? arc.radius * Math.abs(arc.sweep) : between(segment.from, segment.to);
  }
  return curveLength(segment, 0, 1, gauss5(segment, 0, 1), 0);
}

/** Where further halving no longer changes a length by a nanometre of 100 mm. */
const LENGTH_AGREEMENT = 1e-11;
const MOST_HALVINGS = 16;

function curveLength(curve: Cubic, a: number, b: number, whole: number, depth: number): number {
  const middle = (a + b) / 2;
  const first = gauss5(curve, a, middle);
  const second = gauss5(curve, middle, b);
  if (depth >= MOST_HALVINGS || Math.abs(first + second - whole) <= LENGTH_AGREEMENT * (1 + whole))
    return first + second;
  return curveLength(curve, a, middle, first, depth + 1) + curveLength(curve, middle, b, second, depth + 1);
}

const GAUSS_5 = [
  [0, 0.5688888888888889],
  [0.5384693101056831, 0.47862867049936647],
  [-0.5384693101056831, 0.47862867049936647],
  [0.906179845938664, 0.23692688505618908],
  [-0.906179845938664, 0.23692688505618908],
] as const;

function gauss5(curve: Cubic, a: number, b: number): number {
  const half = (b - a) / 2;
  const middle = (a + b) / 2;
  return GAUSS_5.reduce((sum, [x, w]) => sum + w * norm(cubicSpeed(curve, middle + half * x)), 0) * half;
}

/**
 * Area between a segment and the origin, signed, mm²: summed round a closed run it is the area enclosed,
 * positive counter-clockwise (Green's theorem, closed for every kind).
 */
export function segmentArea(segment: Segment): number {
  const chord = cross(segment.from, segment.to) / 2;
  if (segment.kind === 'line') return chord;
  if (segment.kind === 'arc') {
    const arc = shapeOfArc(segment);
    return arc ? chord + (arc.radius ** 2 * (arc.sweep - Math.sin(arc.sweep))) / 2 : chord;
  }
  const { from: p, handleFrom: q, handleTo: r, to: s } = segment;
  return (3 * (2 * cross(p, q) + cross(p, r) + cross(q, r) + cross(q, s) + 2 * cross(r, s)) + cross(p, s)) / 20;
}

/** Points along a segment, its start left out, so close that the chords stay within `toleranceMm` of it. */
export function flattenSegment(segment: Segment, toleranceMm: number): Vec2[] {
  if (segment.kind === 'line') return [segment.to];
  const count = flatPieces(segment, toleranceMm);
  const points: Vec2[] = [];
  for (let k = 1; k < count; k++) points.push(pointAt(segment, k / count));
  points.push(segment.to);
  return points;
}

/** A round is cut into steps no finer than this, rad: 6,300 a circle. */
export const FINEST_STEP_RAD = 1e-3;

function flatPieces(segment: Exclude<Segment, { kind: 'line' }>, tolerance: number): number {
  if (segment.kind === 'arc') {
    const arc = shapeOfArc(segment);
    if (!arc) return 1;
    const step = 2 * Math.acos(Math.max(0, 1 - tolerance / arc.radius));
    return Math.max(1, Math.ceil(Math.abs(arc.sweep) / Math.max(step, FINEST_STEP_RAD)));
  }
  // The chord of a piece of a cubic is off by at most h² / 8 of its largest second derivative.
  const { from, handleFrom, handleTo, to } = segment;
  const bend = (a: Vec2, b: Vec2, c: Vec2) => 6 * norm(add(sub(a, scale(b, 2)), c));
  const most = Math.max(bend(from, handleFrom, handleTo), bend(handleFrom, handleTo, to));
  return Math.max(1, Math.ceil(Math.sqrt(most / (8 * tolerance))));
}

/** Smallest box around a segment: exact for lines, arcs and curves. */
export function segmentBounds(segment: Segment): { min: Vec2; max: Vec2 } {
  const points = [segment.from, segment.to];
  if (segment.kind === 'arc') points.push(...arcExtremes(segment));
  if (segment.kind === 'curve') points.push(...curveExtremes(segment));
  return boundsOf(points);
}

export function boundsOf(points: readonly Vec2[]): { min: Vec2; max: Vec2 } {
  const min = vec(Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY);
  const max = vec(Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY);
  for (const p of points) {
    min.x = Math.min(min.x, p.x);
    min.y = Math.min(min.y, p.y);
    max.x = Math.max(max.x, p.x);
    max.y = Math.max(max.y, p.y);
  }
  return { min, max };
}

function arcExtremes(segment: Extract<Segment, { kind: 'arc' }>): Vec2[] {
  const arc = shapeOfArc(segment);
  if (!arc) return [];
  const found: Vec2[] = [];
  for (let quarter = 0; quarter < 4; quarter++) {
    const angle = (quarter * Math.PI) / 2;
    const away = arc.sweep > 0 ? angle - arc.startAngle : arc.startAngle - angle;
    const turn = ((away % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI);
    if (turn < Math.abs(arc.sweep))
      found.push(vec(arc.centre.x + arc.radius * Math.cos(angle), arc.centre.y + arc.radius * Math.sin(angle)));
  }
  return found;
}

function curveExtremes(curve: Cubic): Vec2[] {
  const { from: p, handleFrom: q, handleTo: r, to: s } = curve;
  const roots = (p0: number, p1: number, p2: number, p3: number) => {
    const a = p3 - 3 * p2 + 3 * p1 - p0;
    const b = 2 * (p2 - 2 * p1 + p0);
    const c = p1 - p0;
    if (a === 0) return b === 0 ? [] : [-c / b];
    const inside = b * b - 4 * a * c;
    if (inside < 0) return [];
    // The form that does not lose digits when a is small against b.
    const far = -(b + Math.sign(b || 1) * Math.sqrt(inside)) / 2;
    return far === 0 ? [0] : [far / a, c / far];
  };
  return [...roots(p.x, q.x, r.x, s.x), ...roots(p.y, q.y, r.y, s.y)]
    .filter((t) => t > 0 && t < 1)
    .map((t) => cubicAt(curve, t));
}
