import {
  breakPath as breakPathIn,
  decidedOf,
  decidedValue,
  dropPath,
  dropSizes,
  findPath,
  type Id,
  isSigned,
  joinAt,
  joinEnds as joinEndsIn,
  mergeSketch,
  movePicks,
  type Observation,
  observationIn,
  observedOf,
  pathsIn,
  picksOfCurve,
  pointsOfCurve,
  removePiece as removePieceIn,
  reversePath as reversePathIn,
  type Sketch,
  sketchesOf,
  sketchFor,
} from '../../sketch';
import type { JobDocument } from '../document/document';
import type { JobAction } from '../document/history';
import { viewAt } from '../document/viewOfPath';
import { onPath } from './pathActions';

/**
 * Brings paths in that were drafted as a sketch of their own (`putForm`), into the sketch of the view that they lie in;
 * `instead` are the paths that go for them.
 */
export function putPaths(label: string, drafted: Sketch, instead: readonly Id[] = []): JobAction {
  return {
    label,
    recipe(job) {
      const first = pathsIn(drafted).flatMap((p) => observedOf(drafted, p))[0];
      const seen = first === undefined ? null : (drafted.points[first]?.at ?? drafted.picks[first] ?? null);
      mergeSketch(sketchUnder(job, seen && 'uPx' in seen ? seen : null), drafted);
      drop(job, instead);
    },
  };
}

const sketchUnder = ({ pictures, part }: JobDocument, at: Observation | null): Sketch =>
  sketchFor(part, at && viewAt(pictures, at));

function drop({ part }: JobDocument, paths: readonly Id[]): void {
  for (const id of paths) {
    const found = findPath(part, id);
    if (found) dropPath(found.sketch, found.path);
  }
}

/** Takes several paths away. */
export const deletePaths = (paths: readonly Id[]): JobAction => ({
  label: paths.length === 1 ? 'delete a path' : `delete ${paths.length} paths`,
  recipe: (job) => drop(job, paths),
});

/** Points and picks that something of a sketch hangs on: a point, a curve, a path. */
function hangsOn(sketch: Sketch, id: Id): Id[] {
  const path = Object.hasOwn(sketch.paths, id) ? sketch.paths[id] : undefined;
  if (path) return path.uses.flatMap((use) => hangsOn(sketch, use.curve));
  const curve = Object.hasOwn(sketch.curves, id) ? sketch.curves[id] : undefined;
  return curve ? [...pointsOfCurve(curve), ...picksOfCurve(curve)] : [id];
}

/** What was decided of its place or its direction does not hold of what is put elsewhere. */
function dropSigned(sketch: Sketch, moves: Readonly<Record<Id, Observation>>): void {
  for (const d of Object.values(sketch.dimensions)) {
    const isMoved = hangsOn(sketch, d.refs[0]!.id).some((id) => Object.hasOwn(moves, id));
    if (isMoved && isSigned(d) && decidedOf(d)) delete sketch.dimensions[d.id];
  }
}

/** Puts what is chosen elsewhere, or turns or mirrors it. */
export const putElsewhere = (label: string, moves: Readonly<Record<Id, Observation>>): JobAction => ({
  label,
  recipe({ part }) {
    for (const sketch of sketchesOf(part)) dropSigned(sketch, moves);
    movePicks(part, moves);
  },
});

/**
 * Makes what is chosen larger or smaller: its places go where they are said to be, and sizes that were decided of nothing
 * else but them go with it.
 */
export const scalePicks = (moves: Readonly<Record<Id, Observation>>, factor: number): JobAction => ({
  label: 'scale what is chosen',
  recipe({ part }) {
    for (const sketch of sketchesOf(part)) {
      dropSigned(sketch, moves);
      for (const d of Object.values(sketch.dimensions)) {
        const mm = d.kind === 'angle' ? null : decidedValue(d);
        // The centre of a circle is told by its rim where nobody picked it.
        const isMoved = d.refs.every(({ id }) => {
          const own = hangsOn(sketch, id).filter((of) => observationIn(sketch, of));
          return own.length > 0 && own.every((of) => Object.hasOwn(moves, of));
        });
        if (mm === null || !isMoved || d.origin.kind !== 'decided') continue;
        d.origin.value = { text: String(Number((mm * factor).toFixed(6))), unit: 'mm' };
      }
    }
    movePicks(part, moves);
  },
});

/** Takes one piece out of a path, which opens there or falls in two. */
export const removePiece = (pathId: Id, curve: Id, rest: Id): JobAction =>
  onPath(pathId, 'take a piece out', (path, sketch, part) => removePieceIn(part, sketch, path, curve, rest));

/** Breaks a path at a point. */
export const breakPath = (pathId: Id, point: Id, own: { rest: Id; point: Id }): JobAction =>
  onPath(pathId, 'break a path', (path, sketch, part) => breakPathIn(part, sketch, path, point, own));

/** Runs a path the other way. */
export const reversePath = (pathId: Id): JobAction => onPath(pathId, 'run a path the other way', reversePathIn);

/** Brings two ends together in the middle between them. */
export const joinEnds = (keep: Id, gone: Id, path: Id): JobAction =>
  onPath(path, 'join two ends', (_, sketch) => joinEndsIn(sketch, keep, gone, path));

/** Draws an end on to another place; lengths that were decided of it no longer hold. */
export const extendTo = (pathId: Id, point: Id, at: Observation): JobAction =>
  onPath(pathId, 'draw an end on', (_, sketch, part) => {
    const { plane } = observationIn(sketch, point) ?? at;
    dropSizes(sketch, point);
    movePicks(part, { [point]: { ...at, plane } });
  });

/** Ends of open paths that meet in one point are one path, where there are two. */
export const joinWhereMet = (pathId: Id, point: Id): JobAction =>
  onPath(pathId, 'join two ends', (_, sketch) => joinAt(sketch, point, pathId));

/** Says of a piece that the thing is worn along it, or no longer. */
export const setWorn = (pathId: Id, curve: Id, worn: boolean): JobAction =>
  onPath(pathId, worn ? 'mark a piece as worn' : 'trust a piece again', (_, sketch) => {
    if (worn && sketch.curves[curve]) sketch.worn[curve] = true;
    else delete sketch.worn[curve];
  });

/** Puts paths on a layer of that name; null takes them off theirs. */
export const setLayer = (paths: readonly Id[], layer: string | null): JobAction => ({
  label: layer === null ? 'take off a layer' : 'put on a layer',
  recipe({ part }) {
    for (const id of paths) {
      const found = findPath(part, id);
      if (found) found.path.layer = layer;
    }
  },
});

/** Hides or locks what lies on a layer, or shows and unlocks it. */
export const changeLayer = (name: string, how: { hidden: boolean; locked: boolean }): JobAction => ({
  label: 'change a layer',
  recipe({ part }) {
    part.layers = part.layers.filter((l) => l.name !== name);
    if (how.hidden || how.locked) part.layers.push({ name, ...how });
  },
});
