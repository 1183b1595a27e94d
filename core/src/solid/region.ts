import {
  type Form,
  flattenForm,
  formArea,
  isInside,
  lerp,
  polygonArea,
  reverseForm,
  type Segment,
  segmentLength,
  type Vec2,
} from '../geometry';
import type { Id } from '../sketch';

/** A closed form of a profile, and what its pieces are called. */
export interface Loop {
  path: Id;
  form: Form;
  /** Curves by their names, one a segment, null where it was added; null for what was made of a path: its pieces are counted. */
  curves: readonly (Id | null)[] | null;
}

/** What one closed form encloses, less the holes in it. */
export interface Region {
  outer: Loop;
  holes: Loop[];
}

/** Flat enough to tell which form lies in which, mm. */
const FLAT_MM = 0.01;

/** Pieces shorter than this are left out of a body's profile, mm: their faces would be thinner than any edge that is broken there. */
const SLIVER_MM = 2e-3;

const isSliver = (s: Segment): boolean => segmentLength(s) < SLIVER_MM;

/** A loop without its slivers: the pieces beside them meet where they were, to that length. */
export function withoutSlivers(loop: Loop): Loop {
  const { form, curves } = loop;
  if (form.kind === 'circle') return loop;
  const kept = form.segments.flatMap((s, k) => (isSliver(s) ? [] : [k]));
  if (kept.length === form.segments.length || kept.length < 2) return loop;
  const segments = kept.map((k, n) => ({
    ...form.segments[k]!,
    to: form.segments[kept[(n + 1) % kept.length]!]!.from,
  }));
  return { ...loop, form: { ...form, segments }, curves: curves && kept.map((k) => curves[k] ?? null) };
}

/** Loops by their numbers: one that encloses, and the holes in it. */
export interface Nest {
  outer: number;
  holes: number[];
}

/**
 * Which closed forms are holes in which: those at an odd depth, each in the smallest form around it. Forms within a hole
 * are regions of their own.
 */
export function nestsOf(loops: readonly Loop[]): Nest[] {
  const all = loops
    .map(({ form }, nth) => ({ nth, polygon: flattenForm(form, FLAT_MM), area: formArea(form) }))
    .sort((a, b) => b.area - a.area);
  const placed = all.map((one, k) => {
    const around = all.slice(0, k).filter((other) => liesIn(one.polygon, other.polygon));
    return { nth: one.nth, depth: around.length, parent: around[around.length - 1]?.nth };
  });
  return placed
    .filter((one) => one.depth % 2 === 0)
    .map(({ nth }) => ({
      outer: nth,
      holes: placed.filter((p) => p.depth % 2 === 1 && p.parent === nth).map((p) => p.nth),
    }));
}

/** The regions of closed forms, each run round anticlockwise and without its slivers. */
export function regionsOf(loops: readonly Loop[]): Region[] {
  const own = loops.map((loop) => anticlockwise(withoutSlivers(loop)));
  return nestsOf(own).map(({ outer, holes }) => ({ outer: own[outer]!, holes: holes.map((k) => own[k]!) }));
}

/** So many places of a form are asked whether they lie in another: one alone may lie on its edge. */
const ASKED = 7;

function liesIn(polygon: readonly Vec2[], around: readonly Vec2[]): boolean {
  const places = Array.from({ length: ASKED }, (_, k) => {
    const at = Math.floor((k * polygon.length) / ASKED);
    return lerp(polygon[at]!, polygon[(at + 1) % polygon.length]!, 0.4142);
  });
  return places.filter((p) => isInside(around, p)).length > ASKED / 2;
}

/** A form run round anticlockwise, its pieces' names with it. */
function anticlockwise(loop: Loop): Loop {
  const { form, curves } = loop;
  if (form.kind === 'circle' || polygonArea(flattenForm(form, FLAT_MM)) > 0) return loop;
  return { ...loop, form: reverseForm(form), curves: curves && [...curves].reverse() };
}
