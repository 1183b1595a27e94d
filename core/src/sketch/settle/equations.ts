import { type Form, formLength, formsBounds } from '../../geometry';
import { lengthOf } from '../expression';
import type { Constraint, Curve, Dimension, Id, Path, Sketch } from '../part';
import { pathForm } from './carry';
import { askedBy, type Condition, isConstraint } from './clusters';
import {
  apart,
  arcLengthOf,
  blend,
  chordOf,
  headingOf,
  leftOf,
  middleOf,
  type Place,
  placeOf,
  radiusOf,
  type Scalar,
  total,
} from './elements';
import type { Unknowns } from './unknowns';

/** One equation that a condition makes: what it comes to is to be zero, mm. */
export interface Equation {
  condition: Id;
  /** Unknowns that it asks for, each once. */
  at: readonly number[];
  /**
   * What it comes to, its slopes added to a list as long as the unknowns. `share`: of the way from the size that was seen
   * to the one that was decided.
   */
  value(x: Float64Array, slopes: Float64Array | null, share: number): number;
}

/** Why a condition makes no equation: what it asks for is not there, or is of a kind that it says nothing of. */
export type ConditionFault = 'nothing-to-hold' | 'no-length';

export type Equations = { ok: true; equations: Equation[] } | { ok: false; fault: ConditionFault };

const NOTHING: Equations = { ok: false, fault: 'nothing-to-hold' };

/** The equations of a condition. Of two ways in which it can hold, that one which is nearer to what was seen. */
export function equationsOf(sketch: Sketch, unknowns: Unknowns, condition: Condition): Equations {
  const made = isConstraint(condition)
    ? constraintScalars(sketch, unknowns, condition)
    : dimensionScalars(sketch, unknowns, condition);
  if (!made) return NOTHING;
  if ('fault' in made) return { ok: false, fault: made.fault };
  return { ok: true, equations: made.map(({ of, target }) => equation(condition.id, unknowns.start, of, target)) };
}

/** A quantity, and what it is to be. */
interface Wanted {
  of: Scalar;
  target: number;
}

function equation(condition: Id, start: Float64Array, of: Scalar, target: number): Equation {
  const seen = of.value(start);
  return {
    condition,
    at: [...new Set(of.at)],
    value(x, slopes, share) {
      if (slopes) of.addSlopes(x, slopes, 1);
      return of.value(x) - (share === 1 ? target : seen + (target - seen) * share);
    },
  };
}

const zero = (of: Scalar): Wanted => ({ of, target: 0 });

const curveIn = (sketch: Sketch, id: Id): Curve | undefined =>
  Object.hasOwn(sketch.curves, id) ? sketch.curves[id] : undefined;

const isLine = (curve: Curve | undefined): curve is Extract<Curve, { kind: 'line' }> => curve?.kind === 'line';
const isRound = (curve: Curve | undefined): boolean => curve?.kind === 'circle' || curve?.kind === 'arc';

/** Both ends of a line, as places. */
function endsOf(sketch: Sketch, unknowns: Unknowns, id: Id): [Place, Place] | null {
  const curve = curveIn(sketch, id);
  if (!isLine(curve)) return null;
  const [a, b] = [placeOf(sketch, unknowns, curve.from), placeOf(sketch, unknowns, curve.to)];
  return a && b ? [a, b] : null;
}

/** An angle kept near nothing by whole or half turns, times a length, so that it counts in mm. */
function turnedBy(of: Scalar, lengthMm: number, period: number): Scalar {
  return {
    at: of.at,
    value: (x) => {
      const angle = of.value(x);
      return (angle - Math.round(angle / period) * period) * lengthMm;
    },
    addSlopes: (x, slopes, factor) => of.addSlopes(x, slopes, factor * lengthMm),
  };
}

const constant = (value: number): Scalar => ({ at: [], value: () => value, addSlopes() {} });

function constraintScalars(sketch: Sketch, unknowns: Unknowns, { kind, refs, count }: Constraint): Wanted[] | null {
  const ids = refs.map((r) => r.id);
  const { start } = unknowns;
  const lengthAt = (id: Id): number => {
    const curve = curveIn(sketch, id);
    if (!curve || curve.kind === 'circle') return 1;
    const [a, b] = [unknowns.pointAt.get(curve.from), unknowns.pointAt.get(curve.to)];
    return a === undefined || b === undefined ? 1 : Math.max(0.1, chordOf(a, b).value(start));
  };
  const headings = (from: Id, to: Id, quarter: number): Wanted | null => {
    const [a, b] = [headingOf(sketch, unknowns, from, 'from'), headingOf(sketch, unknowns, to, 'from')];
    if (!a || !b || !isLine(curveIn(sketch, from)) || !isLine(curveIn(sketch, to))) return null;
    const parts = [
      { of: b, times: 1 },
      { of: a, times: -1 },
      { of: constant(quarter), times: -1 },
    ];
    return zero(turnedBy(total(parts), Math.min(lengthAt(from), lengthAt(to)), Math.PI));
  };
  const each = <T>(all: readonly (T | null)[]): T[] | null =>
    all.length > 0 && all.every((one) => one !== null) ? (all as T[]) : null;
  const places = () => each(ids.map((id) => placeOf(sketch, unknowns, id)));
  switch (kind) {
    case 'level':
    case 'plumb': {
      const by = kind === 'level' ? { byX: 0, byY: 1 } : { byX: 1, byY: 0 };
      const pairs = ids.every((id) => isLine(curveIn(sketch, id)))
        ? each(ids.map((id) => endsOf(sketch, unknowns, id)))
        : [places() ?? []];
      if (!pairs?.every((p) => p.length === 2)) return null;
      return pairs.map(([a, b]) =>
        zero(
          blend([
            { place: b!, ...by },
            { place: a!, byX: -by.byX, byY: -by.byY },
          ]),
        ),
      );
    }
    case 'parallel':
      return ids.length < 2 ? null : each(ids.slice(1).map((id) => headings(ids[0]!, id, 0)));
    case 'square':
      return ids.length === 2 ? each([headings(ids[0]!, ids[1]!, Math.PI / 2)]) : null;
    case 'tangent':
    case 'smooth':
      return ids.length === 2 ? each([touching(sketch, unknowns, ids[0]!, ids[1]!, lengthAt)]) : null;
    case 'equal': {
      const sizes = each(
        ids.map((id) => {
          const curve = curveIn(sketch, id);
          if (isRound(curve)) return radiusOf(unknowns, id);
          if (!isLine(curve)) return null;
          return chordOf(unknowns.pointAt.get(curve.from)!, unknowns.pointAt.get(curve.to)!);
        }),
      );
      const kinds = new Set(ids.map((id) => isRound(curveIn(sketch, id))));
      if (!sizes || sizes.length < 2 || kinds.size > 1) return null;
      return sizes.slice(1).map((of) =>
        zero(
          total([
            { of, times: 1 },
            { of: sizes[0]!, times: -1 },
          ]),
        ),
      );
    }
    case 'concentric': {
      const all = places();
      if (!all || all.length < 2) return null;
      return all.slice(1).flatMap((p) => same(p, all[0]!));
    }
    case 'on':
      return onOne(sketch, unknowns, ids);
    case 'middle': {
      const middle = placeOf(sketch, unknowns, ids[0]!);
      const ends = ids.length === 2 ? endsOf(sketch, unknowns, ids[1]!) : places()?.slice(1);
      return middle && ends?.length === 2 ? same(middle, middleOf(ends[0]!, ends[1]!)) : null;
    }
    case 'symmetric':
      return ids.length === 3 ? symmetric(sketch, unknowns, ids as [Id, Id, Id]) : null;
    case 'even': {
      const all = places();
      if (!all || all.length < 3) return null;
      return all.slice(2).flatMap((p, k) => {
        const axes = [
          { byX: 1, byY: 0 },
          { byX: 0, byY: 1 },
        ];
        return axes.map(({ byX, byY }) =>
          zero(
            blend([
              { place: all[k]!, byX, byY },
              { place: all[k + 1]!, byX: -2 * byX, byY: -2 * byY },
              { place: p, byX, byY },
            ]),
          ),
        );
      });
    }
    case 'around': {
      const all = places();
      return all && all.length > 2 ? around(all[0]!, all.slice(1), start, count) : null;
    }
    case 'fixed':
      // Held by the weight of where it was measured, so that it can never contradict anything.
      return [];
  }
}

/** Two places are one. */
const same = (a: Place, b: Place): Wanted[] => [
  zero(
    blend([
      { place: a, byX: 1, byY: 0 },
      { place: b, byX: -1, byY: 0 },
    ]),
  ),
  zero(
    blend([
      { place: a, byX: 0, byY: 1 },
      { place: b, byX: 0, byY: -1 },
    ]),
  ),
];

/** Pieces that run on into each other where they meet; or a line or circle that touches a circle or an arc. */
function touching(
  sketch: Sketch,
  unknowns: Unknowns,
  first: Id,
  second: Id,
  lengthAt: (id: Id) => number,
): Wanted | null {
  const [a, b] = [curveIn(sketch, first), curveIn(sketch, second)];
  if (!a || !b || a === b) return null;
  if (a.kind !== 'circle' && b.kind !== 'circle') {
    const shared = [a.from, a.to].find((p) => p === b.from || p === b.to);
    if (shared !== undefined) {
      const [p, q] = [
        headingOf(sketch, unknowns, first, shared === a.from ? 'from' : 'to'),
        headingOf(sketch, unknowns, second, shared === b.from ? 'from' : 'to'),
      ];
      if (!p || !q || (isLine(a) && isLine(b))) return null;
      const turn = total([
        { of: q, times: 1 },
        { of: p, times: -1 },
      ]);
      return zero(turnedBy(turn, Math.min(lengthAt(first), lengthAt(second)), Math.PI));
    }
  }
  const [round, other] = isRound(b) ? [second, first] : [first, second];
  const [centre, radius] = [placeOf(sketch, unknowns, round), radiusOf(unknowns, round)];
  if (!centre || !radius) return null;
  const line = endsOf(sketch, unknowns, other);
  if (line) {
    const off = leftOf(centre, line[0], line[1]);
    const side = off.value(unknowns.start) < 0 ? -1 : 1;
    return zero(
      total([
        { of: off, times: side },
        { of: radius, times: -1 },
      ]),
    );
  }
  const [otherCentre, otherRadius] = [placeOf(sketch, unknowns, other), radiusOf(unknowns, other)];
  if (!otherCentre || !otherRadius || !isRound(curveIn(sketch, other))) return null;
  const away = apart(centre, otherCentre);
  const [r, s, d] = [radius, otherRadius, away].map((of) => of.value(unknowns.start)) as [number, number, number];
  // From outside, or one within the other: whichever is nearer to what was seen.
  const isOutside = Math.abs(d - r - s) <= Math.abs(d - Math.abs(r - s));
  const signs = isOutside ? [-1, -1] : r > s ? [-1, 1] : [1, -1];
  return zero(
    total([
      { of: away, times: 1 },
      { of: radius, times: signs[0]! },
      { of: otherRadius, times: signs[1]! },
    ]),
  );
}

function onOne(sketch: Sketch, unknowns: Unknowns, ids: readonly Id[]): Wanted[] | null {
  const last = curveIn(sketch, ids[ids.length - 1]!);
  const items = ids.slice(0, -1).flatMap((id) => {
    const ends = endsOf(sketch, unknowns, id);
    const place = ends ? null : placeOf(sketch, unknowns, id);
    return ends ?? (place ? [place] : []);
  });
  if (items.length === 0) return null;
  if (isLine(last)) {
    const [a, b] = endsOf(sketch, unknowns, last.id) ?? [];
    return a && b ? items.map((p) => zero(leftOf(p, a, b))) : null;
  }
  if (last && isRound(last)) {
    const [centre, radius] = [placeOf(sketch, unknowns, last.id), radiusOf(unknowns, last.id)];
    if (!centre || !radius) return null;
    return items.map((p) =>
      zero(
        total([
          { of: apart(centre, p), times: 1 },
          { of: radius, times: -1 },
        ]),
      ),
    );
  }
  const end = last ? null : placeOf(sketch, unknowns, ids[ids.length - 1]!);
  if (!end || items.length < 2) return null;
  return items.slice(1).map((p) => zero(leftOf(p, items[0]!, end)));
}

function symmetric(sketch: Sketch, unknowns: Unknowns, [first, second, about]: [Id, Id, Id]): Wanted[] | null {
  const axis = endsOf(sketch, unknowns, about);
  if (!axis) return null;
  const pair = (p: Place, q: Place): Wanted[] => {
    const [a, b] = axis;
    // The middle lies on the line, and both lie as far along it.
    const along: Scalar = alongBetween(p, q, a, b);
    return [zero(leftOf(middleOf(p, q), a, b)), zero(along)];
  };
  const [one, other] = [endsOf(sketch, unknowns, first), endsOf(sketch, unknowns, second)];
  if (one && other) {
    const { start } = unknowns;
    const off = (p: Place, q: Place) => Math.abs(alongBetween(p, q, axis[0], axis[1]).value(start));
    const isCrossed = off(one[0], other[1]) + off(one[1], other[0]) < off(one[0], other[0]) + off(one[1], other[1]);
    const [c, d] = isCrossed ? [other[1], other[0]] : other;
    return [...pair(one[0], c), ...pair(one[1], d)];
  }
  const [p, q] = [placeOf(sketch, unknowns, first), placeOf(sketch, unknowns, second)];
  if (!p || !q) return null;
  const [r, s] = [radiusOf(unknowns, first), radiusOf(unknowns, second)];
  const radii =
    r && s
      ? [
          zero(
            total([
              { of: r, times: 1 },
              { of: s, times: -1 },
            ]),
          ),
        ]
      : [];
  return [...pair(p, q), ...radii];
}

/** How far one place lies beyond another along a direction, mm. */
function alongBetween(p: Place, q: Place, a: Place, b: Place): Scalar {
  return {
    at: [...p.at, ...q.at, ...a.at, ...b.at],
    value(x) {
      const [dx, dy] = [b.x(x) - a.x(x), b.y(x) - a.y(x)];
      return ((q.x(x) - p.x(x)) * dx + (q.y(x) - p.y(x)) * dy) / Math.hypot(dx, dy);
    },
    addSlopes(x, slopes, factor) {
      const [dx, dy] = [b.x(x) - a.x(x), b.y(x) - a.y(x)];
      const length = Math.hypot(dx, dy) || 1;
      const [ux, uy] = [dx / length, dy / length];
      const [gx, gy] = [q.x(x) - p.x(x), q.y(x) - p.y(x)];
      const across = (gy * ux - gx * uy) / length;
      q.addSlopes(x, slopes, ux * factor, uy * factor);
      p.addSlopes(x, slopes, -ux * factor, -uy * factor);
      b.addSlopes(x, slopes, -uy * across * factor, ux * across * factor);
      a.addSlopes(x, slopes, uy * across * factor, -ux * across * factor);
    },
  };
}

/**
 * Each place is the one before it, turned about the centre by an even part of a turn; in the order in which they were
 * seen, the widest gap last.
 */
function around(centre: Place, places: readonly Place[], start: Float64Array, count: number | null): Wanted[] {
  const angle = (p: Place) => Math.atan2(p.y(start) - centre.y(start), p.x(start) - centre.x(start));
  const round = [...places].sort((a, b) => angle(a) - angle(b));
  const gaps = round.map((p, k) => {
    const gap = angle(round[(k + 1) % round.length]!) - angle(p);
    return gap > 0 ? gap : gap + 2 * Math.PI;
  });
  const widest = gaps.indexOf(Math.max(...gaps));
  const sorted = [...round.slice(widest + 1), ...round.slice(0, widest + 1)];
  const turn = (2 * Math.PI) / (count ?? sorted.length);
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  return sorted.slice(1).flatMap((p, k) => {
    const before = sorted[k]!;
    return [
      zero(
        blend([
          { place: p, byX: 1, byY: 0 },
          { place: before, byX: -c, byY: s },
          { place: centre, byX: c - 1, byY: -s },
        ]),
      ),
      zero(
        blend([
          { place: p, byX: 0, byY: 1 },
          { place: before, byX: -s, byY: -c },
          { place: centre, byX: s, byY: c - 1 },
        ]),
      ),
    ];
  });
}

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
      return second === undefined ? null : angleBetween(sketch, unknowns, first, second);
    case 'distance': {
      if (second === undefined || first === second) return null;
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
  ].reduce((best, own) => (gap(own[0]!, own[1]!) < gap(best[0]!, best[1]!) - 1e-9 ? own : best));
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
    return form ? ofForm(form, kind) : 0;
  };
  const unique = [...new Set(at)];
  return {
    at: unique,
    value,
    addSlopes(x, slopes, factor) {
      const moved = Float64Array.from(x);
      for (const k of unique) {
        moved[k] = x[k]! + FORM_STEP_MM;
        const plus = value(moved);
        moved[k] = x[k]! - FORM_STEP_MM;
        slopes[k]! += (factor * (plus - value(moved))) / (2 * FORM_STEP_MM);
        moved[k] = x[k]!;
      }
    },
  };
}

function ofForm(form: Form, kind: 'path-length' | 'width' | 'height'): number {
  if (kind === 'path-length') return formLength(form);
  const bounds = formsBounds([form]);
  if (!bounds) return 0;
  return kind === 'width' ? bounds.max.x - bounds.min.x : bounds.max.y - bounds.min.y;
}

/** What was typed for a size: mm, or, of an angle, rad; null for no figure. */
export function decidedValue({ kind, origin }: Dimension): number | null {
  if (origin.kind !== 'decided') return null;
  const mm = lengthOf(origin.value);
  if (mm === null) return null;
  return kind === 'angle' ? (mm * Math.PI) / 180 : mm;
}

function dimensionScalars(
  sketch: Sketch,
  unknowns: Unknowns,
  dimension: Dimension,
): Wanted[] | { fault: ConditionFault } | null {
  const target = decidedValue(dimension);
  if (target === null) return { fault: 'no-length' };
  const of = quantityOf(sketch, unknowns, dimension);
  if (!of) return null;
  if (dimension.kind === 'angle') {
    const [a, b] = dimension.refs.map((r) => curveIn(sketch, r.id)) as [
      Extract<Curve, { kind: 'line' }>,
      Extract<Curve, { kind: 'line' }>,
    ];
    const chord = (c: typeof a) => chordOf(unknowns.pointAt.get(c.from)!, unknowns.pointAt.get(c.to)!);
    const lengthMm = Math.max(0.1, Math.min(chord(a).value(unknowns.start), chord(b).value(unknowns.start)));
    return [{ of: total([{ of, times: lengthMm }]), target: target * lengthMm }];
  }
  const shape = unknowns.shapeAt.get(dimension.refs[0]!.id);
  const isArc = shape?.curve.kind === 'arc' && (dimension.kind === 'radius' || dimension.kind === 'diameter');
  if (isArc) {
    const radius = dimension.kind === 'radius' ? target : target / 2;
    return [{ of: curvature(unknowns, dimension.refs[0]!.id, radius), target: radius }];
  }
  return [{ of, target }];
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
