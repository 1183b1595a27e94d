import { isDraft } from 'immer';
import type { Id, Observation, Part, Path, Sketch } from '../schema/sketch';

export { ROLES } from '../schema/bounds';
export type { PickRecord } from '../schema/define';
export type {
  CircleCurve,
  Constraint,
  Curve,
  Dimension,
  Expression,
  Figure,
  Id,
  Maker,
  Observation,
  OpenCurve,
  Parameter,
  Part,
  Path,
  PlaneName,
  Ref,
  Role,
  Sketch,
  Use,
  Variant,
} from '../schema/sketch';
export type { BodyCheck, Does, EdgeName, FaceName, Feature, Material } from '../schema/solid';

/** On a turned part: on its silhouette, or the rim of an end, and not on a plane. */
export const TURNED = 'turned';

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
    worn: {},
  };
}

export function newPart(): Part {
  return {
    sketches: { [MAIN_SKETCH]: newSketch(MAIN_SKETCH, 'Sketch', null) },
    order: [MAIN_SKETCH],
    layers: [],
    parameters: [],
    variants: [],
    variant: null,
    passedOver: [],
    features: [],
    material: null,
    bodyChecks: [],
    bodyFactor: null,
  };
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
  const path = sketch?.paths[pathId];
  return sketch && path && { sketch, path };
}

/** What was seen of a point or a pick; undefined for a point that was only fitted, and for none. */
export function observationIn(sketch: Sketch, id: Id): Observation | undefined {
  if (Object.hasOwn(sketch.picks, id)) return sketch.picks[id];
  const at = Object.hasOwn(sketch.points, id) ? sketch.points[id]?.at : undefined;
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
  sketchesOf(part).reduce((sum, s) => sum + sizeOf(s.points) + sizeOf(s.picks), 0);

const sizes = new WeakMap<object, number>();

/** How many things a record holds: counted once, as long as it is the same record. */
function sizeOf(record: object): number {
  if (isDraft(record)) return Object.keys(record).length;
  const size = sizes.get(record) ?? Object.keys(record).length;
  sizes.set(record, size);
  return size;
}
