import { type Form, formLength, NO_LENGTH_MM, segmentBounds } from '../../geometry';
import { decidedValue } from '../expression';
import type { Curve, Dimension, Id, Path, Sketch } from '../part';
import { pathForm } from './carry';
import { askedBy, type Condition } from './clusters';
import {
  apart,
  arcLengthOf,
  blend,
  chordOf,
  headingOf,
  leftOf,
  middleOf,
  placeOf,
  radiusOf,
  type Scalar,
  total,
  turnOf,
} from './elements';
import type { Unknowns } from './unknowns';

import { type ConditionFault, curveIn, endsOf, type Wanted } from './wanted';

/** What a size is of, as a quantity of the unknowns; null where it is of nothing that is there. */
export function quantityOf(sketch: Sketch, unknowns: Unknowns, { kind, refs, along }: Dimension): Scalar | null {
  const [first, second] = refs.map((r) => r.id) as [Id, Id | undefined];
  const { start } = unknowns;
  const positive = (of: Scalar): Scalar => (of.value(start) < 0 ? total([{ of, times: -1 }]) : of);
  switch (kind) {
    case 'radius':
      return radiusOf(unknowns, first);
    case 'diameter': {
      const of = radiusOf(unknowns, first);
      return of && total([{ of, times: 2 }]);
    }
    case 'arc-length':
      return arcLengthOf(unknowns, first);
    case 'angle':
      if (second !== undefined) return angleBetween(sketch, unknowns, first, second);
      return turnOf(unknowns, first) ?? againstX(sketch, unknowns, first);
    case 'distance': {
      if (second === undefined) return along === 'straight' ? null : fromZero(sketch, unknowns, first, along);
      if (first === second) return null;
      const lines = [first, second].map((id) => endsOf(sketch, unknowns, id));
      const places = [first, second].map((id, k) => (lines[k] ? null : placeOf(sketch, unknowns, id)));
      const carrier = lines[0] ?? lines[1];
      if (carrier) {
        const other = lines[0] && lines[1] ? middleOf(lines[1][0], lines[1][1]) : (places[0] ?? places[1]);
        return other ? positive(leftOf(other, carrier[0], carrier[1])) : null;
      }
      const [a, b] = places;
      if (!a || !b) return null;
      if (along === 'straight') return apart(a, b);
      const by = along === 'x' ? { byX: 1, byY: 0 } : { byX: 0, byY: 1 };
      return positive(
        blend([
          { place: b, ...by },
          { place: a, byX: -by.byX, byY: -by.byY },
        ]),
      );
    }
    case 'path-length':
    case 'width':
    case 'height': {
      const path = Object.hasOwn(sketch.paths, first) ? sketch.paths[first] : undefined;
      return path ? formQuantity(sketch, unknowns, path, kind) : null;
    }
  }
}

/** How far a place lies from zero along X or Y. */
function fromZero(sketch: Sketch, unknowns: Unknowns, id: Id, along: 'x' | 'y'): Scalar | null {
  const place = placeOf(sketch, unknowns, id);
  return place && blend([{ place, byX: along === 'x' ? 1 : 0, byY: along === 'x' ? 0 : 1 }]);
}

/** Directions are told from here on, over half a turn: level and plumb lines lie well within. */
const LEAST_DIRECTION = -Math.PI / 4;

/** The direction of a line against X, whichever way it runs, rad. */
function againstX(sketch: Sketch, unknowns: Unknowns, id: Id): Scalar | null {
  const of = curveIn(sketch, id)?.kind === 'line' ? headingOf(sketch, unknowns, id, 'from') : null;
  if (!of) return null;
  const start = of.value(unknowns.start);
  const shift = -Math.floor((start - LEAST_DIRECTION) / Math.PI) * Math.PI;
  return {
    at: of.at,
    value: (x) => {
      const angle = of.value(x);
      return angle - Math.round((angle - start) / (2 * Math.PI)) * 2 * Math.PI + shift;
    },
    addSlopes: of.addSlopes,
  };
}

/** Directions away from where two lines meet, or come nearest to: the angle between them, rad. */
function angleBetween(sketch: Sketch, unknowns: Unknowns, first: Id, second: Id): Scalar | null {
  const [a, b] = [endsOf(sketch, unknowns, first), endsOf(sketch, unknowns, second)];
  const [p, q] = [headingOf(sketch, unknowns, first, 'from'), headingOf(sketch, unknowns, second, 'from')];
  if (!a || !b || !p || !q) return null;
  const { start } = unknowns;
  const gap = (i: number, j: number) => Math.hypot(b[j]!.x(start) - a[i]!.x(start), b[j]!.y(start) - a[i]!.y(start));
  const nearest = [
    [0, 0],
    [0, 1],
    [1, 0],
    [1, 1],
  ].reduce((best, own) => (gap(own[0]!, own[1]!) < gap(best[0]!, best[1]!) - NO_LENGTH_MM ? own : best));
  const turn = (nearest[0] === 1 ? Math.PI : 0) + (nearest[1] === 1 ? Math.PI : 0);
  const signed = (x: Float64Array) => {
    const angle = q.value(x) - p.value(x) + turn;
    return angle - Math.round(angle / (2 * Math.PI)) * 2 * Math.PI;
  };
  const side = signed(start) < 0 ? -1 : 1;
  return {
    at: [...p.at, ...q.at],
    // Through a straight or a folded one it goes on, instead of jumping to the other side.
    value: (x) => {
      const angle = side * signed(x);
      return angle < -Math.PI / 2 ? angle + 2 * Math.PI : angle;
    },
    addSlopes(x, slopes, factor) {
      q.addSlopes(x, slopes, side * factor);
      p.addSlopes(x, slopes, -side * factor);
    },
  };
}

/** Step of the slopes of what is asked of a whole form, mm. */
const FORM_STEP_MM = 1e-5;

/** Something of a whole path; its slopes by differences. */
function formQuantity(
  sketch: Sketch,
  unknowns: Unknowns,
  path: Path,
  kind: 'path-length' | 'width' | 'height',
): Scalar {
  const { curves } = askedBy(sketch, { refs: [{ sketch: sketch.id, id: path.id }] } as unknown as Condition);
  const at = curves.flatMap((curve) => {
    const shape = unknowns.shapeAt.get(curve.id);
    const ends = curve.kind === 'circle' ? [curve.centre] : [curve.from, curve.to];
    const own = curve.kind === 'cubic' ? 4 : 1;
    return [
      ...ends.flatMap((p) => [unknowns.pointAt.get(p)!, unknowns.pointAt.get(p)! + 1]),
      ...(shape ? Array.from({ length: own }, (_, k) => shape.at + k) : []),
    ];
  });
  const value = (x: Float64Array): number => {
    const form = pathForm(sketch, unknowns, path, x);
    return form ? ofForm(form, kind, unknowns.soft.mm) : 0;
  };
  const unique = [...new Set(at)];
  return {
    at: unique,
    value,
    addSlopes(x, slopes, factor) {
      const moved = Float64Array.from(x);
      // Told softly its slopes change over that softness.
      const step =
        unknowns.soft.mm > 0 ? Math.min(FORM_STEP_MM, Math.max(NO_LENGTH_MM, unknowns.soft.mm / 10)) : FORM_STEP_MM;
      for (const k of unique) {
        moved[k] = x[k]! + step;
        const plus = value(moved);
        moved[k] = x[k]! - step;
        slopes[k]! += (factor * (plus - value(moved))) / (2 * step);
        moved[k] = x[k]!;
      }
    },
  };
}

function ofForm(form: Form, kind: 'path-length' | 'width' | 'height', soft: number): number {
  if (kind === 'path-length') return formLength(form);
  const along = kind === 'width' ? 'x' : 'y';
  if (form.kind === 'circle') return 2 * form.radius;
  // Each corner by itself, and what bulges beyond its corners.
  const [high, low]: [number[], number[]] = [[], []];
  for (const s of form.segments) {
    high.push(s.from[along]);
    low.push(-s.from[along]);
    if (!form.closed) {
      high.push(s.to[along]);
      low.push(-s.to[along]);
    }
    if (s.kind === 'line') continue;
    const { min, max } = segmentBounds(s);
    high.push(max[along]);
    low.push(-min[along]);
  }
  return form.segments.length > 0 ? largest(high, soft) + largest(low, soft) : 0;
}

/**
 * The largest of some figures; softly: their mean, each weighed by how near it is to the largest. Where several are the
 * largest at once it is what they are, so that what can hold exactly can hold softly too.
 */
function largest(values: readonly number[], soft: number): number {
  const most = Math.max(...values);
  if (soft <= 0) return most;
  let [sum, weights] = [0, 0];
  for (const v of values) {
    const weight = Math.exp((v - most) / soft);
    sum += weight * v;
    weights += weight;
  }
  return sum / weights;
}

/** What a decided size asks for; why, where it asks for nothing. */
export function dimensionScalars(
  sketch: Sketch,
  unknowns: Unknowns,
  dimension: Dimension,
): Wanted[] | { fault: ConditionFault } | null {
  const target = decidedValue(dimension);
  if (target === null) return { fault: 'no-length' };
  const of = quantityOf(sketch, unknowns, dimension);
  if (!of) return null;
  if (dimension.kind === 'angle') {
    const lengthMm = Math.max(0.1, Math.min(...dimension.refs.map(({ id }) => chordLength(sketch, unknowns, id))));
    const isDirection = dimension.refs.length === 1 && curveIn(sketch, dimension.refs[0]!.id)?.kind === 'line';
    // A line has no sense: of both directions that nearer to what was seen is meant.
    const seen = of.value(unknowns.start);
    const turns = isDirection ? Math.round((seen - target) / Math.PI) * Math.PI : 0;
    const angle = isDirection ? target + turns : Math.abs(target);
    return [{ of: total([{ of, times: lengthMm }]), target: angle * lengthMm }];
  }
  const shape = unknowns.shapeAt.get(dimension.refs[0]!.id);
  const isArc = shape?.curve.kind === 'arc' && (dimension.kind === 'radius' || dimension.kind === 'diameter');
  if (isArc) {
    const radius = dimension.kind === 'radius' ? target : target / 2;
    return [{ of: curvature(unknowns, dimension.refs[0]!.id, radius), target: radius }];
  }
  return [{ of, target }];
}

/** How long the chord of a curve was seen to be, mm. */
function chordLength(sketch: Sketch, unknowns: Unknowns, id: Id): number {
  const curve = curveIn(sketch, id);
  if (!curve || curve.kind === 'circle') return 0;
  return chordOf(unknowns.pointAt.get(curve.from)!, unknowns.pointAt.get(curve.to)!).value(unknowns.start);
}

/** The curvature of an arc, told as the length that it comes to be when it is right: regular where the arc is straight. */
function curvature(unknowns: Unknowns, id: Id, wantedMm: number): Scalar {
  const { at, scale, curve } = unknowns.shapeAt.get(id)!;
  const ends = curve as Extract<Curve, { kind: 'arc' }>;
  const chord = chordOf(unknowns.pointAt.get(ends.from)!, unknowns.pointAt.get(ends.to)!);
  const side = unknowns.start[at]! < 0 ? -1 : 1;
  const square = wantedMm * wantedMm;
  return {
    at: [...chord.at, at],
    value(x) {
      const b = x[at]! / scale;
      return (side * square * 4 * b) / (chord.value(x) * (1 + b * b));
    },
    addSlopes(x, slopes, factor) {
      const b = x[at]! / scale;
      const [c, bent] = [chord.value(x), 1 + b * b];
      slopes[at]! += (factor * side * square * 4 * (1 - b * b)) / (c * bent * bent * scale);
      chord.addSlopes(x, slopes, (-factor * side * square * 4 * b) / (c * c * bent));
    },
  };
}
