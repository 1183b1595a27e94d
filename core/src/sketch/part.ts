import type { PicturePoint } from '../calibration';
import type { LengthUnit } from '../units';

/** Name of a thing in the part: unique over all its sketches, `[A-Za-z0-9_-]`. */
export type Id = string;

/** Where a pick lies in the original picture, px, with its scatter. */
export interface PickRecord {
  uPx: number;
  vPx: number;
  sigmaPx: number;
}

/** The table, the plane of references, the face that is traced, a step of a name of its own, or `TURNED`. */
export type PlaneName = string;

/** On a turned part: on its silhouette, or the rim of an end, and not on a plane. */
export const TURNED: PlaneName = 'turned';

/** What was traced, and what is made of it. */
export interface Part {
  sketches: Record<Id, Sketch>;
  /** Sketches in the order in which they are listed. */
  order: Id[];
}

/**
 * What lies in one plane of the part: points that curves share, curves, what was seen of them, and the paths that run
 * along them. Everything that can be pointed at has a name of its own, so that a reference outlives a change elsewhere;
 * records go by name, so that a change of one of them is a small patch.
 */
export interface Sketch {
  id: Id;
  name: string;
  /** The view of a picture that it was drawn in, with its side and offset; null outside all views. */
  frame: { view: Id | null };
  points: Record<Id, Point>;
  curves: Record<Id, Curve>;
  /** What was picked along curves and bends them: through points of arcs, handles, places on rims. */
  picks: Record<Id, Observation>;
  paths: Record<Id, Path>;
  /** Paths in the order in which they are listed. */
  order: Id[];
  dimensions: Record<Id, Dimension>;
  /** Relations between curves, of kinds that are still to come. */
  constraints: Record<Id, never>;
  /** Mirrors and copies, of kinds that are still to come. */
  placements: Record<Id, never>;
  /** What is made of paths after settling, of kinds that are still to come. */
  makers: Record<Id, never>;
}

/** Seen in a picture: a changed calibration carries it along. */
export interface Observation extends PickRecord {
  picture: string;
  plane: PlaneName;
  snappedTo: SnappedTo;
  /** The nearest other edge that ran along the one it snapped to; null where there was none. */
  neighbouringEdge: PicturePoint | null;
}

export type SnappedTo = 'edge' | 'line' | 'point' | 'free';

/** A point that curves share: seen in a picture, or fitted from its curve alone, as the centre of a hole is. */
export interface Point {
  at: Observed | { kind: 'fitted' };
}

export interface Observed extends Observation {
  kind: 'observed';
}

/** What a picture says of a curve: picks along it, by their names in the sketch. */
export interface Evidence {
  edge: 'pick';
  picks: Id[];
}

interface CurveOf {
  id: Id;
  evidence: Evidence[];
}

export interface LineCurve extends CurveOf {
  kind: 'line';
  from: Id;
  to: Id;
}

/** A circular arc through the pick of its evidence. */
export interface ArcCurve extends CurveOf {
  kind: 'arc';
  from: Id;
  to: Id;
}

/** A cubic Bézier whose handles are the two picks of its evidence, that of `from` first. */
export interface CubicCurve extends CurveOf {
  kind: 'cubic';
  from: Id;
  to: Id;
}

/** Through the three rim picks of its evidence, its centre fitted; or about a centre that was picked, as wide as was decided. */
export interface CircleCurve extends CurveOf {
  kind: 'circle';
  centre: Id;
}

export type Curve = LineCurve | ArcCurve | CubicCurve | CircleCurve;
/** A curve with two ends. */
export type OpenCurve = Exclude<Curve, CircleCurve>;

/** Curves end to end; along it the part is cut, marked, or measured. */
export interface Path {
  id: Id;
  name: string;
  role: Role;
  layer: string | null;
  uses: Use[];
  closed: boolean;
}

/** A curve on a path, run along from its `from` to its `to` or the other way. */
export interface Use {
  curve: Id;
  reversed: boolean;
}

export const ROLES = ['cut', 'mark', 'fold', 'drill', 'reference', 'centre-line'] as const;
export type Role = (typeof ROLES)[number];

/** Never a joined string, never a place in a list. */
export interface Ref {
  sketch: Id;
  id: Id;
}

/** What somebody typed for a length, read again whenever it is needed; bare figures count in `unit`. */
export interface Expression {
  text: string;
  unit: LengthUnit;
}

/** A size that was decided, not measured: it stays what was typed through every new calibration. */
export interface Dimension {
  id: Id;
  /** Between two points; or across a circle. */
  kind: 'distance' | 'diameter';
  refs: Ref[];
  origin: 'decided';
  value: Expression;
}

/** The sketch that every part has: what was drawn outside all views. */
export const MAIN_SKETCH: Id = 'sketch';

/** Name of the sketch that a view's paths lie in. */
export const sketchOfView = (view: Id | null): Id => (view === null ? MAIN_SKETCH : `${MAIN_SKETCH}-${view}`);

export function newSketch(id: Id, name: string, view: Id | null): Sketch {
  return {
    id,
    name,
    frame: { view },
    points: {},
    curves: {},
    picks: {},
    paths: {},
    order: [],
    dimensions: {},
    constraints: {},
    placements: {},
    makers: {},
  };
}

export function newPart(): Part {
  return { sketches: { [MAIN_SKETCH]: newSketch(MAIN_SKETCH, 'Sketch', null) }, order: [MAIN_SKETCH] };
}

/** All sketches in their order. */
export const sketchesOf = ({ sketches, order }: Part): Sketch[] =>
  order.flatMap((id) => (sketches[id] ? [sketches[id]] : []));

/** All paths in the order in which they are listed. */
export const pathsOf = (part: Part): Path[] => sketchesOf(part).flatMap(pathsIn);

export const pathsIn = ({ paths, order }: Sketch): Path[] => order.flatMap((id) => (paths[id] ? [paths[id]] : []));

/** The sketch that a path lies in; undefined for none. */
export function sketchWith(part: Part, pathId: Id): Sketch | undefined {
  for (const id of part.order) {
    const sketch = part.sketches[id];
    if (sketch && Object.hasOwn(sketch.paths, pathId)) return sketch;
  }
  return undefined;
}

/** A path with its sketch; undefined for none. */
export function findPath(part: Part, pathId: Id): { sketch: Sketch; path: Path } | undefined {
  const sketch = sketchWith(part, pathId);
  return sketch && { sketch, path: sketch.paths[pathId] };
}

/** What was seen of a point or a pick; undefined for a point that was only fitted, and for none. */
export function observationIn(sketch: Sketch, id: Id): Observation | undefined {
  if (Object.hasOwn(sketch.picks, id)) return sketch.picks[id];
  const at = Object.hasOwn(sketch.points, id) ? sketch.points[id].at : undefined;
  return at?.kind === 'observed' ? at : undefined;
}

/** As `observationIn`, over all sketches. */
export function observationOf(part: Part, id: Id): Observation | undefined {
  for (const sketchId of part.order) {
    const sketch = part.sketches[sketchId];
    const found = sketch && observationIn(sketch, id);
    if (found) return found;
  }
  return undefined;
}

/** How many points and picks a part holds. */
export const countOf = (part: Part): number =>
  sketchesOf(part).reduce((sum, s) => sum + Object.keys(s.points).length + Object.keys(s.picks).length, 0);
