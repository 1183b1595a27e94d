import type { Vec2 } from '../../geometry';
import { circleOf, type Placer } from '../curveForm';
import { copiesOf, isSigned } from '../expression';
import type { Constraint, Curve, Dimension, Id, Sketch } from '../part';
import { picksOfCurve, pointsOfCurve } from '../walk';
import { clustersOf } from './clusters';
import { askedAlone, dimensionValue, unknownsAlone } from './dimensionValue';
import { equationsOf } from './equations';
import { settleCluster } from './settleSketch';

/** Kinds of relations that may fit what is chosen, in the order in which they are offered. */
const KINDS: readonly Constraint['kind'][] = [
  'level',
  'plumb',
  'square',
  'parallel',
  'tangent',
  'smooth',
  'equal',
  'concentric',
  'on',
  'middle',
  'symmetric',
  'even',
  'around',
  'fixed',
];

const curveIn = (sketch: Sketch, id: Id): Curve | undefined =>
  Object.hasOwn(sketch.curves, id) ? sketch.curves[id] : undefined;

/** What is named, with that which relations name last (what others lie on, the line of symmetry) put last. */
function inOrder(sketch: Sketch, kind: Constraint['kind'], ids: readonly Id[]): readonly Id[] {
  const kindOf = (id: Id) => curveIn(sketch, id)?.kind ?? 'point';
  if (kind === 'symmetric' && ids.length === 3) {
    const odd = ids.filter((id) => kindOf(id) === 'line' && ids.filter((o) => kindOf(o) === 'line').length === 1);
    return odd.length === 1 ? [...ids.filter((id) => id !== odd[0]), odd[0]!] : ids;
  }
  if (kind === 'on' || kind === 'middle') {
    const carriers = ids.filter((id) => kindOf(id) !== 'point');
    const isOne = carriers.length === 1 || (kind === 'on' && carriers.length === ids.length);
    return isOne && carriers.length < ids.length ? [...ids.filter((id) => !carriers.includes(id)), ...carriers] : ids;
  }
  return ids;
}

/** Relations that would say something of what is chosen, points and curves by their names. */
export function constraintsFor(sketch: Sketch, ids: readonly Id[], place: Placer, id: Id): Constraint[] {
  const ref = (of: Id) => ({ sketch: sketch.id, id: of });
  const isCurve = (of: Id) => curveIn(sketch, of) !== undefined;
  const hasCubic = ids.some((of) => curveIn(sketch, of)?.kind === 'cubic');
  return KINDS.flatMap((kind) => {
    if (ids.length === 0 || (kind === 'tangent' && hasCubic) || (kind === 'smooth' && !hasCubic)) return [];
    // What is equal or parallel is said of two and more.
    const count = kind === 'around' ? copiesAbout(sketch, ids[0]!) : null;
    const own: Constraint = { id, kind, refs: inOrder(sketch, kind, ids).map(ref), count };
    if (kind === 'fixed') {
      const canBe = ids.every((of) => isCurve(of) || Object.hasOwn(sketch.points, of));
      return canBe && !ids.every((of) => isHeld(sketch, of)) ? [own] : [];
    }
    const unknowns = unknownsAlone(sketch, askedAlone(sketch, own.refs), place);
    const made = unknowns && equationsOf(sketch, unknowns, own);
    return made?.ok && made.equations.length > 0 && !isSaid(sketch, own) ? [own] : [];
  });
}

/** How many copies are made round a circle: what is said of two ends there is said of neighbours. Null where none are. */
function copiesAbout({ makers, paths }: Sketch, circle: Id): number | null {
  for (const m of Object.values(makers))
    if (m.kind === 'round' && m.turn === null && paths[m.about]?.uses.some((u) => u.curve === circle))
      return copiesOf(m.count);
  return null;
}

/** Something that was said before, in whatever order. */
const isSaid = ({ constraints }: Sketch, { kind, refs }: Constraint): boolean =>
  Object.values(constraints).some(
    (c) => c.kind === kind && c.refs.length === refs.length && refs.every((r) => c.refs.some((o) => o.id === r.id)),
  );

const isHeld = ({ constraints }: Sketch, id: Id): boolean =>
  Object.values(constraints).some((c) => c.kind === 'fixed' && c.refs.some((r) => r.id === id));

/** Sizes that what is chosen has. */
export function dimensionsFor(sketch: Sketch, ids: readonly Id[], place: Placer, id: Id): Dimension[] {
  const [first, second] = ids;
  if (first === undefined || ids.length > 2) return [];
  const size = (kind: Dimension['kind'], refs: readonly Id[], along: Dimension['along'] = 'straight'): Dimension => ({
    id,
    kind,
    refs: refs.map((of) => ({ sketch: sketch.id, id: of })),
    along,
    label: null,
    origin: { kind: 'measured' },
  });
  const curve = curveIn(sketch, first);
  const all: Dimension[] = [];
  const between = (a: Id, b: Id) => (['straight', 'x', 'y'] as const).map((along) => size('distance', [a, b], along));
  if (second === undefined) {
    if (curve?.kind === 'line') all.push(...between(curve.from, curve.to), size('angle', [first]));
    if (curve?.kind === 'circle') all.push(size('diameter', [first]), size('radius', [first]));
    if (curve?.kind === 'arc') all.push(size('radius', [first]), size('arc-length', [first]), size('angle', [first]));
    if (curve?.kind === 'circle' || Object.hasOwn(sketch.points, first))
      all.push(size('distance', [first], 'x'), size('distance', [first], 'y'));
    if (Object.hasOwn(sketch.paths, first))
      all.push(size('width', [first]), size('height', [first]), size('path-length', [first]));
  } else {
    const lines = ids.filter((of) => curveIn(sketch, of)?.kind === 'line');
    const angle = lines.length === 2 ? (dimensionValue(sketch, size('angle', ids), place) ?? 0) : 0;
    // Lines side by side have a distance, others an angle.
    if (lines.length === 2) all.push(size(Math.abs(Math.sin(angle)) < ASIDE_RAD ? 'distance' : 'angle', ids));
    else if (lines.length === 1) all.push(size('distance', ids));
    else if (
      ids.every((of) => Object.hasOwn(sketch.points, of) || /^(?:circle|arc)$/.test(curveIn(sketch, of)?.kind ?? ''))
    )
      all.push(...between(first, second));
  }
  return all.filter((d) => {
    const value = dimensionValue(sketch, d, place);
    return value !== null && (isSigned(d) || value > LEAST_SIZE);
  });
}

/** Lines that stand no farther to each other are taken as side by side, rad. */
const ASIDE_RAD = 0.1;

/** What is smaller, mm or rad, is no size. */
const LEAST_SIZE = 1e-3;

/** What taking a relation or a size up would do. */
export type Trial =
  | {
      ok: true /** Points and bends that move by more than rounding, and the farthest, mm. */;
      moved: number;
      mostMm: number;
    }
  | { ok: false };

const MOVES_MM = 1e-6;

/** Tries a condition: what it would move from where things lie now. */
export function tryCondition(sketch: Sketch, condition: Constraint | Dimension, seen: Placer, now: Placer): Trial {
  const isSize = 'origin' in condition;
  const tried: Sketch = {
    ...sketch,
    curves: { ...sketch.curves },
    dimensions: isSize ? { ...sketch.dimensions, [condition.id]: condition } : sketch.dimensions,
    constraints: isSize ? sketch.constraints : { ...sketch.constraints, [condition.id]: condition },
  };
  const cluster = clustersOf(tried).all.find((c) => c.conditions.includes(condition));
  if (!cluster) return { ok: true, moved: 0, mostMm: 0 };
  const settled = settleCluster(tried, cluster, seen);
  if (!settled.ok || settled.lost.some((l) => l.condition === condition.id)) return { ok: false };
  let [moved, mostMm] = [0, 0];
  const rims = new Set(
    cluster.shapes.flatMap((id) => (sketch.curves[id]!.kind === 'circle' ? picksOfCurve(sketch.curves[id]!) : [])),
  );
  const isMoved = (id: Id): boolean => {
    const [was, at] = [now(id), settled.places.get(id)];
    return was !== null && at !== undefined && Math.hypot(at.x - was.x, at.y - was.y) > MOVES_MM;
  };
  for (const [id, at] of settled.places) {
    const was = now(id);
    if (Object.hasOwn(sketch.points, id) && isMoved(id)) moved += 1;
    // An arc's own place is told in its middle, wherever it was picked.
    if (was && (Object.hasOwn(sketch.points, id) || rims.has(id)))
      mostMm = Math.max(mostMm, Math.hypot(at.x - was.x, at.y - was.y));
  }
  // What only grows moves no point.
  for (const id of cluster.shapes) {
    const curve = sketch.curves[id]!;
    const far = picksOfCurve(curve).map((p) => {
      const [was, at] = [now(p), settled.places.get(p)];
      return was && at ? Math.hypot(at.x - was.x, at.y - was.y) : 0;
    });
    if (curve.kind === 'circle' && Math.max(0, ...far) > MOVES_MM && !pointsOfCurve(curve).some(isMoved)) moved += 1;
  }
  return { ok: true, moved, mostMm };
}

/** A relation that fits what is chosen, and what it would do. */
export interface Offer {
  constraint: Constraint;
  trial: Trial;
}

/** What moves a point by more than this share of the whole would turn the part over, and is not meant. */
const FAR_SHARE = 0.25;

/**
 * Relations that fit what is chosen, each tried. In: where everything was seen, mm. As much work as settling the part once
 * for each of them: for a worker.
 */
export function offersFor(sketch: Sketch, ids: readonly Id[], seen: Placer): Offer[] {
  const places = new Map<Id, Vec2>();
  for (const cluster of clustersOf(sketch).all) {
    const settled = settleCluster(sketch, cluster, seen);
    if (settled.ok) for (const [id, at] of settled.places) places.set(id, at);
  }
  // A centre that nothing holds lies where its rim has it.
  const place: Placer = (id) => places.get(id) ?? seen(id) ?? centreOf(sketch, id, seen);
  const all = Object.keys(sketch.points).flatMap((id) => place(id) ?? []);
  const span = (of: readonly number[]) => Math.max(...of) - Math.min(...of);
  const extent =
    all.length < 2 ? Number.POSITIVE_INFINITY : Math.max(span(all.map((p) => p.x)), span(all.map((p) => p.y)), 1);
  return constraintsFor(sketch, ids, place, 'offered')
    .map((constraint) => ({ constraint, trial: tryCondition(sketch, constraint, seen, place) }))
    .filter(({ trial }) => !trial.ok || trial.mostMm < FAR_SHARE * extent);
}

function centreOf(sketch: Sketch, id: Id, place: Placer): Vec2 | null {
  const circle = Object.values(sketch.curves).find((c) => c.kind === 'circle' && c.centre === id);
  return circle?.kind === 'circle' ? (circleOf(sketch, circle, place, true)?.centre ?? null) : null;
}
