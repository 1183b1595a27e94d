import { arcShape, circleThrough, type Vec2 } from '../../geometry';
import type { Placer } from '../curveForm';
import type { Curve, Id, Sketch } from '../part';
import { observationIn } from '../part';
import { picksOfCurve } from '../walk';
import type { Cluster } from './clusters';

/**
 * How a curve is bent, as unknowns. Arc: the tangent of a quarter of its sweep (as DXF has it), times `scale`. Cubic:
 * both handles as complex multiples of the way from end to end, times `scale`, four numbers. Circle: its radius; `scale`
 * is 1. So each of them is in mm, and moving, turning or growing both ends leaves the form what it is.
 */
export interface Shape {
  curve: Curve;
  at: number;
  scale: number;
}

/** A quantity of the evidence, linear in the unknowns: what was seen of them, with what weight. */
interface EvidenceRow {
  at: readonly number[];
  slopes: readonly number[];
  weight: number;
}

/** Unknowns of things that conditions tie together, where they were seen, and what that weighs. Lengths in mm. */
export interface Unknowns {
  size: number;
  /** As everything was seen. */
  start: Float64Array;
  /** x of a point; its y is the next. */
  pointAt: ReadonlyMap<Id, number>;
  shapeAt: ReadonlyMap<Id, Shape>;
  rows: readonly EvidenceRow[];
  /**
   * How softly the largest of several places is told while a way to it is sought, mm; 0 is exact. Where two corners are
   * outermost at once a width has no slope, and nothing finds its way along a crease.
   */
  soft: { mm: number };
}

/** What is held where it is seen is this much more certain than what is not. */
const HELD_WEIGHT = 1e8;
/** A circle's radius that nobody saw weighs so little that anything else decides it. */
const UNSEEN_WEIGHT = 1e-6;
/** Scatters further apart than this are taken as this far apart, so that no weight is lost in rounding. */
const WIDEST_WEIGHTS = 1e4;

/**
 * Sets the unknowns of a cluster up. `held`: points and curves that stay where they are seen, if they can.
 * Degenerate: null where something has no place, an arc or a curve no length, or a circle no rim.
 */
// biome-ignore lint/complexity/noExcessiveCognitiveComplexity: a value and its evidence are laid out together, so that neither can be forgotten
export function unknownsOf(sketch: Sketch, cluster: Cluster, seen: Placer, held: ReadonlySet<Id>): Unknowns | null {
  const pointAt = new Map<Id, number>();
  const shapeAt = new Map<Id, Shape>();
  const values: number[] = [];
  const rows: EvidenceRow[] = [];
  const unit = cluster.points.map((id) => observationIn(sketch, id)?.sigmaPx).find((s) => s !== undefined) ?? 1;
  const weightOf = (sigma: number, ...ids: readonly Id[]) =>
    Math.min(WIDEST_WEIGHTS, Math.max(1 / WIDEST_WEIGHTS, (unit / sigma) ** 2)) *
    (ids.some((id) => held.has(id)) ? HELD_WEIGHT : 1);
  for (const id of cluster.points) {
    const at = observationIn(sketch, id);
    const place = at ? seen(id) : cluster.circleAt.has(id) ? { x: 0, y: 0 } : null;
    if (!place) return null;
    const k = values.push(place.x, place.y) - 2;
    pointAt.set(id, k);
    if (!at) continue;
    const weight = weightOf(at.sigmaPx, id);
    rows.push({ at: [k], slopes: [1], weight }, { at: [k + 1], slopes: [1], weight });
  }
  for (const id of cluster.shapes) {
    const curve = sketch.curves[id];
    if (!curve || curve.kind === 'line') return null;
    const picks = picksOfCurve(curve);
    const weights = picks.map((p) => weightOf(observationIn(sketch, p)?.sigmaPx ?? unit, p, id));
    const at = values.length;
    const shape: Shape = { curve, at, scale: 1 };
    if (curve.kind === 'circle') {
      const centre = pointAt.get(curve.centre)!;
      if (picks.length === 0) {
        values.push(1);
        rows.push({ at: [at], slopes: [1], weight: UNSEEN_WEIGHT });
      } else {
        const rim = picks.map(seen);
        const circle = rim[0] && rim[1] && rim[2] ? circleThrough(rim[0], rim[1], rim[2]) : null;
        if (!circle) return null;
        values.push(circle.radius);
        if (observationIn(sketch, curve.centre) === undefined) {
          values[centre] = circle.centre.x;
          values[centre + 1] = circle.centre.y;
        }
        rim.forEach((p, k) => {
          const n = { x: (p!.x - circle.centre.x) / circle.radius, y: (p!.y - circle.centre.y) / circle.radius };
          rows.push({ at: [centre, centre + 1, at], slopes: [n.x, n.y, 1], weight: weights[k]! });
        });
      }
    } else {
      const [from, to] = [pointAt.get(curve.from)!, pointAt.get(curve.to)!];
      const chord = Math.hypot(values[to]! - values[from]!, values[to + 1]! - values[from + 1]!);
      if (!(chord > 0)) return null;
      shape.scale = curve.kind === 'arc' ? chord / 2 : chord;
      const bent = shapeStart(shape, seen);
      if (!bent) return null;
      values.push(...bent);
      bent.forEach((_, k) => {
        rows.push({ at: [at + k], slopes: [1], weight: weights[curve.kind === 'arc' ? 0 : k >> 1]! });
      });
    }
    shapeAt.set(id, shape);
  }
  return { size: values.length, start: Float64Array.from(values), pointAt, shapeAt, rows, soft: { mm: 0 } };
}

/** What was seen of a shape: its bend, or of a circle its radius, as unknowns; null where something has no place. */
export function shapeStart({ curve, scale }: Omit<Shape, 'at'>, seen: Placer): number[] | null {
  if (curve.kind === 'circle') {
    const [a, b, c] = picksOfCurve(curve).map(seen);
    const circle = a && b && c ? circleThrough(a, b, c) : null;
    return circle && [circle.radius];
  }
  return curve.kind === 'line' ? [] : (bendOf(curve, seen)?.map((b) => b * scale) ?? null);
}

/** How an arc or a cubic is bent where it is seen: its bulge, or its handles as multiples of the way between its ends. */
function bendOf(curve: Exclude<Curve, { kind: 'circle' | 'line' }>, seen: Placer): number[] | null {
  const [from, to] = [seen(curve.from), seen(curve.to)];
  const picks = picksOfCurve(curve).map(seen);
  if (!from || !to || picks.some((p) => !p)) return null;
  if (curve.kind === 'arc') {
    const arc = arcShape(from, picks[0]!, to);
    return [arc ? Math.tan(arc.sweep / 4) : 0];
  }
  return [...ratio(from, to, picks[0]!), ...ratio(to, from, picks[1]!)];
}

/** A place as a complex multiple of the way from one place to another. */
export function ratio(from: Vec2, to: Vec2, p: Vec2): [number, number] {
  const [dx, dy, px, py] = [to.x - from.x, to.y - from.y, p.x - from.x, p.y - from.y];
  const square = dx * dx + dy * dy;
  return square > 0 ? [(px * dx + py * dy) / square, (py * dx - px * dy) / square] : [0, 0];
}

/** The place that is such a multiple of the way. */
export function multiple(from: Vec2, to: Vec2, re: number, im: number): Vec2 {
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  return { x: from.x + dx * re - dy * im, y: from.y + dy * re + dx * im };
}
