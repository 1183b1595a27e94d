import type { Form, Vec2 } from '../geometry';
import { circleOf, formOf, type Placer } from './curveForm';
import { excerptOf } from './excerpt';
import { type MakerReason, makeForms, makersOf, type Own } from './maker/makeForms';
import { workedOut } from './parameter';
import { type Id, type Observation, type Part, type Path, pathsIn, type Sketch, sketchesOf, TURNED } from './part';
import { type EvaluateOptions, type PicturePlacing, type Placing, seenIn } from './placing';
import { createSettler, type LongSettling, type SettledSketch } from './settle/settledSketch';
import type { SettledPlaces, UnsettledReason } from './settle/settleSketch';
import { placedOnTurned } from './turnedForm';
import { picturesOfPath, planeOfPath, walkOf } from './walk';

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
  reason: 'no-place' | 'sizes-contradict' | 'sizes-not-found' | MakerReason;
}

export interface EvaluatedPart {
  paths: readonly EvaluatedPath[];
  /** Where a point or a pick lies, mm, y up, fitted centres too. */
  placeOf(id: Id): Vec2 | null;
  /** What relations and decided sizes hold together, by the sketch's name. */
  settled: ReadonlyMap<Id, SettledSketch>;
  faults: readonly PartFault[];
}

interface Kept {
  excerpt: Sketch | null;
  on: readonly (PicturePlacing | undefined)[];
  /** What it is settled with. */
  settled: readonly unknown[];
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
  /** What of it takes long to be settled, and may be settled elsewhere before it is evaluated. */
  long(part: Part, placing: Placing, options: EvaluateOptions): LongSettling[];
  /** What was found of it elsewhere. */
  take(settling: LongSettling, result: SettledPlaces): void;
}

export function createEvaluator(): Evaluator {
  let kept = new Map<Id, Kept>();
  let last: EvaluatedPart | null = null;
  const settler = createSettler();
  const prepare: Evaluator['prepare'] = (typed, placing, options, isOut) => {
    const part = workedOut(typed);
    for (const sketch of sketchesOf(part)) {
      const settled = settler.settle(sketch, placing, options);
      for (const path of pathsIn(sketch)) {
        if (isOut()) return false;
        kept.set(path.id, evaluateKept(kept.get(path.id), sketch, path, settled, placing, options));
      }
    }
    return true;
  };
  const evaluate: Evaluator['evaluate'] = (typed, placing, options) => {
    const part = workedOut(typed);
    const next = new Map<Id, Kept>();
    const settled = new Map<Id, SettledSketch>();
    for (const sketch of sketchesOf(part)) {
      const own = settler.settle(sketch, placing, options);
      settled.set(sketch.id, own);
      for (const path of pathsIn(sketch))
        next.set(path.id, evaluateKept(kept.get(path.id), sketch, path, own, placing, options));
    }
    makeAll(part, next);
    const all = [...next.values()];
    const paths = all.map((k) => k.making?.path ?? k.made);
    const faults = all.flatMap((k) => [...(k.fault ? [k.fault] : []), ...(k.making?.faults ?? [])]);
    kept = next;
    const same = last && last.paths.length === paths.length && paths.every((p, k) => p === last?.paths[k]);
    const evaluated: EvaluatedPart = {
      paths: same && last ? last.paths : paths,
      faults,
      placeOf: (id) => placeOfId(part, placing, options, settled, id),
      settled,
    };
    last = evaluated;
    return evaluated;
  };
  const long: Evaluator['long'] = (typed, placing, options) =>
    sketchesOf(workedOut(typed)).flatMap((sketch) => settler.long(sketch, placing, options));
  return { evaluate, prepare, long, take: settler.take };
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
  settledSketch: SettledSketch,
  placing: Placing,
  options: EvaluateOptions,
): Kept {
  const { truly, draft } = options;
  const excerpt = excerptOf(sketch, path);
  const on = excerpt ? picturesIn(excerpt, path).map((id) => placing.get(id)) : [];
  const dragged = excerpt !== null && draft !== null && isTouched(excerpt, draft);
  const settled = excerpt ? settledSketch.with(path) : [];
  if (
    before &&
    !dragged &&
    !before.dragged &&
    before.made.path === path &&
    before.excerpt === excerpt &&
    before.truly === truly &&
    isSame(before.on, on) &&
    isSame(before.settled, settled)
  )
    return before;
  const form = excerpt ? evaluatePath(excerpt, path, settledSketch, placing, options) : null;
  const is = (why: UnsettledReason) => settled.some((s) => !s.ok && s.reason === why);
  const reason = is('contradicts')
    ? 'sizes-contradict'
    : is('not-found')
      ? 'sizes-not-found'
      : form
        ? null
        : 'no-place';
  return {
    excerpt,
    on,
    settled,
    dragged,
    truly,
    made: { sketch: excerpt ?? sketch, path, form, made: null },
    fault: reason && { sketch: sketch.id, path: path.id, maker: null, reason },
    making: before?.making ?? null,
  };
}

const isSame = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((v, k) => v === b[k]);

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
  settled: SettledSketch,
  placing: Placing,
  options: EvaluateOptions,
): Form | null {
  const on = picturesIn(sketch, path);
  const isTrue = on.every((id) => placing.get(id)?.isTrue);
  // A silhouette is seen from one lens: a path over several pictures is left as it lies.
  const turned =
    options.truly && on.length === 1 && planeOfPath(sketch, path) === TURNED ? placing.get(on[0]!)?.turned : null;
  if (turned) {
    const place = placedOnTurned(sketch, path, seenIn(sketch, placing, options), turned.axis, turned.lens);
    return formOf(sketch, path, place, isTrue);
  }
  return formOf(sketch, path, settled.place, isTrue);
}

function placeOfId(
  part: Part,
  placing: Placing,
  options: EvaluateOptions,
  settled: ReadonlyMap<Id, SettledSketch>,
  id: Id,
): Vec2 | null {
  for (const sketch of sketchesOf(part)) {
    const place = settled.get(sketch.id)?.place ?? seenIn(sketch, placing, options);
    if (Object.hasOwn(sketch.picks, id)) return place(id);
    if (!Object.hasOwn(sketch.points, id)) continue;
    return place(id) ?? centreOf(sketch, id, place);
  }
  return null;
}

/** Of a fitted point: the centre of the circle that it is the centre of. */
function centreOf(sketch: Sketch, id: Id, seen: Placer): Vec2 | null {
  for (const curve of Object.values(sketch.curves))
    if (curve.kind === 'circle' && curve.centre === id) return circleOf(sketch, curve, seen, false)?.centre ?? null;
  return null;
}
