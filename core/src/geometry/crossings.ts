import Flatbush from 'flatbush';
import { NO_CROSSING_SINE } from './nothing';
import { type ArcShape, cubicSpeed, pointAt, type Segment, segmentBounds, shapeOfArc } from './segment';
import { splitSegment } from './split';
import { add, between, cross, dot, norm, scale, sub, type Vec2 } from './vector';

/** Where two segments meet: the place, and where on each of them, 0 to 1 as `pointAt` counts. */
export interface Crossing {
  at: Vec2;
  t: number;
  u: number;
}

/** Places nearer than this are one, mm: a nanometre, far below any tool and far above what 16 digits leave. */
export const ONE_PLACE_MM = 1e-6;

/**
 * All places in which two segments cross or touch, mm. Closed for lines and arcs; of a curve its halves are looked at
 * until they are flat, then refined by Newton's steps. Pieces that lie on one another along a stretch share no single
 * place, and none is told.
 */
export function crossingsOf(a: Segment, b: Segment): Crossing[] {
  if (!boxesMeet(a, b)) return [];
  if (a.kind === 'curve' || b.kind === 'curve') return byHalves(a, b);
  const [p, q] = [shapeOf(a), shapeOf(b)];
  const places =
    p === null && q === null
      ? lineWithLine(a, b)
      : p === null
        ? lineWithCircle(a, q as ArcShape)
        : q === null
          ? lineWithCircle(b, p)
          : circleWithCircle(p, q);
  return distinct(
    places.flatMap((at) => {
      const [t, u] = [placeOn(a, p, at), placeOn(b, q, at)];
      return t === null || u === null ? [] : [{ at, t, u }];
    }),
  );
}

/** Boxes of segments, to find those near a place without asking all of them. */
export function boxesOf(segments: readonly Segment[]): Flatbush {
  const index = new Flatbush(segments.length);
  for (const segment of segments) {
    const { min, max } = segmentBounds(segment);
    index.add(min.x, min.y, max.x, max.y);
  }
  index.finish();
  return index;
}

/** All crossings of segments with one another: which two, and where on each. */
export function crossingsWithin(segments: readonly Segment[]): (Crossing & { i: number; j: number })[] {
  if (segments.length < 2) return [];
  const boxes = boxesOf(segments);
  const e = ONE_PLACE_MM;
  return segments.flatMap((segment, i) => {
    const { min, max } = segmentBounds(segment);
    const near = boxes.search(min.x - e, min.y - e, max.x + e, max.y + e, (n) => n > i);
    return near.flatMap((j) => crossingsOf(segment, segments[j]!).map((c) => ({ ...c, i, j })));
  });
}

const shapeOf = (s: Segment): ArcShape | null => (s.kind === 'arc' ? shapeOfArc(s) : null);

function boxesMeet(a: Segment, b: Segment): boolean {
  const [p, q] = [segmentBounds(a), segmentBounds(b)];
  const e = ONE_PLACE_MM;
  return p.min.x <= q.max.x + e && q.min.x <= p.max.x + e && p.min.y <= q.max.y + e && q.min.y <= p.max.y + e;
}

/** Sine of the angle below which two lines run side by side: what rounding leaves of it. */
const PARALLEL_SINE = 1e-14;
/** Nothing is gained by steps of a smaller share of a piece. */
const REFINED_SHARE = 1e-15;

function lineWithLine(a: Segment, b: Segment): Vec2[] {
  const [d, e] = [sub(a.to, a.from), sub(b.to, b.from)];
  const det = cross(d, e);
  if (Math.abs(det) <= PARALLEL_SINE * norm(d) * norm(e)) return touching(a, b);
  return [add(a.from, scale(d, cross(sub(b.from, a.from), e) / det))];
}

/** Of parallel lines: the one place in which they meet end to end, if that is all. */
function touching(a: Segment, b: Segment): Vec2[] {
  for (const p of [a.from, a.to])
    for (const q of [b.from, b.to])
      if (between(p, q) <= ONE_PLACE_MM) {
        const [from, to] = [p === a.from ? a.to : a.from, q === b.from ? b.to : b.from];
        return dot(sub(from, p), sub(to, q)) < 0 ? [p] : [];
      }
  return [];
}

function lineWithCircle(line: Segment, { centre, radius }: ArcShape): Vec2[] {
  const way = sub(line.to, line.from);
  const length = norm(way);
  if (length === 0) return between(line.from, centre) - radius <= ONE_PLACE_MM ? [line.from] : [];
  const unit = scale(way, 1 / length);
  const off = sub(centre, line.from);
  const [along, aside] = [dot(off, unit), cross(unit, off)];
  const square = radius * radius - aside * aside;
  // What touches within a nanometre touches.
  if (Math.abs(aside) - radius > ONE_PLACE_MM) return [];
  const half = Math.sqrt(Math.max(0, square));
  return [along - half, along + half].map((d) => add(line.from, scale(unit, d)));
}

function circleWithCircle(p: ArcShape, q: ArcShape): Vec2[] {
  const way = sub(q.centre, p.centre);
  const d = norm(way);
  if (d <= ONE_PLACE_MM) return [];
  if (d - p.radius - q.radius > ONE_PLACE_MM || Math.abs(p.radius - q.radius) - d > ONE_PLACE_MM) return [];
  const along = (d * d + p.radius ** 2 - q.radius ** 2) / (2 * d);
  const half = Math.sqrt(Math.max(0, p.radius ** 2 - along ** 2));
  const unit = scale(way, 1 / d);
  const foot = add(p.centre, scale(unit, along));
  return [-half, half].map((h) => ({ x: foot.x - h * unit.y, y: foot.y + h * unit.x }));
}

/** Where on a segment a place of its carrier lies; null beyond its ends. */
function placeOn(segment: Segment, arc: ArcShape | null, at: Vec2): number | null {
  if (between(at, segment.from) <= ONE_PLACE_MM) return 0;
  if (between(at, segment.to) <= ONE_PLACE_MM) return 1;
  if (!arc) {
    const way = sub(segment.to, segment.from);
    const t = dot(sub(at, segment.from), way) / dot(way, way);
    return t > 0 && t < 1 ? t : null;
  }
  const angle = Math.atan2(at.y - arc.centre.y, at.x - arc.centre.x);
  const away = arc.sweep > 0 ? angle - arc.startAngle : arc.startAngle - angle;
  const turn = ((away % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI);
  return turn < Math.abs(arc.sweep) ? turn / Math.abs(arc.sweep) : null;
}

function distinct(all: readonly Crossing[]): Crossing[] {
  const kept: Crossing[] = [];
  for (const c of all) if (kept.every((k) => between(k.at, c.at) > ONE_PLACE_MM)) kept.push(c);
  return kept.sort((a, b) => a.t - b.t);
}

/** A stretch of a segment, and where on the whole it begins and ends. */
interface Part {
  segment: Segment;
  from: number;
  to: number;
}

/** So often a pair is halved: 2⁻²⁰ of a metre is a micrometre. */
const MOST_HALVINGS = 20;
/** More pairs than this lie on one another, not across. */
const MOST_PAIRS = 4000;
/** So flat that Newton's steps find the one crossing, as a share of the length. */
const FLAT = 0.02;

function byHalves(a: Segment, b: Segment): Crossing[] {
  const found: Crossing[] = [];
  let pairs: [Part, Part][] = [
    [
      { segment: a, from: 0, to: 1 },
      { segment: b, from: 0, to: 1 },
    ],
  ];
  for (let depth = 0; depth < MOST_HALVINGS && pairs.length > 0 && pairs.length < MOST_PAIRS; depth++) {
    const next: [Part, Part][] = [];
    for (const [p, q] of pairs) {
      if (!boxesMeet(p.segment, q.segment)) continue;
      if (isFlat(p.segment) && isFlat(q.segment)) {
        const c = refined(a, b, (p.from + p.to) / 2, (q.from + q.to) / 2);
        if (c) found.push(c);
        // Nearly parallel stretches may hold a second one: they are halved on.
        if (c && !isSlanting(p.segment, q.segment) && depth < MOST_HALVINGS - 1) next.push(...halves(p, q));
        else if (!c && depth < MOST_HALVINGS - 1 && !isSlanting(p.segment, q.segment)) next.push(...halves(p, q));
        continue;
      }
      next.push(...halves(p, q));
    }
    pairs = next;
  }
  return distinct(found);
}

const halves = (p: Part, q: Part): [Part, Part][] => cut(p).flatMap((x) => cut(q).map((y): [Part, Part] => [x, y]));

function cut({ segment, from, to }: Part): Part[] {
  const [first, second] = splitSegment(segment, 0.5);
  const middle = (from + to) / 2;
  return [
    { segment: first, from, to: middle },
    { segment: second, from: middle, to },
  ];
}

function isFlat(segment: Segment): boolean {
  if (segment.kind === 'line') return true;
  const chord = sub(segment.to, segment.from);
  const length = norm(chord);
  const off = (p: Vec2) => Math.abs(cross(chord, sub(p, segment.from))) / (length || 1);
  if (segment.kind === 'arc') return length > 0 && off(segment.via) < FLAT * length;
  return length > 0 && Math.max(off(segment.handleFrom), off(segment.handleTo)) < FLAT * length;
}

function isSlanting(p: Segment, q: Segment): boolean {
  const [d, e] = [sub(p.to, p.from), sub(q.to, q.from)];
  return Math.abs(cross(d, e)) > 4 * FLAT * norm(d) * norm(e);
}

function refined(a: Segment, b: Segment, t0: number, u0: number): Crossing | null {
  let [t, u] = [t0, u0];
  for (let k = 0; k < 30; k++) {
    const off = sub(pointAt(b, u), pointAt(a, t));
    const [d, e] = [speedAt(a, t), speedAt(b, u)];
    const det = cross(d, e);
    if (Math.abs(det) < NO_CROSSING_SINE * norm(d) * norm(e)) break;
    const [dt, du] = [cross(off, e) / det, cross(off, d) / det];
    t = Math.min(1, Math.max(0, t + dt));
    u = Math.min(1, Math.max(0, u + du));
    if (Math.abs(dt) + Math.abs(du) < REFINED_SHARE) break;
  }
  const [p, q] = [pointAt(a, t), pointAt(b, u)];
  return between(p, q) <= ONE_PLACE_MM ? { at: p, t, u } : null;
}

/** Derivative of `pointAt` by t, mm. */
export function speedAt(segment: Segment, t: number): Vec2 {
  if (segment.kind === 'line') return sub(segment.to, segment.from);
  if (segment.kind === 'curve') return cubicSpeed(segment, t);
  const arc = shapeOfArc(segment);
  if (!arc) return sub(segment.to, segment.from);
  const angle = arc.startAngle + arc.sweep * t;
  return { x: -arc.radius * arc.sweep * Math.sin(angle), y: arc.radius * arc.sweep * Math.cos(angle) };
}
