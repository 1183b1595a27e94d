import { isDraft } from 'immer';
import type { Curve, Id, Observation, OpenCurve, Path, Sketch, Use } from './part';
import { observationIn } from './part';

/** A path as it is run along: the points that it passes, and the curves between them. */
export interface Walk {
  /** Piece k runs from point k to point k + 1; a closed path has one more, back to point 0. Of a circle its centre. */
  points: Id[];
  pieces: Piece[];
}

export interface Piece {
  curve: Curve;
  reversed: boolean;
}

const walked = new WeakMap<Path, { curves: Sketch['curves']; walk: Walk | null }>();

/** The walk along a path; null where a curve is missing. Kept as long as neither the path nor a curve changes. */
export function walkOf(sketch: Sketch, path: Path): Walk | null {
  // A draft changes and stays the same object.
  if (isDraft(sketch) || isDraft(path)) return walkAlong(sketch, path);
  const before = walked.get(path);
  if (before?.curves === sketch.curves) return before.walk;
  const { walk } = before ?? {};
  if (before && walk?.pieces.every(({ curve }) => sketch.curves[curve.id] === curve)) {
    before.curves = sketch.curves;
    return walk;
  }
  const made = walkAlong(sketch, path);
  walked.set(path, { curves: sketch.curves, walk: made });
  return made;
}

function walkAlong({ curves }: Sketch, path: Path): Walk | null {
  const pieces: Piece[] = [];
  const points: Id[] = [];
  for (const use of path.uses) {
    const curve = Object.hasOwn(curves, use.curve) ? curves[use.curve] : undefined;
    if (!curve) return null;
    pieces.push({ curve, reversed: use.reversed });
    points.push(curve.kind === 'circle' ? curve.centre : startOf(curve, use));
  }
  const last = pieces.at(-1);
  if (last && last.curve.kind !== 'circle' && !path.closed) points.push(endOf(last.curve, last));
  return { points, pieces };
}

export const startOf = ({ from, to }: OpenCurve, { reversed }: Pick<Use, 'reversed'>): Id => (reversed ? to : from);
export const endOf = ({ from, to }: OpenCurve, { reversed }: Pick<Use, 'reversed'>): Id => (reversed ? from : to);

export const isCircle = (sketch: Sketch, path: Path): boolean =>
  path.uses.length === 1 && sketch.curves[path.uses[0]!.curve]?.kind === 'circle';

/** Points that a curve hangs on: its ends, or its centre. */
export const pointsOfCurve = (curve: Curve): Id[] =>
  curve.kind === 'circle' ? [curve.centre] : [curve.from, curve.to];

/** What was picked along a curve and bends it. */
export const picksOfCurve = ({ evidence }: Curve): Id[] => evidence.flatMap((e) => e.picks);

/** Everything that was seen of a path: its points first, then what bends its curves; each once. */
export function observedOf(sketch: Sketch, path: Path): Id[] {
  const walk = walkOf(sketch, path);
  if (!walk) return [];
  const all = [...walk.points, ...walk.pieces.flatMap(({ curve }) => picksOfCurve(curve))];
  return [...new Set(all)].filter((id) => observationIn(sketch, id));
}

/** Everything that was seen of a path, by its names. */
export const observationsOf = (sketch: Sketch, path: Path): Observation[] =>
  observedOf(sketch, path).flatMap((id) => observationIn(sketch, id) ?? []);

/** The plane that a path was traced on. */
export const planeOfPath = (sketch: Sketch, path: Path): string => observationsOf(sketch, path)[0]?.plane ?? 'face';

/** Names of the pictures that a path was traced on. */
export const picturesOfPath = (sketch: Sketch, path: Path): string[] => [
  ...new Set(observationsOf(sketch, path).map((o) => o.picture)),
];
