import type { Constraint, Id, Sketch } from '../part';
import {
  apart,
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

import { constant, curveIn, endsOf, isLine, isRound, turnedBy, type Wanted, zero } from './wanted';

/** What a relation asks to be zero; null where it says nothing of what it names. */
export function constraintScalars(
  sketch: Sketch,
  unknowns: Unknowns,
  { kind, refs, count }: Constraint,
): Wanted[] | null {
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
