import type { Curve, Id, OpenCurve, Sketch } from '../part';
import type { Shape, Unknowns } from './unknowns';

/** Bulges below this are told by the first terms of their series, which are exact to 1e-16 there; the closed form loses figures. */
const FLAT = 1e-4;

/**
 * What equations are made of, each as a function of the unknowns that adds its slopes, times a factor, to a list as long
 * as the unknowns. `at`: the unknowns that it asks for.
 */
export interface Scalar {
  at: readonly number[];
  value(x: Float64Array): number;
  addSlopes(x: Float64Array, slopes: Float64Array, factor: number): void;
}

/** A place: its x and y as scalars that are asked for together. */
export interface Place {
  at: readonly number[];
  x(x: Float64Array): number;
  y(x: Float64Array): number;
  addSlopes(x: Float64Array, slopes: Float64Array, byX: number, byY: number): void;
}

function pointPlace({ pointAt }: Unknowns, id: Id): Place | null {
  const k = pointAt.get(id);
  if (k === undefined) return null;
  return {
    at: [k, k + 1],
    x: (x) => x[k]!,
    y: (x) => x[k + 1]!,
    addSlopes(_x, slopes, byX, byY) {
      slopes[k]! += byX;
      slopes[k + 1]! += byY;
    },
  };
}

/** The centre of an arc; far off and useless where it is nearly straight. */
function arcCentre({ pointAt }: Unknowns, { curve, at, scale }: Shape): Place {
  const [a, b] = [pointAt.get((curve as OpenCurve).from)!, pointAt.get((curve as OpenCurve).to)!];
  // How far the centre lies off the chord's middle, in chords to the left.
  const off = (bulge: number) => (1 - bulge * bulge) / (4 * bulge);
  return {
    at: [a, a + 1, b, b + 1, at],
    x: (x) => (x[a]! + x[b]!) / 2 - off(x[at]! / scale) * (x[b + 1]! - x[a + 1]!),
    y: (x) => (x[a + 1]! + x[b + 1]!) / 2 + off(x[at]! / scale) * (x[b]! - x[a]!),
    addSlopes(x, slopes, byX, byY) {
      const bulge = x[at]! / scale;
      const t = off(bulge);
      slopes[a]! += byX / 2 - byY * t;
      slopes[b]! += byX / 2 + byY * t;
      slopes[a + 1]! += byY / 2 + byX * t;
      slopes[b + 1]! += byY / 2 - byX * t;
      const byBulge = -(1 + bulge * bulge) / (4 * bulge * bulge);
      slopes[at]! += ((byY * (x[b]! - x[a]!) - byX * (x[b + 1]! - x[a + 1]!)) * byBulge) / scale;
    },
  };
}

/** A point, or the centre of a circle or an arc; null for anything else. */
export function placeOf(sketch: Sketch, unknowns: Unknowns, id: Id): Place | null {
  if (unknowns.pointAt.has(id)) return pointPlace(unknowns, id);
  const curve: Curve | undefined = Object.hasOwn(sketch.curves, id) ? sketch.curves[id] : undefined;
  if (curve?.kind === 'circle') return pointPlace(unknowns, curve.centre);
  const shape = unknowns.shapeAt.get(id);
  return shape && curve?.kind === 'arc' ? arcCentre(unknowns, shape) : null;
}

/** How long a chord is, mm. */
export function chordOf(a: number, b: number): Scalar {
  return {
    at: [a, a + 1, b, b + 1],
    value: (x) => Math.hypot(x[b]! - x[a]!, x[b + 1]! - x[a + 1]!),
    addSlopes(x, slopes, factor) {
      const [dx, dy] = [x[b]! - x[a]!, x[b + 1]! - x[a + 1]!];
      const by = factor / (Math.hypot(dx, dy) || 1);
      slopes[a]! -= dx * by;
      slopes[b]! += dx * by;
      slopes[a + 1]! -= dy * by;
      slopes[b + 1]! += dy * by;
    },
  };
}

/** The radius of a circle or an arc. */
export function radiusOf(unknowns: Unknowns, id: Id): Scalar | null {
  const shape = unknowns.shapeAt.get(id);
  if (!shape || shape.curve.kind === 'cubic') return null;
  const { at, scale, curve } = shape;
  if (curve.kind === 'circle')
    return {
      at: [at],
      value: (x) => x[at]!,
      addSlopes(_x, slopes, factor) {
        slopes[at]! += factor;
      },
    };
  const chord = chordOf(
    unknowns.pointAt.get((curve as OpenCurve).from)!,
    unknowns.pointAt.get((curve as OpenCurve).to)!,
  );
  return {
    at: [...chord.at, at],
    value(x) {
      const b = Math.abs(x[at]! / scale);
      return (chord.value(x) * (1 + b * b)) / (4 * b);
    },
    addSlopes(x, slopes, factor) {
      const b = Math.abs(x[at]! / scale);
      chord.addSlopes(x, slopes, (factor * (1 + b * b)) / (4 * b));
      slopes[at]! += ((factor * chord.value(x) * (b * b - 1)) / (4 * b * b * scale)) * Math.sign(x[at]!);
    },
  };
}

/** The length of an arc, straight ones too. */
export function arcLengthOf(unknowns: Unknowns, id: Id): Scalar | null {
  const shape = unknowns.shapeAt.get(id);
  if (shape?.curve.kind !== 'arc') return null;
  const { at, scale, curve } = shape;
  const chord = chordOf(unknowns.pointAt.get(curve.from)!, unknowns.pointAt.get(curve.to)!);
  // (1 + b²) atan(b) / b, and its slope: 1 and 0 for a straight one.
  const stretch = (b: number) => (Math.abs(b) < FLAT ? 1 + (2 / 3) * b * b : ((1 + b * b) * Math.atan(b)) / b);
  const slope = (b: number) => (Math.abs(b) < FLAT ? (4 / 3) * b : 1 / b + Math.atan(b) * (1 - 1 / (b * b)));
  return {
    at: [...chord.at, at],
    value: (x) => chord.value(x) * stretch(x[at]! / scale),
    addSlopes(x, slopes, factor) {
      const b = x[at]! / scale;
      chord.addSlopes(x, slopes, factor * stretch(b));
      slopes[at]! += (factor * chord.value(x) * slope(b)) / scale;
    },
  };
}

/** How far an arc turns, rad; null of anything else. */
export function turnOf(unknowns: Unknowns, id: Id): Scalar | null {
  const shape = unknowns.shapeAt.get(id);
  if (shape?.curve.kind !== 'arc') return null;
  const { at, scale } = shape;
  const side = unknowns.start[at]! < 0 ? -1 : 1;
  return {
    at: [at],
    value: (x) => 4 * side * Math.atan(x[at]! / scale),
    addSlopes(x, slopes, factor) {
      const bulge = x[at]! / scale;
      slopes[at]! += (factor * side * 4) / ((1 + bulge * bulge) * scale);
    },
  };
}

/** The direction of travel along a curve where it begins or ends, rad; a line has but one. */
export function headingOf(sketch: Sketch, unknowns: Unknowns, id: Id, end: 'from' | 'to'): Scalar | null {
  const curve = Object.hasOwn(sketch.curves, id) ? sketch.curves[id] : undefined;
  if (!curve || curve.kind === 'circle') return null;
  const [a, b] = [unknowns.pointAt.get(curve.from), unknowns.pointAt.get(curve.to)];
  const shape = unknowns.shapeAt.get(id);
  if (a === undefined || b === undefined || (curve.kind !== 'line' && !shape)) return null;
  const way = end === 'from' ? -1 : 1;
  const { at, scale } = shape ?? { at: 0, scale: 1 };
  const re = end === 'from' ? at : at + 2;
  const bend: Scalar | null =
    curve.kind === 'line'
      ? null
      : curve.kind === 'arc'
        ? {
            at: [at],
            value: (x) => way * 2 * Math.atan(x[at]! / scale),
            addSlopes(x, slopes, factor) {
              const bulge = x[at]! / scale;
              slopes[at]! += (factor * way * 2) / ((1 + bulge * bulge) * scale);
            },
          }
        : {
            at: [re, re + 1],
            value: (x) => Math.atan2(x[re + 1]!, x[re]!),
            addSlopes(x, slopes, factor) {
              const square = x[re]! ** 2 + x[re + 1]! ** 2 || 1;
              slopes[re]! -= (factor * x[re + 1]!) / square;
              slopes[re + 1]! += (factor * x[re]!) / square;
            },
          };
  return {
    at: [a, a + 1, b, b + 1, ...(bend?.at ?? [])],
    value: (x) => Math.atan2(x[b + 1]! - x[a + 1]!, x[b]! - x[a]!) + (bend?.value(x) ?? 0),
    addSlopes(x, slopes, factor) {
      const [dx, dy] = [x[b]! - x[a]!, x[b + 1]! - x[a + 1]!];
      const by = factor / (dx * dx + dy * dy || 1);
      slopes[a]! += dy * by;
      slopes[b]! -= dy * by;
      slopes[a + 1]! -= dx * by;
      slopes[b + 1]! += dx * by;
      bend?.addSlopes(x, slopes, factor);
    },
  };
}

/** How far a place lies to the left of the straight line from one place to another, mm. */
export function leftOf(p: Place, a: Place, b: Place): Scalar {
  return {
    at: [...p.at, ...a.at, ...b.at],
    value(x) {
      const [ax, ay] = [a.x(x), a.y(x)];
      const [dx, dy] = [b.x(x) - ax, b.y(x) - ay];
      return (dx * (p.y(x) - ay) - dy * (p.x(x) - ax)) / Math.hypot(dx, dy);
    },
    addSlopes(x, slopes, factor) {
      const [ax, ay] = [a.x(x), a.y(x)];
      const [dx, dy] = [b.x(x) - ax, b.y(x) - ay];
      const length = Math.hypot(dx, dy) || 1;
      const [ux, uy] = [dx / length, dy / length];
      const [rx, ry] = [p.x(x) - ax, p.y(x) - ay];
      // Turning the line moves the foot of the place along it.
      const t = (rx * ux + ry * uy) / length;
      p.addSlopes(x, slopes, -uy * factor, ux * factor);
      b.addSlopes(x, slopes, uy * t * factor, -ux * t * factor);
      a.addSlopes(x, slopes, uy * (1 - t) * factor, -ux * (1 - t) * factor);
    },
  };
}

/** How far two places lie apart, mm. */
export function apart(a: Place, b: Place): Scalar {
  return {
    at: [...a.at, ...b.at],
    value: (x) => Math.hypot(b.x(x) - a.x(x), b.y(x) - a.y(x)),
    addSlopes(x, slopes, factor) {
      const [dx, dy] = [b.x(x) - a.x(x), b.y(x) - a.y(x)];
      const by = factor / (Math.hypot(dx, dy) || 1);
      a.addSlopes(x, slopes, -dx * by, -dy * by);
      b.addSlopes(x, slopes, dx * by, dy * by);
    },
  };
}

/** Some multiples of x and y of places, added up. */
export function blend(parts: readonly { place: Place; byX: number; byY: number }[]): Scalar {
  return {
    at: parts.flatMap((p) => p.place.at),
    value: (x) =>
      parts.reduce((sum, { place, byX, byY }) => sum + (byX && byX * place.x(x)) + (byY && byY * place.y(x)), 0),
    addSlopes(x, slopes, factor) {
      for (const { place, byX, byY } of parts) place.addSlopes(x, slopes, factor * byX, factor * byY);
    },
  };
}

/** A weighted sum of scalars. */
export function total(parts: readonly { of: Scalar; times: number }[]): Scalar {
  return {
    at: parts.flatMap((p) => p.of.at),
    value: (x) => parts.reduce((sum, { of, times }) => sum + times * of.value(x), 0),
    addSlopes(x, slopes, factor) {
      for (const { of, times } of parts) of.addSlopes(x, slopes, factor * times);
    },
  };
}

/** A middle between two places. */
export function middleOf(a: Place, b: Place): Place {
  return {
    at: [...a.at, ...b.at],
    x: (x) => (a.x(x) + b.x(x)) / 2,
    y: (x) => (a.y(x) + b.y(x)) / 2,
    addSlopes(x, slopes, byX, byY) {
      a.addSlopes(x, slopes, byX / 2, byY / 2);
      b.addSlopes(x, slopes, byX / 2, byY / 2);
    },
  };
}
