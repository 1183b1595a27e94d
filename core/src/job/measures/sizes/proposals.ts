import type { Calibration, Figure, PartFrame } from '../../../calibration';
import {
  type Constraint,
  type Curve,
  type Dimension,
  decidedDiameter,
  dimensionValue,
  type Id,
  type Placer,
  pathsIn,
  type Sketch,
  walkOf,
} from '../../../sketch';
import type { CalibrationRecord } from '../../document/document';
import { isByFrame, missOf, type SketchMeasure, sketchMeasure } from './measureSizes';
import { DISCS, HOLES, type MadeTo, madeTo } from './standardSizes';
import { axesIn, symmetricTrios } from './symmetricTrios';

/** A diameter with a smaller ±, mm, is held by others already. */
const HELD_MM = 1e-5;

/** Something that the form seems to mean: a relation, or a size that it was made to. */
export type Proposal = {
  /** The same as long as it is of the same things. */
  key: string;
  /** Points, curves and paths that it is about. */
  ids: readonly Id[];
} & (
  | { kind: 'relation'; constraint: Constraint /** The farthest that it is from holding, mm. */; miss: Figure }
  | { kind: 'size'; dimension: Dimension; seen: Figure; madeTo: MadeTo }
);

/** How near in its own ± (two sigma) a relation must be to hold: three sigma. */
const NEAR = 1.5;
/** What is known less well than to this, rad, is no direction; and, mm, no equality. */
const SURE_RAD = 0.02;
const SURE_MM = 0.35;
/** So many candidates of a kind are looked at. */
const MOST_LOOKED_AT = 400;

/**
 * What the form of a sketch seems to mean, where the measurement allows it and is fine enough to tell: nothing of it is
 * taken unless somebody takes it. Relations that hold already are left out.
 */
export function proposalsFor(
  sketch: Sketch,
  calibration: Calibration,
  said: CalibrationRecord,
  unit: 'mm' | 'in',
  frame: PartFrame | null,
  newId: () => Id,
): Proposal[] {
  const ref = (id: Id) => ({ sketch: sketch.id, id });
  const curves = pathsIn(sketch)
    .filter((p) => p.role !== 'reference' && p.role !== 'centre-line')
    .flatMap((p) => walkOf(sketch, p)?.pieces.map((piece) => piece.curve) ?? []);
  const measure = sketchMeasure(
    sketch,
    calibration,
    said,
    [...curves.map((c) => c.id), ...axesIn(sketch)].map(ref),
    true,
    frame,
  );
  if (!measure) return [];
  const looked = lookAt(sketch, measure, newId);
  const lines = curves.filter((c) => c.kind === 'line').slice(0, MOST_LOOKED_AT);
  const straight = lines.flatMap((line) => looked('level', [line.id]) ?? looked('plumb', [line.id]) ?? []);
  const isStraight = new Set(straight.flatMap((p) => p.ids));
  for (const c of Object.values(sketch.constraints))
    if (c.kind === 'level' || c.kind === 'plumb') for (const r of c.refs) isStraight.add(r.id);
  const joints = jointsOf(sketch).slice(0, MOST_LOOKED_AT);
  const corners = joints.flatMap(([a, b]) => {
    if (a.kind === 'line' && b.kind === 'line')
      return isStraight.has(a.id) && isStraight.has(b.id) ? [] : (looked('square', [a.id, b.id]) ?? []);
    return looked(a.kind === 'cubic' || b.kind === 'cubic' ? 'smooth' : 'tangent', [a.id, b.id]) ?? [];
  });
  // Lines with a rounded corner between them are neighbours as well.
  const rounded = beyondArcs(sketch)
    .slice(0, MOST_LOOKED_AT)
    .flatMap(([a, b]) => (isStraight.has(a) && isStraight.has(b) ? [] : (looked('square', [a, b]) ?? [])));
  const parallels = parallelPairs(sketch, lines, isStraight).flatMap(([a, b]) => looked('parallel', [a, b]) ?? []);
  const circles = curves.filter((c) => c.kind === 'circle');
  const arcs = curves.filter((c) => c.kind === 'arc');
  const groups = [...equalGroups(sketch, circles, measure), ...equalGroups(sketch, arcs, measure)];
  const equals = groups.flatMap((ids) => looked('equal', ids) ?? []);
  const concentric = centrePairs(sketch, [...circles, ...arcs], measure).flatMap(
    (ids) => looked('concentric', ids) ?? [],
  );
  const spread = groups
    .filter((ids) => ids.length > 2 && ids.every((id) => sketch.curves[id]?.kind === 'circle'))
    .flatMap((ids) => {
      const round = circles.flatMap((c) => (ids.includes(c.id) ? [] : (looked('around', [c.id, ...ids]) ?? [])));
      return round.length > 0 ? round.slice(0, 1) : (looked('even', inRow(sketch, ids, measure)) ?? []);
    });
  const symmetric = symmetricTrios(sketch, curves, measure).flatMap((ids) => looked('symmetric', ids) ?? []);
  return [
    ...straight,
    ...corners,
    ...rounded,
    ...parallels,
    ...equals,
    ...concentric,
    ...spread,
    ...symmetric,
    ...sizes(sketch, circles, measure, unit, newId),
  ];
}

type Look = (kind: Constraint['kind'], ids: readonly Id[]) => Proposal[] | null;

/** Looks whether a relation holds as well as it was measured; null where it does not. */
const lookAt =
  (sketch: Sketch, measure: SketchMeasure, newId: () => Id): Look =>
  (kind, ids) => {
    if (ids.length === 0) return null;
    const constraint: Constraint = {
      id: newId(),
      kind,
      count: null,
      refs: ids.map((id) => ({ sketch: sketch.id, id })),
    };
    const misses = missOf(sketch, constraint, measure);
    if (!misses || misses.length === 0) return null;
    // It holds to rounding: something holds it already, and nothing is left to be said. No measurement comes out so.
    if (misses.every((m) => Math.abs(m.value) < HOLDS_MM)) return null;
    const isNear = misses.every((m) => Math.abs(m.value) <= NEAR * m.plusMinus);
    // Figures that are poorly known are possibly equal, whatever they are: likely are those that are nearly so.
    if (kind === 'equal' && misses.some((m) => Math.abs(m.value) > nearlyEqual(sketch, ids, measure))) return null;
    const reach =
      kind === 'level' ||
      kind === 'plumb' ||
      kind === 'square' ||
      kind === 'parallel' ||
      kind === 'tangent' ||
      kind === 'smooth'
        ? SURE_RAD * Math.max(...ids.map((id) => lengthOf(sketch, id, measure)))
        : SURE_MM;
    const isSure = misses.every((m) => m.plusMinus <= reach);
    if (!isNear || !isSure) return null;
    const miss = misses.reduce((a, b) => (Math.abs(b.value) > Math.abs(a.value) ? b : a));
    return [{ key: `${kind} ${[...ids].sort().join(' ')}`, ids, kind: 'relation', constraint, miss }];
  };

/** What two radii or lengths may differ by and still be likely to be meant alike, mm and as a share of them. */
const ALIKE = { mm: 0.05, share: 0.005 } as const;
const HOLDS_MM = 1e-6;

function nearlyEqual(sketch: Sketch, ids: readonly Id[], measure: SketchMeasure): number {
  const [first] = ids;
  const isRound = sketch.curves[first!]?.kind !== 'line';
  const radius = isRound ? figureOf(sketch, size(sketch, 'r', 'radius', [first!]), measure)?.value : undefined;
  return Math.max(ALIKE.mm, ALIKE.share * (radius ?? lengthOf(sketch, first!, measure)));
}

const size = (sketch: Sketch, id: Id, kind: Dimension['kind'], ids: readonly Id[]): Dimension => ({
  id,
  kind,
  refs: ids.map((of) => ({ sketch: sketch.id, id: of })),
  along: 'straight',
  label: null,
  origin: { kind: 'measured' },
});

function figureOf(sketch: Sketch, dimension: Dimension, measure: SketchMeasure): Figure | null {
  const value = (place: Placer) => dimensionValue(sketch, dimension, place) ?? Number.POSITIVE_INFINITY;
  const found = measure.figure(dimension.refs, value, isByFrame(dimension));
  return found && Number.isFinite(found.value) ? found : null;
}

function lengthOf(sketch: Sketch, id: Id, measure: SketchMeasure): number {
  const curve = sketch.curves[id];
  if (!curve || curve.kind === 'circle') return 1;
  return figureOf(sketch, size(sketch, 'l', 'distance', [curve.from, curve.to]), measure)?.value ?? 1;
}

/** Neighbours that meet at a point, of the same path, one of them a line where both are straight. */
function jointsOf(sketch: Sketch): [Curve, Curve][] {
  return pathsIn(sketch).flatMap((path): [Curve, Curve][] => {
    const pieces = walkOf(sketch, path)?.pieces ?? [];
    if (path.role === 'reference' || path.role === 'centre-line' || pieces.length < 2) return [];
    const pairs = pieces.slice(1).map((p, k): [Curve, Curve] => [pieces[k]!.curve, p.curve]);
    if (path.closed && pieces.length > 2) pairs.push([pieces[pieces.length - 1]!.curve, pieces[0]!.curve]);
    return pairs;
  });
}

/** Lines with one arc between them. */
const beyondArcs = (sketch: Sketch): [Id, Id][] =>
  pathsIn(sketch).flatMap((path): [Id, Id][] => {
    const pieces = (walkOf(sketch, path)?.pieces ?? []).map((p) => p.curve);
    const nth = (k: number) => (path.closed ? pieces[k % pieces.length] : pieces[k]);
    if (path.role === 'reference' || path.role === 'centre-line') return [];
    return pieces.flatMap((a, k): [Id, Id][] => {
      const [arc, b] = [nth(k + 1), nth(k + 2)];
      return a.kind === 'line' && arc?.kind === 'arc' && b?.kind === 'line' && a !== b ? [[a.id, b.id]] : [];
    });
  });

/** Lines that are neither level nor plumb, each with the one before it in direction. */
function parallelPairs(sketch: Sketch, lines: readonly Curve[], straight: ReadonlySet<Id>): [Id, Id][] {
  const slanted = lines.flatMap((c) => {
    if (c.kind !== 'line' || straight.has(c.id)) return [];
    const [a, b] = [sketch.points[c.from]?.at, sketch.points[c.to]?.at];
    if (a?.kind !== 'observed' || b?.kind !== 'observed') return [];
    const angle = Math.atan2(b.vPx - a.vPx, b.uPx - a.uPx);
    return [{ id: c.id, ends: [c.from, c.to], angle: angle < 0 ? angle + Math.PI : angle }];
  });
  slanted.sort((a, b) => a.angle - b.angle);
  return slanted.slice(1).flatMap((l, k): [Id, Id][] => {
    const before = slanted[k]!;
    return before.ends.some((e) => l.ends.includes(e)) ? [] : [[before.id, l.id]];
  });
}

/** Circles or arcs whose radii do not differ more than they are known; in groups of two and more. */
function equalGroups(sketch: Sketch, round: readonly Curve[], measure: SketchMeasure): Id[][] {
  const sized = round.slice(0, MOST_LOOKED_AT).flatMap((c) => {
    const radius = figureOf(sketch, size(sketch, 'r', 'radius', [c.id]), measure);
    return radius && radius.plusMinus < SURE_MM ? [{ id: c.id, radius }] : [];
  });
  sized.sort((a, b) => a.radius.value - b.radius.value);
  const groups: (typeof sized)[] = [];
  for (const one of sized) {
    const group = groups.at(-1);
    const first = group?.[0];
    const apart = first ? one.radius.value - first.radius.value : Number.POSITIVE_INFINITY;
    const sure = first ? Math.hypot(one.radius.plusMinus, first.radius.plusMinus) : 0;
    if (group && apart <= NEAR * sure) group.push(one);
    else groups.push([one]);
  }
  return groups.filter((g) => g.length > 1).map((g) => g.map((o) => o.id));
}

/** Circles and arcs whose centres lie within reach of each other. */
function centrePairs(sketch: Sketch, round: readonly Curve[], measure: SketchMeasure): Id[][] {
  const all = round.slice(0, 60);
  const pairs: Id[][] = [];
  all.forEach((a, i) => {
    for (const b of all.slice(i + 1)) {
      const value = figureOf(sketch, size(sketch, 'd', 'distance', [a.id, b.id]), measure);
      if (value && value.value <= SURE_MM * 2 && value.value <= NEAR * value.plusMinus) pairs.push([a.id, b.id]);
    }
  });
  return pairs;
}

/** Circles in the order in which they follow each other from the farthest pair's one end. */
function inRow(sketch: Sketch, ids: readonly Id[], measure: SketchMeasure): Id[] {
  const from = (a: Id, b: Id) => figureOf(sketch, size(sketch, 'd', 'distance', [a, b]), measure)?.value ?? 0;
  const [first] = ids;
  const end = ids.reduce((best, id) => (from(first!, id) > from(first!, best) ? id : best), first!);
  return [...ids].sort((a, b) => (a === end ? 0 : from(end, a)) - (b === end ? 0 : from(end, b)));
}

/** Sizes that circles may have been made to. */
function sizes(
  sketch: Sketch,
  circles: readonly Curve[],
  measure: SketchMeasure,
  unit: 'mm' | 'in',
  newId: () => Id,
): Proposal[] {
  const outer = new Set(
    pathsIn(sketch).flatMap((p) => (p.role === 'cut' && p === pathsIn(sketch)[0] ? p.uses.map((u) => u.curve) : [])),
  );
  return circles.slice(0, MOST_LOOKED_AT).flatMap((circle): Proposal[] => {
    if (decidedDiameter(sketch, circle.id)) return [];
    const dimension = size(sketch, newId(), 'diameter', [circle.id]);
    const seen = figureOf(sketch, dimension, measure);
    if (!seen || seen.plusMinus < HELD_MM) return [];
    return madeTo(seen.value, seen.plusMinus, outer.has(circle.id) ? DISCS : HOLES, unit).map((made) => ({
      key: `${made.what} ${made.mm} ${circle.id}`,
      ids: [circle.id],
      kind: 'size',
      dimension,
      seen,
      madeTo: made,
    }));
  });
}
