import { speedAt } from './crossings';
import { nearestOn } from './nearest';
import { NO_CROSSING_SINE, NO_SHARE } from './nothing';
import { cubicSpeed, flattenSegment, pointAt, type Segment } from './segment';
import { add, between, cross, dot, norm, scale, sub, type Vec2 } from './vector';

/** A chain as fewer pieces, and how far any place of it moved, mm. */
export interface Reduced {
  segments: Segment[];
  largestMm: number;
}

/** Pieces that meet at more than this meet in a corner, which stays, rad. */
const CORNER_RAD = (12 * Math.PI) / 180;
/** Places looked at along a piece that is fitted. */
const LEAST_PLACES = 12;
const MOST_PLACES = 400;

/**
 * The fewest lines, arcs and curves that stay within a tolerance of a chain: corners stay where they are, what runs
 * smoothly between them is told by one piece where that is near enough, else by two halves, and so on (after Schneider,
 * "An algorithm for automatically fitting digitized curves", Graphics Gems, 1990).
 */
export function reduced(segments: readonly Segment[], closed: boolean, toleranceMm: number): Reduced {
  const runs = smoothRuns(segments, closed);
  const made = runs.flatMap((run) => fitted(placesOf(run, toleranceMm), run, toleranceMm));
  if (made.length >= segments.length) return { segments: [...segments], largestMm: 0 };
  return { segments: made.map((m) => m.segment), largestMm: Math.max(0, ...made.map((m) => m.offMm)) };
}

/** A piece, and how far any of the places that it stands for lies from it, mm. */
interface Fit {
  segment: Segment;
  offMm: number;
}

const unit = (v: Vec2): Vec2 => scale(v, 1 / (norm(v) || 1));

/** Stretches without a corner; of a closed chain without any the joint where it begins is taken for one. */
function smoothRuns(segments: readonly Segment[], closed: boolean): Segment[][] {
  const count = segments.length;
  const isCorner = (k: number) => {
    const [a, b] = [segments[(k + count - 1) % count]!, segments[k]!];
    const [p, q] = [speedAt(a, 1), speedAt(b, 0)];
    return Math.abs(Math.atan2(cross(p, q), dot(p, q))) > CORNER_RAD;
  };
  const first = closed
    ? Math.max(
        0,
        segments.findIndex((_, k) => isCorner(k)),
      )
    : 0;
  const runs: Segment[][] = [];
  for (let n = 0; n < count; n++) {
    const k = (first + n) % count;
    if (n === 0 || isCorner(k)) runs.push([]);
    runs[runs.length - 1]!.push(segments[k]!);
  }
  return runs;
}

function placesOf(run: readonly Segment[], tolerance: number): Vec2[] {
  const [start] = run;
  if (!start) return [];
  const fine = run.flatMap((s) => {
    const own = flattenSegment(s, tolerance / 8);
    if (own.length >= LEAST_PLACES) return own;
    return Array.from({ length: LEAST_PLACES }, (_, k) => pointAt(s, (k + 1) / LEAST_PLACES));
  });
  const step = Math.ceil((fine.length + 1) / MOST_PLACES);
  const kept = fine.filter((_, k) => (fine.length - 1 - k) % step === 0);
  return [start.from, ...kept];
}

/** Pieces along places, from the first to the last of them. */
function fitted(places: readonly Vec2[], run: readonly Segment[], tolerance: number): Fit[] {
  const ways: [Vec2, Vec2] = [unit(speedAt(run[0]!, 0)), unit(speedAt(run[run.length - 1]!, 1))];
  return fitBetween(places, ways, tolerance);
}

function fitBetween(places: readonly Vec2[], [start, end]: readonly [Vec2, Vec2], tolerance: number): Fit[] {
  const [from, to] = [places[0]!, places[places.length - 1]!];
  const line: Segment = { kind: 'line', from, to };
  const straight = worst(line, places);
  if (straight.offMm <= tolerance || places.length < 5) return [{ segment: line, offMm: straight.offMm }];
  const arc = arcAlong(places);
  const round = arc && worst(arc, places);
  if (arc && round && round.offMm <= tolerance) return [{ segment: arc, offMm: round.offMm }];
  const curve = cubicAlong(places, start, end);
  if (curve && curve.offMm <= tolerance) return [curve];
  const k = Math.min(places.length - 3, Math.max(2, curve?.k ?? places.length >> 1));
  // The way through the place where both halves meet: that of its neighbours.
  const way = unit(sub(places[k + 1]!, places[k - 1]!));
  return [
    ...fitBetween(places.slice(0, k + 1), [start, way], tolerance),
    ...fitBetween(places.slice(k), [way, end], tolerance),
  ];
}

/** How far places lie from a line or an arc, at most, mm. */
function worst(segment: Segment, places: readonly Vec2[]): { offMm: number } {
  let offMm = 0;
  for (const p of places) offMm = Math.max(offMm, nearestOn(segment, p).distance);
  return { offMm };
}

/** The arc between the ends that passes nearest to the places: its bow is the mean of what each place asks for. */
function arcAlong(places: readonly Vec2[]): Segment | null {
  const [from, to] = [places[0]!, places[places.length - 1]!];
  const chord = sub(to, from);
  const length = norm(chord);
  if (!(length > 0)) return null;
  const along = scale(chord, 1 / length);
  const aside = { x: -along.y, y: along.x };
  // Seen from both ends each place of an arc stands at the same angle; the bow follows from it.
  let [sum, weight] = [0, 0];
  for (const p of places.slice(1, -1)) {
    const [x, y] = [dot(sub(p, from), along), dot(sub(p, from), aside)];
    const angle = Math.atan2(cross(sub(from, p), sub(to, p)), dot(sub(from, p), sub(to, p)));
    const w = Math.min(x, length - x);
    if (!(w > 0)) continue;
    const half = (Math.PI - Math.abs(angle)) / 2;
    sum += w * (length / 2) * Math.tan(half) * (y < 0 ? -1 : 1);
    weight += w;
  }
  if (!(weight > 0)) return null;
  const via = add(add(from, scale(along, length / 2)), scale(aside, sum / weight));
  return { kind: 'arc', from, via, to };
}

/** Steps in which a curve's shares are told anew. */
const ROUNDS = 6;

/** A cubic between the ends, leaving them in the ways given, nearest to the places in the least-squares sense. */
function cubicAlong(places: readonly Vec2[], start: Vec2, end: Vec2): (Fit & { k: number }) | null {
  const [from, to] = [places[0]!, places[places.length - 1]!];
  const shares = [0];
  for (const [k, q] of places.entries()) if (k > 0) shares.push(shares[k - 1]! + between(places[k - 1]!, q));
  const whole = shares[shares.length - 1]!;
  if (!(whole > 0)) return null;
  for (let k = 0; k < shares.length; k++) shares[k]! /= whole;
  let best: (Fit & { k: number }) | null = null;
  for (let round = 0; round < ROUNDS; round++) {
    let [aa, ab, bb, ra, rb] = [0, 0, 0, 0, 0];
    for (const [k, p] of places.entries()) {
      const t = shares[k]!;
      const s = 1 - t;
      const [b0, b1, b2, b3] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
      const [u, v] = [scale(start, b1), scale(end, -b2)];
      const left = sub(p, add(scale(from, b0 + b1), scale(to, b2 + b3)));
      aa += dot(u, u);
      ab += dot(u, v);
      bb += dot(v, v);
      ra += dot(u, left);
      rb += dot(v, left);
    }
    const det = aa * bb - ab * ab;
    if (Math.abs(det) < NO_CROSSING_SINE) return best;
    const [p, q] = [(ra * bb - rb * ab) / det, (rb * aa - ra * ab) / det];
    // Handles that turn back, or are longer than what they run along, make a loop.
    if (!(p > 0) || !(q > 0) || p > whole || q > whole) return best;
    const segment: Cubic = {
      kind: 'curve',
      from,
      handleFrom: add(from, scale(start, p)),
      handleTo: sub(to, scale(end, q)),
      to,
    };
    let [offMm, at] = [0, 0];
    for (let k = 1; k < places.length - 1; k++) {
      shares[k] = shareNear(segment, places[k]!, shares[k]!);
      const own = between(pointAt(segment, shares[k]!), places[k]!);
      if (own > offMm) [offMm, at] = [own, k];
    }
    if (!best || offMm < best.offMm) best = { segment, offMm, k: at };
  }
  return best;
}

type Cubic = Extract<Segment, { kind: 'curve' }>;

/** Where on a curve a place is nearest, from a share that is nearly right: Newton's steps without the second derivative. */
function shareNear(curve: Cubic, p: Vec2, start: number): number {
  let t = start;
  for (let k = 0; k < 6; k++) {
    const speed = cubicSpeed(curve, t);
    const square = dot(speed, speed);
    if (!(square > 0)) break;
    const step = dot(sub(p, pointAt(curve, t)), speed) / square;
    t = Math.min(1, Math.max(0, t + step));
    if (Math.abs(step) < NO_SHARE) break;
  }
  return t;
}
