import {
  type Form,
  flattenForm,
  formArea,
  isInside,
  polygonArea,
  reverseForm,
  type Segment,
  segmentLength,
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

/**
 * Which closed forms are holes in which: those at an odd depth, each in the smallest form around it. Forms within a hole
 * are regions of their own.
 */
export function regionsOf(loops: readonly Loop[]): Region[] {
  const all = loops
    .map(withoutSlivers)
    .map((loop) => ({ loop, polygon: flattenForm(loop.form, FLAT_MM), area: formArea(loop.form) }))
    .sort((a, b) => b.area - a.area);
  const placed = all.map((one, k) => {
    const around = all.slice(0, k).filter((other) => isInside(other.polygon, one.polygon[0]!));
    return { ...one, depth: around.length, parent: around[around.length - 1] };
  });
  return placed
    .filter((one) => one.depth % 2 === 0)
    .map(({ loop }) => ({
      outer: anticlockwise(loop),
      holes: placed.filter((p) => p.depth % 2 === 1 && p.parent?.loop === loop).map((p) => anticlockwise(p.loop)),
    }));
}

/** A form run round anticlockwise, its pieces' names with it. */
function anticlockwise(loop: Loop): Loop {
  const { form, curves } = loop;
  if (form.kind === 'circle' || polygonArea(flattenForm(form, FLAT_MM)) > 0) return loop;
  return { ...loop, form: reverseForm(form), curves: curves && [...curves].reverse() };
}
