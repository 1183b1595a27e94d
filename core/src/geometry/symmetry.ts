import Flatbush from 'flatbush';
import { descend, type NormalEquations } from '../numeric';
import { type Form, flattenForm } from './run';
import { pointAt, type Segment } from './segment';
import { mirrorPlace } from './transform';
import { add, between, cross, dot, lerp, scale, sub, type Vec2, vec } from './vector';

/** A line that forms are nearly their own image in. */
export interface Symmetry {
  /** Two places on the line, as far apart as the forms reach along it, mm. */
  a: Vec2;
  b: Vec2;
  /** How far places of the forms lie from the image of the rest, mm. */
  rmsMm: number;
  largestMm: number;
}

/** Forms are looked at as polylines this near to them, mm. */
const FLAT_MM = 0.005;
/** Places compared: in the search through all directions, and to settle the best of them. */
const PLACES = { search: 120, settle: 400 } as const;
const DIRECTIONS = 90;
/** So many of the best directions are settled. */
const SETTLED = 4;
/** A step that changes the sum of squares by so little is the last, mm. */
const SETTLED_MM = 1e-6;
/** Axes nearer to one another than this are one, rad. */
const SAME_AXIS = (4 * Math.PI) / 180;

/** Polylines, and how far from them a place lies. */
interface Outline {
  places: Vec2[];
  centre: Vec2;
  radius: number;
  /** How far a place lies from them, negative on one side of a chord, mm; and the way in which that grows. */
  off(p: Vec2): { mm: number; way: Vec2 };
}

/**
 * The lines in which forms are most nearly their own image, the best first, at most three: through all directions about
 * their middle, then settled by direction and place.
 */
export function findAxes(forms: readonly Form[]): Symmetry[] {
  const outline = outlineOf(forms);
  if (!outline) return [];
  const { centre, radius } = outline;
  const few = spread(outline.places, PLACES.search);
  const many = spread(outline.places, PLACES.settle);
  const cost = (places: readonly Vec2[], angle: number, off: number): number => {
    const [a, b] = lineAt(centre, angle, off);
    let sum = 0;
    for (const p of places) sum += outline.off(mirrorPlace(p, a, b)).mm ** 2;
    return sum / places.length;
  };
  const scan = Array.from({ length: DIRECTIONS }, (_, k) => {
    const angle = (k * Math.PI) / DIRECTIONS;
    return { angle, value: cost(few, angle, 0) };
  });
  const valleys = scan
    .filter(({ value }, k) => value <= scan.at(k - 1)!.value && value <= scan[(k + 1) % DIRECTIONS]!.value)
    .sort((p, q) => p.value - q.value)
    .slice(0, SETTLED);
  const settled = valleys.map(({ angle }) => settle(outline, many, angle)).sort((p, q) => p.value - q.value);
  const found: { angle: number; off: number }[] = [];
  for (const one of settled)
    if (found.every((f) => Math.abs(Math.sin(f.angle - one.angle)) > Math.sin(SAME_AXIS))) found.push(one);
  return found.slice(0, 3).map(({ angle, off }) => {
    const [from, way] = [lineAt(centre, angle, off)[0], vec(Math.cos(angle), Math.sin(angle))];
    const [a, b] = [add(from, scale(way, -1.1 * radius)), add(from, scale(way, 1.1 * radius))];
    const away = outline.places.map((p) => Math.abs(outline.off(mirrorPlace(p, a, b)).mm));
    const rmsMm = Math.sqrt(away.reduce((sum, d) => sum + d * d, 0) / away.length);
    return { a, b, rmsMm, largestMm: Math.max(...away) };
  });
}

function lineAt(centre: Vec2, angle: number, off: number): [Vec2, Vec2] {
  const way = vec(Math.cos(angle), Math.sin(angle));
  const at = add(centre, vec(-off * way.y, off * way.x));
  return [at, add(at, way)];
}

function outlineOf(forms: readonly Form[]): Outline | null {
  const lines = forms.map((form) => {
    const points = flattenForm(form, FLAT_MM);
    const closed = form.kind === 'circle' || form.closed;
    return closed && points[0] ? [...points, points[0]] : points;
  });
  const lengthOf = (points: readonly Vec2[]) => points.slice(1).reduce((sum, q, k) => sum + between(points[k]!, q), 0);
  const whole = lines.reduce((sum, points) => sum + lengthOf(points), 0);
  // Each by its length: many short pieces count no more than one long one.
  const chains = lines.map((points) =>
    dense(points, Math.max(FEWEST_PLACES, (MOST_PLACES * lengthOf(points)) / whole)),
  );
  const places = chains.flat();
  if (places.length < 8) return null;
  const ends: [Vec2, Vec2][] = chains.flatMap((c) => c.slice(1).map((q, k): [Vec2, Vec2] => [c[k]!, q]));
  const tree = new Flatbush(ends.length);
  for (const [p, q] of ends) tree.add(Math.min(p.x, q.x), Math.min(p.y, q.y), Math.max(p.x, q.x), Math.max(p.y, q.y));
  tree.finish();
  const centre = scale(places.reduce(add, vec(0, 0)), 1 / places.length);
  const radius = Math.max(...places.map((p) => between(p, centre)));
  // The nearest boxes hold the nearest chord, since all chords are short.
  const off = (p: Vec2) =>
    tree
      .neighbors(p.x, p.y, 4)
      .map((k) => offChord(p, ends[k]!))
      .reduce((best, one) => (Math.abs(one.mm) < Math.abs(best.mm) ? one : best));
  return { places, centre, radius, off };
}

/** Of all forms together, and of each of them at least. */
const MOST_PLACES = 2000;
const FEWEST_PLACES = 8;

/** About a given number of places along a polyline, evenly, so that long straight pieces count by their length. */
function dense(points: readonly Vec2[], wanted: number): Vec2[] {
  const lengths = points.slice(1).map((q, k) => between(points[k]!, q));
  const whole = lengths.reduce((sum, l) => sum + l, 0);
  if (!(whole > 0)) return [];
  const count = Math.ceil(wanted);
  const out: Vec2[] = [];
  let [k, before] = [0, 0];
  for (let n = 0; n <= count; n++) {
    const at = (whole * n) / count;
    while (k < lengths.length - 1 && before + lengths[k]! < at) before += lengths[k++]!;
    out.push(lerp(points[k]!, points[k + 1]!, lengths[k]! > 0 ? Math.min(1, (at - before) / lengths[k]!) : 0));
  }
  return out;
}

function spread(places: readonly Vec2[], count: number): Vec2[] {
  const step = Math.max(1, places.length / count);
  return Array.from({ length: Math.floor(places.length / step) }, (_, k) => places[Math.floor(k * step)]!);
}

function offChord(p: Vec2, [a, b]: readonly [Vec2, Vec2]): { mm: number; way: Vec2 } {
  const way = sub(b, a);
  const square = dot(way, way);
  const t = square > 0 ? dot(sub(p, a), way) / square : 0;
  if (square > 0 && t >= 0 && t <= 1) {
    const length = Math.sqrt(square);
    return { mm: cross(way, sub(p, a)) / length, way: vec(-way.y / length, way.x / length) };
  }
  const from = sub(p, t > 0 ? b : a);
  const mm = Math.hypot(from.x, from.y);
  return { mm, way: mm > 0 ? scale(from, 1 / mm) : from };
}

/** Direction and place of the line in which places lie nearest to their own outline, downhill from a direction. */
function settle({ centre, radius, off }: Outline, places: readonly Vec2[], start: number) {
  const sum = ([angle, shift]: Float64Array, into: NormalEquations): boolean => {
    const along = vec(Math.cos(angle!), Math.sin(angle!));
    const across = vec(-along.y, along.x);
    into.matrix.fill(0);
    into.gradient.fill(0);
    into.cost = 0;
    for (const p of places) {
      const from = sub(p, centre);
      const image = sub(scale(along, 2 * dot(from, along)), from);
      const { mm, way } = off(add(add(centre, image), scale(across, 2 * shift!)));
      // The image turns twice as fast as the line, and goes along with its place twice as far.
      const turned = 2 * (dot(way, vec(-image.y, image.x)) - shift! * dot(way, along));
      const moved = 2 * dot(way, across);
      into.matrix[0]! += turned * turned;
      into.matrix[2]! += turned * moved;
      into.matrix[3]! += moved * moved;
      into.gradient[0]! += turned * mm;
      into.gradient[1]! += moved * mm;
      into.cost += (mm * mm) / 2;
    }
    return Math.abs(shift!) < radius;
  };
  const found = descend({ size: 2, sum }, Float64Array.of(start, 0), { maxSteps: 40, smallestStep: SETTLED_MM });
  if (!found.ok) {
    // As a circle has it, which is its own image in every direction.
    const here: NormalEquations = { matrix: new Float64Array(4), gradient: new Float64Array(2), cost: 0 };
    sum(Float64Array.of(start, 0), here);
    return { angle: start, off: 0, value: here.cost };
  }
  return { angle: found.parameters[0]!, off: found.parameters[1]!, value: found.cost };
}

/** Ends of pieces farther apart than this are not each other's image, mm. */
const MATCH_MM = 3;

/**
 * Forms made symmetric about a line: each place goes to the middle between it and the image of its counterpart.
 *
 * `isWorn`: pieces that count for nothing, so that their counterparts decide. Out: the forms, piece by piece as they were;
 * null where a piece has no counterpart of its kind.
 */
export function symmetricForms(
  forms: readonly Form[],
  { a, b }: Pick<Symmetry, 'a' | 'b'>,
  isWorn: (form: number, piece: number) => boolean = () => false,
): Form[] | null {
  const pieces = forms.flatMap((form, f) =>
    (form.kind === 'circle' ? [] : form.segments).map((segment, k) => ({ segment, f, k, worn: isWorn(f, k) })),
  );
  const image = (p: Vec2) => mirrorPlace(p, a, b);
  const partnerOf = (own: Segment) => {
    const middle = image(pointAt(own, 0.5));
    const alike = pieces.filter((p) => p.segment.kind === own.kind);
    const best = alike.reduce<(typeof pieces)[number] | null>(
      (kept, p) =>
        kept && between(pointAt(kept.segment, 0.5), middle) <= between(pointAt(p.segment, 0.5), middle) ? kept : p,
      null,
    );
    if (!best || between(pointAt(best.segment, 0.5), middle) > MATCH_MM) return null;
    const swaps = between(image(own.from), best.segment.to) <= between(image(own.from), best.segment.from);
    const [from, to] = swaps ? [best.segment.to, best.segment.from] : [best.segment.from, best.segment.to];
    if (between(image(own.from), from) > MATCH_MM || between(image(own.to), to) > MATCH_MM) return null;
    return { ...best, swaps, from, to };
  };
  const mean = (own: Vec2, other: Vec2, ownWorn: boolean, otherWorn: boolean): Vec2 =>
    ownWorn === otherWorn ? lerp(own, image(other), 0.5) : ownWorn ? image(other) : own;
  const made: Form[] = [];
  for (const [f, form] of forms.entries()) {
    if (form.kind === 'circle') {
      const other = nearestCircle(forms, image(form.centre));
      if (!other) return null;
      const radius = (form.radius + other.radius) / 2;
      made.push({ kind: 'circle', centre: lerp(form.centre, image(other.centre), 0.5), radius });
      continue;
    }
    const segments: Segment[] = [];
    for (const [k, s] of form.segments.entries()) {
      const p = partnerOf(s);
      if (!p) return null;
      const worn = isWorn(f, k);
      const to = (own: Vec2, other: Vec2) => mean(own, other, worn, p.worn);
      const ends = { from: to(s.from, p.from), to: to(s.to, p.to) };
      if (s.kind === 'line') segments.push({ kind: 'line', ...ends });
      else if (s.kind === 'arc')
        segments.push({ kind: 'arc', ...ends, via: to(pointAt(s, 0.5), pointAt(p.segment, 0.5)) });
      else if (p.segment.kind === 'curve') {
        const [h, g] = p.swaps
          ? [p.segment.handleTo, p.segment.handleFrom]
          : [p.segment.handleFrom, p.segment.handleTo];
        segments.push({ kind: 'curve', ...ends, handleFrom: to(s.handleFrom, h), handleTo: to(s.handleTo, g) });
      }
    }
    // One place for each joint: where one of two pieces is worn, the other's end holds.
    const count = segments.length;
    made.push({
      ...form,
      segments: segments
        .map((s, k): Segment => {
          const isLast = k === count - 1 && !form.closed;
          if (isLast) return s;
          const next = segments[(k + 1) % count]!;
          return { ...s, to: isWorn(f, (k + 1) % count) ? s.to : next.from };
        })
        .map((s, k, all): Segment => (k === 0 && !form.closed ? s : { ...s, from: all[(k + count - 1) % count]!.to })),
    });
  }
  return made;
}

function nearestCircle(forms: readonly Form[], at: Vec2): Extract<Form, { kind: 'circle' }> | null {
  let best: Extract<Form, { kind: 'circle' }> | null = null;
  for (const form of forms)
    if (form.kind === 'circle' && (!best || between(form.centre, at) < between(best.centre, at))) best = form;
  return best && between(best.centre, at) <= MATCH_MM ? best : null;
}
