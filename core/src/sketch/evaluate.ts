import type { PicturePoint, TurnedAxis } from '../calibration';
import type { Form, Vec2 } from '../geometry';
import { circleOf, formOf, type Placer } from './curveForm';
import { excerptOf } from './excerpt';
import { type MakerReason, makeForms, makersOf, type Own } from './maker/makeForms';
import { workedOut } from './parameter';
import {
  type Id,
  type Observation,
  observationIn,
  type Part,
  type Path,
  pathsIn,
  type Sketch,
  sketchesOf,
  TURNED,
} from './part';
import { boundPoints, settlePlaces } from './settle';
import { placedOnTurned } from './turnedForm';
import { picturesOfPath, planeOfPath, walkOf } from './walk';

/** Where the places of a picture lie in the part's frame, y up: in mm once it is true, in its own pixels before. */
export interface PicturePlacing {
  isTrue: boolean;
  /** On the plane named, or with null on the one that the board shows; null beyond the horizon. */
  place(at: PicturePoint, plane: string | null): Vec2 | null;
  /** The axis of a turned part and the lens over its plane; null without one. */
  turned: { axis: TurnedAxis; lens: ArrayLike<number> } | null;
}

/** By the picture's name. */
export type Placing = ReadonlyMap<string, PicturePlacing>;

export interface EvaluateOptions {
  /** Each path where it is on its own plane, or on its turned part, as it is handed over; not where it is seen. */
  truly: boolean;
  /** What is being dragged, where it is now; by its name. */
  draft: Readonly<Record<Id, Observation>> | null;
}

export interface EvaluatedPath {
  /** What the path is made of, cut out of its sketch. */
  sketch: Sketch;
  path: Path;
  /** mm, y up; null where it has no place, or is no form. */
  form: Form | null;
  /** What its makers make of it, which is cut or marked in its stead; null where it has none. */
  made: readonly Form[] | null;
}

/** What cannot be made as it was said, and where. */
export interface PartFault {
  sketch: Id;
  path: Id;
  /** What was to be made of the path; null where the path itself is at fault. */
  maker: Id | null;
  reason: 'no-place' | 'sizes-contradict' | MakerReason;
}

export interface EvaluatedPart {
  paths: readonly EvaluatedPath[];
  /** Where a point or a pick lies, mm, y up, fitted centres too. */
  placeOf(id: Id): Vec2 | null;
  faults: readonly PartFault[];
}

interface Kept {
  excerpt: Sketch | null;
  on: readonly (PicturePlacing | undefined)[];
  dragged: boolean;
  truly: boolean;
  made: EvaluatedPath;
  fault: PartFault | null;
  /** What its makers made of it, and of what: the same as long as those are. */
  making: { of: readonly unknown[]; path: EvaluatedPath; faults: PartFault[] } | null;
}

export interface Evaluator {
  /**
   * From what was seen and decided to the paths of the part: for the board, for figures, for files and for scripts
   * alike. It depends on its arguments alone. Only the paths of which something changed since the last time are worked
   * out again; a path of which nothing did keeps its identity, and so does the list.
   */
  evaluate(part: Part, placing: Placing, options: EvaluateOptions): EvaluatedPart;
  /**
   * Works ahead for `evaluate` until `isOut` says that the time is over: of a large part all of it at once would hold
   * up the screen. True when nothing is left to be worked out.
   */
  prepare(part: Part, placing: Placing, options: EvaluateOptions, isOut: () => boolean): boolean;
}

export function createEvaluator(): Evaluator {
  let kept = new Map<Id, Kept>();
  let last: EvaluatedPart | null = null;
  const prepare: Evaluator['prepare'] = (typed, placing, options, isOut) => {
    const part = workedOut(typed);
    for (const sketch of sketchesOf(part))
      for (const path of pathsIn(sketch)) {
        if (isOut()) return false;
        kept.set(path.id, evaluateKept(kept.get(path.id), sketch, path, placing, options));
      }
    return true;
  };
  const evaluate: Evaluator['evaluate'] = (typed, placing, options) => {
    const part = workedOut(typed);
    const next = new Map<Id, Kept>();
    for (const sketch of sketchesOf(part))
      for (const path of pathsIn(sketch))
        next.set(path.id, evaluateKept(kept.get(path.id), sketch, path, placing, options));
    makeAll(part, next);
    const all = [...next.values()];
    const paths = all.map((k) => k.making?.path ?? k.made);
    const faults = all.flatMap((k) => [...(k.fault ? [k.fault] : []), ...(k.making?.faults ?? [])]);
    kept = next;
    const same = last && last.paths.length === paths.length && paths.every((p, k) => p === last?.paths[k]);
    const evaluated: EvaluatedPart = {
      paths: same && last ? last.paths : paths,
      faults,
      placeOf: (id) => placeOfId(part, placing, options, id),
    };
    last = evaluated;
    return evaluated;
  };
  return { evaluate, prepare };
}

/** As `createEvaluator`, once. */
export const evaluatePart = (part: Part, placing: Placing, options: EvaluateOptions): EvaluatedPart =>
  createEvaluator().evaluate(part, placing, options);

/** Has the makers of all paths make their part, where something changed since they last did. */
function makeAll(part: Part, all: Map<Id, Kept>): void {
  const formOf = (id: Id): Form | null => all.get(id)?.made.form ?? null;
  for (const sketch of sketchesOf(part)) {
    const making = new Set<Id>();
    for (const id in sketch.makers) making.add(sketch.makers[id]!.path);
    for (const id of sketch.order) {
      const own = all.get(id);
      if (!own) continue;
      if (!making.has(id) || !own.made.form) {
        own.making = null;
        continue;
      }
      const makers = makersOf(sketch.makers, id);
      const of = [own.made, ...makers, ...makers.map((m) => ('about' in m ? formOf(m.about) : null))];
      const was = own.making?.of;
      if (was && was.length === of.length && was.every((v, k) => v === of[k])) continue;
      const { forms, faults } = makeForms(own.made.form, makers, formOf, ownOf(own.made));
      own.making = {
        of,
        path: { ...own.made, made: forms },
        faults: faults.map((f) => ({ sketch: sketch.id, path: id, ...f })),
      };
    }
  }
}

/** Where the points of an evaluated path lie, by its form; and the names of its curves. */
function ownOf({ sketch, path, form }: EvaluatedPath): Own {
  const segments = form?.kind === 'chain' ? form.segments : [];
  const points = walkOf(sketch, path)?.points ?? [];
  return {
    placeOf: (id) => {
      const k = points.indexOf(id);
      return k < 0 ? null : (segments[k]?.from ?? segments[k - 1]?.to ?? null);
    },
    curves: path.uses.map((u) => u.curve),
  };
}

function evaluateKept(
  before: Kept | undefined,
  sketch: Sketch,
  path: Path,
  placing: Placing,
  { truly, draft }: EvaluateOptions,
): Kept {
  const excerpt = excerptOf(sketch, path);
  const on = excerpt ? picturesIn(excerpt, path).map((id) => placing.get(id)) : [];
  const dragged = excerpt !== null && draft !== null && isTouched(excerpt, draft);
  if (
    before &&
    !dragged &&
    !before.dragged &&
    before.made.path === path &&
    before.excerpt === excerpt &&
    before.truly === truly &&
    before.on.length === on.length &&
    before.on.every((p, k) => p === on[k])
  )
    return before;
  const { form, contradicts } = excerpt
    ? evaluatePath(excerpt, path, placing, { truly, draft })
    : { form: null, contradicts: false };
  const reason = contradicts ? 'sizes-contradict' : form ? null : 'no-place';
  return {
    excerpt,
    on,
    dragged,
    truly,
    made: { sketch: excerpt ?? sketch, path, form, made: null },
    fault: reason && { sketch: sketch.id, path: path.id, maker: null, reason },
    making: before?.making ?? null,
  };
}

const pictures = new WeakMap<Sketch, readonly string[]>();

function picturesIn(excerpt: Sketch, path: Path): readonly string[] {
  const known = pictures.get(excerpt) ?? picturesOfPath(excerpt, path);
  pictures.set(excerpt, known);
  return known;
}

function isTouched({ points, picks }: Sketch, draft: Readonly<Record<Id, Observation>>): boolean {
  for (const id in draft) if (Object.hasOwn(points, id) || Object.hasOwn(picks, id)) return true;
  return false;
}

function evaluatePath(
  sketch: Sketch,
  path: Path,
  placing: Placing,
  { truly, draft }: EvaluateOptions,
): { form: Form | null; contradicts: boolean } {
  const seen = seenIn(sketch, placing, truly, draft);
  const on = picturesIn(sketch, path);
  const isTrue = on.every((id) => placing.get(id)?.isTrue);
  // A silhouette is seen from one lens: a path over several pictures is left as it lies.
  const turned = truly && on.length === 1 && planeOfPath(sketch, path) === TURNED ? placing.get(on[0]!)?.turned : null;
  if (turned) {
    const place = placedOnTurned(sketch, path, seen, turned.axis, turned.lens);
    return { form: formOf(sketch, path, place, isTrue), contradicts: false };
  }
  const settled = isTrue ? settledIn(sketch, seen) : { place: seen, contradicts: false };
  return { form: formOf(sketch, path, settled.place, isTrue), contradicts: settled.contradicts };
}

function seenIn(
  sketch: Sketch,
  placing: Placing,
  truly: boolean,
  draft: Readonly<Record<Id, Observation>> | null,
): Placer {
  return (id) => {
    const at = (draft && Object.hasOwn(draft, id) ? draft[id] : undefined) ?? observationIn(sketch, id);
    return at ? (placing.get(at.picture)?.place(at, truly ? at.plane : null) ?? null) : null;
  };
}

/** Places with decided distances kept; those that contradict each other are left as they are seen. */
function settledIn(sketch: Sketch, seen: Placer): { place: Placer; contradicts: boolean } {
  const bound = boundPoints(sketch);
  if (bound.size === 0) return { place: seen, contradicts: false };
  const places = new Map<Id, Vec2>();
  let contradicts = false;
  for (const one of new Set(bound.values())) {
    const settled = settlePlaces(one, seen);
    if (settled) for (const [id, at] of settled) places.set(id, at);
    else contradicts = true;
  }
  return { place: (id) => places.get(id) ?? seen(id), contradicts };
}

function placeOfId(part: Part, placing: Placing, { truly, draft }: EvaluateOptions, id: Id): Vec2 | null {
  for (const sketch of sketchesOf(part)) {
    const seen = seenIn(sketch, placing, truly, draft);
    if (Object.hasOwn(sketch.picks, id)) return seen(id);
    if (!Object.hasOwn(sketch.points, id)) continue;
    const at = observationIn(sketch, id);
    if (!at) return centreOf(sketch, id, seen);
    const bound = placing.get(at.picture)?.isTrue ? boundPoints(sketch).get(id) : undefined;
    return (bound && settlePlaces(bound, seen)?.get(id)) ?? seen(id);
  }
  return null;
}

/** Of a fitted point: the centre of the circle that it is the centre of. */
function centreOf(sketch: Sketch, id: Id, seen: Placer): Vec2 | null {
  for (const curve of Object.values(sketch.curves))
    if (curve.kind === 'circle' && curve.centre === id) return circleOf(sketch, curve, seen, false)?.centre ?? null;
  return null;
}
