import {
  addCircleAbout as addCircleAboutIn,
  addCircle as addCircleIn,
  addMaker as addMakerIn,
  type Bend,
  bend as bendIn,
  changeMaker as changeMakerIn,
  closePath as closePathIn,
  type Dimension,
  decideDiameter as decideDiameterIn,
  decideDistance as decideDistanceIn,
  deletePoint as deletePointIn,
  dropMaker as dropMakerIn,
  dropPath,
  type Expression,
  extendPath as extendPathIn,
  findPath,
  freeSize as freeSizeIn,
  type Id,
  insertPoint as insertPointIn,
  joinAt,
  mergePoints,
  movePicks as movePicksIn,
  type NewMaker,
  type NewPath,
  type NewPick,
  type NewPoint,
  nameByForm,
  type Observation,
  openPath as openPathIn,
  type Part,
  type Path,
  type PlaneName,
  pathsIn,
  type Role,
  type Sketch,
  setPlane,
  sketchesOf,
  sketchFor,
  startPath as startPathIn,
  TURNED,
} from '../../sketch';
import type { JobDocument } from '../document/document';
import type { JobAction } from '../document/history';
import { viewAt } from '../document/viewOfPath';

/** Begins a path with its first line; an end of nothing seen is the point of that name that is there already. */
export function startPath(path: NewPath, ends: [NewPoint, NewPoint], curve: Id): JobAction {
  return {
    label: 'begin a path',
    recipe(job) {
      const [a, b] = ends.map((end) => onTurnedPart(job, end)) as [NewPoint, NewPoint];
      startPathIn(job.part, sketchAt(job, a.at ?? b.at), path, [a, b], curve);
    },
  };
}

/** What is first traced in the picture of a turned part lies on that part, and not on a plane. */
function onTurnedPart({ pictures }: JobDocument, { id, at }: NewPoint): NewPoint {
  const picture = at && pictures.find((p) => p.id === at.picture);
  return at && picture?.calibration.turned && at.plane === 'face' ? { id, at: { ...at, plane: TURNED } } : { id, at };
}

/** The sketch that something new lies in: that of the view in which it was seen. */
const sketchAt = ({ pictures, part }: JobDocument, at: Observation | null): Sketch =>
  sketchFor(part, at && viewAt(pictures, at));

/** Draws a line on from one end of an open path. */
export const extendPath = (pathId: Id, end: 'head' | 'tail', next: NewPoint, curve: Id): JobAction =>
  onPath(pathId, 'draw a line', (path, sketch) => extendPathIn(sketch, path, end, next, curve));

/** Closes a path with a line, where its ends do not lie in one place already. */
export const closePath = (pathId: Id, curve: Id, isBent = false): JobAction =>
  onPath(pathId, 'close the path', (path, sketch, part) => closePathIn(part, sketch, path, curve, isBent));

/** Opens a closed path by taking its last piece away. */
export const openPath = (pathId: Id): JobAction =>
  onPath(pathId, 'open the path', (path, sketch) => openPathIn(sketch, path));

/** A circle through three places on its rim. */
export function addCircle(path: NewPath, own: { curve: Id; centre: Id }, rim: readonly NewPick[]): JobAction {
  return {
    label: 'draw a circle',
    recipe: (job) => addCircleIn(sketchAt(job, rim[0]?.at ?? null), path, own, rim),
  };
}

/** A circle about a place, as wide as was typed. */
export function addCircleAbout(
  path: NewPath,
  own: { curve: Id; size: Id },
  centre: NewPoint,
  wide: Expression,
): JobAction {
  return {
    label: 'draw a circle',
    recipe(job) {
      const sketch = sketchAt(job, centre.at);
      addCircleAboutIn(sketch, path, own.curve, centre);
      decideDiameterIn(sketch, own.size, own.curve, wide);
    },
  };
}

/** A size as it was typed while something was drawn. */
export interface DecidedSize extends Pick<Dimension, 'id' | 'kind' | 'along'> {
  /** Points and curves of the path's sketch that it is of. */
  of: readonly Id[];
  value: Expression;
}

/** Decides sizes of what a path is made of. */
export const decideSizes = (pathId: Id, sizes: readonly DecidedSize[]): JobAction =>
  onPath(pathId, 'decide sizes', (_, sketch) => {
    for (const { id, kind, along, of, value } of sizes) {
      const refs = of.map((one) => ({ sketch: sketch.id, id: one }));
      sketch.dimensions[id] = { id, kind, along, refs, label: null, origin: { kind: 'decided', value, why: '' } };
    }
  });

/** Says anew where points and picks are seen; together, so that a circle or a curve's handles move as one. */
export const movePicks = (label: string, moves: Record<Id, Observation>): JobAction => ({
  label,
  recipe: ({ part }) => movePicksIn(part, moves),
});

/** Makes a piece a line, an arc or a curve. */
export function bend(curve: Id, how: Bend): JobAction {
  return {
    label: { line: 'straighten a piece', arc: 'bow into an arc', cubic: 'bow into a curve' }[how.kind],
    recipe({ part }) {
      const sketch = sketchesOf(part).find((s) => Object.hasOwn(s.curves, curve));
      if (!sketch) return;
      bendIn(sketch, curve, how);
      const path = pathsIn(sketch).find((p) => p.uses.some((u) => u.curve === curve));
      if (path) nameByForm(part, sketch, path);
    },
  };
}

/** Puts a point into a piece, which becomes two. */
export const insertPoint = (pathId: Id, curve: Id, at: NewPoint, second: Id, bends: readonly [Bend, Bend]): JobAction =>
  onPath(pathId, 'insert a point', (path, sketch) => insertPointIn(sketch, path, curve, at, second, bends));

/** Takes a point out of a path; its neighbours are joined by a line. A path without a piece left goes as well. */
export const deletePoint = (pathId: Id, point: Id): JobAction =>
  onPath(pathId, 'delete a point', (path, sketch) => deletePointIn(sketch, path, point));

export const deletePath = (pathId: Id): JobAction =>
  onPath(pathId, 'delete a path', (path, sketch) => dropPath(sketch, path));

export const changePath = (pathId: Id, change: { name?: string; role?: Role }): JobAction =>
  onPath(pathId, change.role ? 'say what a path is for' : 'name a path', (path) => void Object.assign(path, change));

/** Says which plane a path was traced on. */
export const setPathPlane = (pathId: Id, plane: PlaneName): JobAction =>
  onPath(pathId, 'set the height of a path', (path, sketch) => setPlane(sketch, path, plane));

/** Makes two points one, and one path of two that both end there: `path` keeps its name. */
export function joinPoints(keep: Id, gone: Id, path: Id): JobAction {
  return {
    label: 'join two ends',
    recipe({ part }) {
      const sketch = sketchesOf(part).find((s) => Object.hasOwn(s.points, keep) && Object.hasOwn(s.points, gone));
      if (sketch && mergePoints(sketch, keep, gone)) joinAt(sketch, keep, path);
    },
  };
}

/** Decides how far two points of a path lie apart: it stays so through every new calibration. */
export const decideDistance = (pathId: Id, size: Id, points: readonly [Id, Id], value: Expression): JobAction =>
  onPath(pathId, 'say how long a piece is', (_, sketch) => decideDistanceIn(sketch, size, points, value));

/** Decides how wide a circle is. */
export const decideDiameter = (pathId: Id, size: Id, curve: Id, value: Expression): JobAction =>
  onPath(pathId, 'say how wide a circle is', (_, sketch) => decideDiameterIn(sketch, size, curve, value));

/** Lets a size be measured again. */
export const freeSize = (pathId: Id, size: Id): JobAction =>
  onPath(pathId, 'measure a size again', (_, sketch) => freeSizeIn(sketch, size));

export function onPath(pathId: Id, label: string, change: (path: Path, sketch: Sketch, part: Part) => void): JobAction {
  return {
    label,
    recipe({ part }) {
      const found = findPath(part, pathId);
      if (found) change(found.path, found.sketch, part);
    },
  };
}

/** Adds what is made of a path, after what is made of it already. */
export const addMaker = (maker: NewMaker): JobAction =>
  onPath(maker.path, 'make something of a path', (_, sketch) => addMakerIn(sketch, maker));

export const changeMaker = (maker: NewMaker): JobAction =>
  onPath(maker.path, 'change what is made of a path', (_, sketch) => changeMakerIn(sketch, maker));

export const dropMaker = (pathId: Id, maker: Id): JobAction =>
  onPath(pathId, 'make something no longer', (_, sketch) => dropMakerIn(sketch, maker));
