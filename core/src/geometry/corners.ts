import { crossingsOf, speedAt } from './crossings';
import { nearestOn } from './nearest';
import { NO_LENGTH_MM } from './nothing';
import { offsetSegment } from './offset';
import type { Form } from './run';
import { pointAt, type Segment, segmentLength } from './segment';
import { stretchOf } from './split';
import { add, between, cross, dot, norm, scale, sub, type Vec2 } from './vector';

/** What a corner becomes: an arc of a radius that touches both sides, or a cut, and how much of each side it takes, mm. */
export type CornerKind = 'fillet' | 'chamfer';

export interface Cornered {
  form: Form;
  /** Corners, by the number of the segment that ends there, whose sides are too short for it: they stay as they were. */
  tooLarge: number[];
}

/** Sides that meet at less than this go on smoothly: no corner, rad. */
const SMOOTH_RAD = (2 * Math.PI) / 180;

/** Ends of segments, by their number, at which a chain turns a corner. */
export function cornersOf(form: Form): number[] {
  if (form.kind === 'circle') return [];
  return form.segments.flatMap((segment, k) => {
    const next = form.segments[k + 1] ?? (form.closed ? form.segments[0] : undefined);
    if (!next || (k === 0 && form.segments.length === 1)) return [];
    return Math.abs(turnBetween(segment, next)) > SMOOTH_RAD ? [k] : [];
  });
}

function turnBetween(a: Segment, b: Segment): number {
  const [p, q] = [speedAt(a, 1), speedAt(b, 0)];
  return Math.atan2(cross(p, q), dot(p, q));
}

/** Rounds or cuts corners of a chain; `which` names them as `cornersOf` does, all of them where it is left out. */
export function workCorners(form: Form, kind: CornerKind, sizeMm: number, which = cornersOf(form)): Cornered {
  if (form.kind === 'circle' || !(sizeMm > 0)) return { form, tooLarge: [] };
  const { segments, closed } = form;
  const count = segments.length;
  const made = new Map<number, Worked>();
  const tooLarge: number[] = [];
  for (const k of which) {
    const [a, b] = [segments[k], segments[(k + 1) % count]];
    if (!a || !b || a === b) continue;
    const worked = kind === 'fillet' ? filletOf(a, b, sizeMm) : chamferOf(a, b, sizeMm);
    if (worked) made.set(k, worked);
    else tooLarge.push(k);
  }
  // Two corners may want the same stretch of the side between them: the one that wants more of it stays as it was.
  for (let k = 0; k < count; k++) {
    const [before, after] = [made.get((k + count - 1) % count), made.get(k)];
    if (!before || !after || before.u < after.t) continue;
    const gone = before.u > 1 - after.t ? (k + count - 1) % count : k;
    made.delete(gone);
    tooLarge.push(gone);
  }
  const out = segments.flatMap((segment, k): Segment[] => {
    const from = made.get((k + count - 1) % count)?.u ?? 0;
    const own = made.get(k);
    const to = own?.t ?? 1;
    const piece = stretchOf(segment, from, to);
    const stays = between(piece.from, piece.to) > NO_LENGTH_MM ? [piece] : [];
    return own ? [...stays, own.segment] : stays;
  });
  return { form: { kind: 'chain', segments: out, closed }, tooLarge };
}

interface Worked {
  /** Where the side before it ends, and the one after it begins, as shares. */
  t: number;
  u: number;
  segment: Segment;
}

/** The arc that touches both sides: its centre is where both sides' offsets by the radius cross. */
function filletOf(a: Segment, b: Segment, radius: number): Worked | null {
  const side = Math.sign(turnBetween(a, b)) * radius;
  if (side === 0) return null;
  const corner = a.to;
  let best: Vec2 | null = null;
  for (const p of offsetSegment(a, side))
    for (const q of offsetSegment(b, side))
      for (const { at } of crossingsOf(p, q)) if (!best || between(at, corner) < between(best, corner)) best = at;
  if (!best) return null;
  const [on, off] = [nearestOn(a, best), nearestOn(b, best)];
  if (on.t <= 0 || off.t >= 1 || on.t >= 1 || off.t <= 0) return null;
  const towards = sub(corner, best);
  const via = add(best, scale(towards, radius / (norm(towards) || 1)));
  return { t: on.t, u: off.t, segment: { kind: 'arc', from: on.point, via, to: off.point } };
}

function chamferOf(a: Segment, b: Segment, size: number): Worked | null {
  const [t, u] = [1 - (shareAt(a, size, true) ?? 2), shareAt(b, size, false) ?? 2];
  if (t <= 0 || u >= 1) return null;
  return { t, u, segment: { kind: 'line', from: pointAt(a, t), to: pointAt(b, u) } };
}

/** Which share of a segment has a given length, from its end or its beginning; null where it is shorter. */
function shareAt(segment: Segment, mm: number, fromEnd: boolean): number | null {
  const whole = segmentLength(segment);
  if (mm >= whole) return null;
  if (segment.kind !== 'curve') return mm / whole;
  let [low, high] = [0, 1];
  for (let k = 0; k < 50; k++) {
    const middle = (low + high) / 2;
    const own = fromEnd ? stretchOf(segment, 1 - middle, 1) : stretchOf(segment, 0, middle);
    if (segmentLength(own) < mm) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
