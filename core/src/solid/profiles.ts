import {
  between,
  type Form,
  formsBounds,
  isClosedForm,
  mapForm,
  nearestOn,
  offsetForm,
  pointAt,
  reverseForm,
  type Segment,
  segmentBounds,
  type Vec2,
  weldedForm,
} from '../geometry';
import { checkForms, type Flaw } from '../proof';
import {
  type EvaluatedPart,
  type EvaluatedPath,
  type Feature,
  type Id,
  lengthOf,
  type Part,
  type Sketch,
} from '../sketch';
import type { FaultPlace, FeatureFault, FeatureReason } from './plan';
import { type Loop, nestsOf, type Region, regionsOf } from './region';

export type Told = (reason: FeatureReason, detail?: string, where?: FaultPlace) => void;

/** Faults of one feature, gathered. */
export function teller(feature: Id, faults: FeatureFault[]): Told {
  return (reason, detail, where) => {
    faults.push({ feature, reason, detail: detail ?? null, ...(where && { where }) });
  };
}

/**
 * What is made of a path, or the path itself, where it truly lies; and the names of its pieces: of what was made those that lie on a
 * piece of the path, as the sides between rounded corners do.
 */
export function loopsOf({ path, form, made }: EvaluatedPath): { form: Form; curves: readonly (Id | null)[] | null }[] {
  const curves = path.uses.map((u) => u.curve);
  if (!made) return form ? [{ form, curves }] : [];
  const left =
    form?.kind === 'chain' ? form.segments.map((s, k) => ({ id: curves[k]!, s, box: segmentBounds(s) })) : [];
  return made.map((one) => ({
    form: one,
    curves: one.kind === 'circle' ? null : one.segments.map((s) => takeFrom(left, s)),
  }));
}

/** The name of the piece that a made one is part of; each is given once. */
function takeFrom(left: { id: Id; s: Segment; box: { min: Vec2; max: Vec2 } }[], made: Segment): Id | null {
  const places = [0, 0.5, 1].map((t) => pointAt(made, t));
  const k = left.findIndex(({ s, box: { min, max } }) =>
    places.every(
      (p) =>
        p.x > min.x - MEETS_MM &&
        p.x < max.x + MEETS_MM &&
        p.y > min.y - MEETS_MM &&
        p.y < max.y + MEETS_MM &&
        nearestOn(s, p).distance < MEETS_MM,
    ),
  );
  return k < 0 ? null : left.splice(k, 1)[0]!.id;
}

/** Ends nearer than this are one, mm. */
const MEETS_MM = 1e-6;

/** The paths that an extrusion goes by: those that are named, or all that are cut in its sketch. */
export function pathsOfFeature(
  { paths, sketch }: Pick<Extract<Feature, { kind: 'extrude' }>, 'paths' | 'sketch'>,
  evaluated: Pick<EvaluatedPart, 'paths'>,
  sketches: Readonly<Record<Id, Sketch>>,
): { found: EvaluatedPath[]; gone: boolean } {
  const own = new Set(sketches[sketch]?.order ?? []);
  const there = evaluated.paths.filter((p) => own.has(p.path.id));
  if (paths === null) return { found: there.filter((p) => p.path.role === 'cut'), gone: false };
  const found = there.filter((p) => paths.includes(p.path.id));
  return { found, gone: found.length < paths.length };
}

/**
 * The regions of a profile. An open path is told and left out; with `wallMm` each path becomes a wall of that thickness,
 * half of it on either side of an open one, inwards of a closed one.
 */
export function regionsOfPaths(found: readonly EvaluatedPath[], wallMm: number | null, tell: Told): Region[] {
  const loops: Loop[] = [];
  for (const one of found) {
    const { path } = one;
    const all = loopsOf(one);
    if (all.length === 0) tell('nothing-to-go-by', path.name);
    for (const { form, curves } of all) {
      if (wallMm !== null) {
        const walls = wallsOf(form, wallMm);
        if (!walls) tell('no-form', path.name);
        for (const wall of walls ?? []) loops.push({ path: path.id, form: wall, curves: null });
      } else if (isClosedForm(form)) loops.push({ path: path.id, form: weldedForm(form), curves });
      else tell('open-profile', path.name);
    }
  }
  const nameOf = (id: Id) => found.find((p) => p.path.id === id)?.path.name;
  const whereOf = ({ path, other, at }: Flaw): FaultPlace => {
    const [own, met] = [loops[Number(path)]!.path, loops[Number(other ?? path)]!.path];
    return { path: own, at, other: met === own ? null : met };
  };
  const clashes = checkForms(loops.map((l, k) => ({ id: String(k), forms: [l.form] })));
  const crossing = clashes.find((f) => f.kind === 'crosses-itself' || f.kind === 'crosses');
  if (crossing) {
    const where = whereOf(crossing);
    tell('crosses-itself', nameOf(where.path), where);
    return [];
  }
  // Regions that touch are bodies of their own; what touches within one leaves an edge that belongs to four sides.
  const nests = nestsOf(loops);
  const nestWith = (k: number) => nests.findIndex((n) => n.outer === k || n.holes.includes(k));
  const touch = clashes.find(
    (f) => f.kind === 'touches' && (f.other === null || nestWith(Number(f.path)) === nestWith(Number(f.other))),
  );
  if (touch) {
    const where = whereOf(touch);
    tell('touches', nameOf(where.path), where);
    return [];
  }
  return regionsOf(loops);
}

/** The regions of marks: closed ones as they are, open ones as lines of a width. */
export function regionsOfMarks(found: readonly EvaluatedPath[], widthMm: number, tell: Told): Region[] {
  const isOpen = ({ form, made }: EvaluatedPath) => !made && form !== null && !isClosedForm(form);
  return [
    ...regionsOfPaths(
      found.filter((p) => !isOpen(p)),
      null,
      tell,
    ),
    ...regionsOfPaths(found.filter(isOpen), widthMm, tell),
  ];
}

/** What will be refused of the marks that features raise or sink, told from their paths alone. */
export function markFaults(part: Part, evaluated: Pick<EvaluatedPart, 'paths'>): FeatureFault[] {
  const faults: FeatureFault[] = [];
  for (const feature of part.features) {
    if (feature.kind !== 'marks') continue;
    const widthMm = lengthOf(feature.width);
    if (widthMm === null || widthMm <= 0) continue;
    regionsOfMarks(pathsOfFeature(feature, evaluated, part.sketches).found, widthMm, teller(feature.id, faults));
  }
  return faults.filter((f) => f.where);
}

/** The outline of a wall along a form; null where there is none. */
function wallsOf(form: Form, wallMm: number): Form[] | null {
  if (isClosedForm(form)) {
    const inner = offsetForm(form, -wallMm);
    return inner.length > 0 ? [form, ...inner] : null;
  }
  const sides = [wallMm / 2, -wallMm / 2].map((by) => offsetForm(form, by));
  const [left, right] = sides.map((s) => (s.length === 1 && s[0]!.kind === 'chain' ? s[0]! : null));
  if (left?.kind !== 'chain' || right?.kind !== 'chain' || left.closed || right.closed) return null;
  const back = reverseForm(right) as typeof right;
  const join = (from: Vec2, to: Vec2): Segment[] => (between(from, to) > MEETS_MM ? [{ kind: 'line', from, to }] : []);
  const ends = (chain: typeof left) =>
    [chain.segments[0]!.from, chain.segments[chain.segments.length - 1]!.to] as const;
  const [a, b] = [ends(left), ends(back)];
  return [
    {
      kind: 'chain',
      closed: true,
      segments: [...left.segments, ...join(a[1], b[0]), ...back.segments, ...join(b[1], a[0])],
    },
  ];
}

/** Regions with each of their places taken elsewhere. */
export const mapRegions = (regions: readonly Region[], at: (p: Vec2) => Vec2): Region[] =>
  regions.map(({ outer, holes }) => ({
    outer: { ...outer, form: mapForm(outer.form, at) },
    holes: holes.map((hole) => ({ ...hole, form: mapForm(hole.form, at) })),
  }));

export const boundsOfRegions = (regions: readonly Region[]) => formsBounds(regions.map((r) => r.outer.form));
