import type { Form, Vec2 } from '../geometry';
import {
  type EvaluatedPart,
  type Expression,
  type Feature,
  type Id,
  lengthOf,
  type Part,
  type Placing,
} from '../sketch';
import { readFormula } from '../units';
import { cavityOf } from './cavity';
import { halfProfile, type ProfileAxis } from './halfProfile';
import type { BodyPlan, BodyStep, ExtrudeStep, FeatureNote, Hole } from './plan';
import { boundsOfRegions, loopsOf, mapRegions, pathsOfFeature, regionsOfPaths, type Told, teller } from './profiles';
import type { Region } from './region';
import {
  AXES_OF_SIDE,
  type Axis,
  type Box,
  boxOf,
  type Frame,
  frameOf,
  inSpace,
  normalOf,
  type SideName,
} from './space';

/** From which side a sketch is seen, and how far its plane lies off the part's own zero, mm. */
export interface SketchSide {
  side: SideName;
  offsetMm: number;
}

export interface PlanInput {
  /** Formulas worked out. */
  part: Part;
  evaluated: Pick<EvaluatedPart, 'paths'>;
  placing: Placing;
  sideOf(sketch: Id): SketchSide;
}

/** How far lengths of views may differ before it is told, mm. */
const SAME_LENGTH_MM = 0.05;
const NOTHING_MM = 1e-6;

interface State {
  input: PlanInput;
  /** Round everything that was added so far; null before the first. */
  box: Box | null;
  /** The side that the first feature's sketch is seen from. */
  base: SideName | null;
  notes: FeatureNote[];
  /** Steps so far. */
  steps: BodyStep[];
}

/**
 * What the features of a part come to: one step each, in plain figures. One that cannot be made is told and left out.
 *
 * Order and frames: `space.ts`; heights count from the sketch's plane towards whoever looks at it.
 */
export function planBody(input: PlanInput): BodyPlan {
  const faults: BodyPlan['faults'] = [];
  const state: State = { input, box: null, base: null, notes: [], steps: [] };
  for (const feature of input.part.features) {
    const step = stepOf(feature, state, teller(feature.id, faults));
    if (!step) continue;
    state.steps.push(step);
    const grown = step.does === 'add' ? boxOfStep(step) : null;
    if (grown) state.box = state.box ? boxOf([state.box.min, state.box.max, grown.min, grown.max]) : grown;
    if ('sketch' in feature) state.base ??= input.sideOf(feature.sketch).side;
  }
  return { steps: state.steps, faults, notes: state.notes };
}

function stepOf(feature: Feature, state: State, tell: Told): BodyStep | null {
  switch (feature.kind) {
    case 'extrude':
      return extrudeOf(feature, state, tell);
    case 'revolve':
      return revolveOf(feature, state, tell);
    case 'marks':
      return marksOf(feature, state, tell);
    case 'holes':
      return holesOf(feature, state, tell);
    case 'edges': {
      const sizeMm = thickness(feature.size, tell);
      const { id, does, how, which } = feature;
      return sizeMm === null ? null : { kind: 'edges', id, does, how, sizeMm, which };
    }
    case 'hollow':
      return hollowOf(feature, state, tell);
    case 'repeat':
      return repeatOf(feature, state, tell);
  }
}

/** A length that must be more than nothing. */
function thickness(expression: Expression, tell: Told): number | null {
  const mm = lengthOf(expression);
  if (mm === null) tell('no-length', expression.text);
  else if (mm < NOTHING_MM) tell('no-thickness');
  return mm !== null && mm >= NOTHING_MM ? mm : null;
}

/** A place on an axis: zero and less are allowed. */
function length({ text, unit }: Expression, tell: Told): number | null {
  const read = readFormula(text, unit, () => null);
  if (!read.ok) tell('no-length', text);
  return read.ok ? read.mm : null;
}

const frameOfSketch = ({ sideOf }: PlanInput, sketch: Id): Frame => {
  const { side, offsetMm } = sideOf(sketch);
  return frameOf(side, offsetMm);
};

function extrudeOf(feature: Extract<Feature, { kind: 'extrude' }>, state: State, tell: Told): BodyStep | null {
  const { input } = state;
  const { found, gone } = pathsOfFeature(feature, input.evaluated, input.part.sketches);
  if (gone || found.length === 0) {
    tell('nothing-to-go-by');
    if (found.length === 0) return null;
  }
  const wallMm = feature.wall && thickness(feature.wall, tell);
  if (feature.wall && wallMm === null) return null;
  const regions = regionsOfPaths(found, wallMm, tell);
  if (regions.length === 0) return null;
  const heights = feature.heights && { from: length(feature.heights.from, tell), to: length(feature.heights.to, tell) };
  if (heights && (heights.from === null || heights.to === null)) return null;
  if (heights && Math.abs(heights.to! - heights.from!) < NOTHING_MM) {
    tell('no-thickness');
    return null;
  }
  if (!heights && !state.box) {
    tell('no-body');
    return null;
  }
  return {
    kind: 'extrude',
    id: feature.id,
    does: feature.does,
    frame: frameOfSketch(input, feature.sketch),
    regions: laidOut(feature, regions, state),
    heights: heights && {
      fromMm: Math.min(heights.from!, heights.to!),
      toMm: Math.max(heights.from!, heights.to!),
    },
    draftRad: (feature.draft * Math.PI) / 180,
    inside: null,
  };
}

/** Places of a view nearer than this to its end belong to the edge that it ends with, mm: it may be drawn a little slanted. */
const END_MM = 0.3;

/** A view of another side than the first one's, laid against the body there is, and made as long as it where that holds. */
function laidOut(feature: Extract<Feature, { kind: 'extrude' }>, regions: Region[], state: State): Region[] {
  const { side } = state.input.sideOf(feature.sketch);
  const { by, length: holds } = feature.laid;
  const bounds = boundsOfRegions(regions);
  if (!state.box || !state.base || side === state.base || !bounds || by === 'drawn') return regions;
  const axes = AXES_OF_SIDE[side];
  let moved = regions;
  for (const own of ['x', 'y'] as const) {
    const axis: Axis = axes[own];
    const [low, high] = [state.box.min[axis], state.box.max[axis]];
    const [min, max] = [bounds.min[own], bounds.max[own]];
    // Upwards the body is usually left taller than any view cuts it: there only the lower ends meet.
    if (axis === 'z') {
      moved = mapRegions(moved, (p) => ({ ...p, [own]: p[own] + low - min }));
      continue;
    }
    const longer = max - min - (high - low);
    if (Math.abs(longer) > SAME_LENGTH_MM)
      state.notes.push({ feature: feature.id, kind: 'longer', along: axis, mm: longer });
    if (holds === 'own') {
      const at = by === 'low' ? low - min : by === 'high' ? high - max : (low + high - min - max) / 2;
      moved = mapRegions(moved, (p) => ({ ...p, [own]: p[own] + at }));
      continue;
    }
    // Both ends are brought to the body's, the edges there by their innermost place: they cut nothing off it.
    const places = regions.flatMap((r) => placesOf(r.outer.form)).map((p) => p[own]);
    const atLow = low - Math.max(...places.filter((v) => v <= min + END_MM));
    const atHigh = high - Math.min(...places.filter((v) => v >= max - END_MM));
    const middle = (min + max) / 2;
    moved = mapRegions(moved, (p) => ({ ...p, [own]: p[own] + (p[own] > middle ? atHigh : atLow) }));
  }
  return moved;
}

/** Places that say where a form lies; of a circle those farthest along X and Y. */
const placesOf = (form: Form): Vec2[] =>
  form.kind === 'circle'
    ? [-1, 1].map((k) => ({ x: form.centre.x + k * form.radius, y: form.centre.y + k * form.radius }))
    : form.segments.map((s) => s.from);

function revolveOf(feature: Extract<Feature, { kind: 'revolve' }>, state: State, tell: Told): BodyStep | null {
  const { input, notes } = state;
  const own = input.evaluated.paths.find((p) => p.path.id === feature.path);
  const loops = own ? loopsOf(own) : [];
  const axis = axisOf(feature, input);
  if (!own || loops.length === 0 || !axis) {
    tell('nothing-to-go-by', own?.path.name);
    return null;
  }
  const regions: Region[] = [];
  for (const { form, curves } of loops) {
    const half = halfProfile(form, axis);
    if (!half.ok) {
      tell(half.reason, own.path.name);
      return null;
    }
    if (half.closed) notes.push({ feature: feature.id, kind: 'closed-on-axis' });
    if (half.unlikeMm !== null) notes.push({ feature: feature.id, kind: 'halves-averaged', unlikeMm: half.unlikeMm });
    regions.push({
      outer: {
        path: feature.path,
        form: half.form,
        curves: curves && half.from.map((k) => (k === null ? null : (curves[k] ?? null))),
      },
      holes: [],
    });
  }
  return {
    kind: 'revolve',
    id: feature.id,
    does: feature.does,
    frame: frameOfSketch(input, feature.sketch),
    regions,
    axis,
    angleRad: (feature.degrees * Math.PI) / 180,
  };
}

function axisOf({ axis, path }: Extract<Feature, { kind: 'revolve' }>, input: PlanInput): ProfileAxis | null {
  const { evaluated, placing } = input;
  if (axis !== null) {
    const form = evaluated.paths.find((p) => p.path.id === axis)?.form;
    if (form?.kind !== 'chain' || form.segments.length === 0) return null;
    const [a, b] = [form.segments[0]!.from, form.segments[form.segments.length - 1]!.to];
    const long = Math.hypot(b.x - a.x, b.y - a.y);
    return long < NOTHING_MM ? null : { at: a, along: { x: (b.x - a.x) / long, y: (b.y - a.y) / long } };
  }
  const sketch = evaluated.paths.find((p) => p.path.id === path)?.sketch;
  const seen = sketch && Object.values(sketch.points).flatMap(({ at }) => (at.kind === 'observed' ? [at.picture] : []));
  const turned = seen?.[0] === undefined ? null : placing.get(seen[0])?.turned;
  if (!turned) return null;
  const { x, y, dx, dy } = turned.axis;
  const long = Math.hypot(dx, dy);
  return { at: { x, y }, along: { x: dx / long, y: dy / long } };
}

/** Marks stand on what the last extrusion of their own side made, or are sunk into it. */
function marksOf(feature: Extract<Feature, { kind: 'marks' }>, state: State, tell: Told): BodyStep | null {
  const { input } = state;
  const { side } = input.sideOf(feature.sketch);
  const ground = state.steps.findLast(
    (s): s is ExtrudeStep =>
      s.kind === 'extrude' && s.does === 'add' && s.heights !== null && isSameWay(s.frame, frameOf(side, 0)),
  );
  const byMm = thickness(feature.by, tell);
  const widthMm = thickness(feature.width, tell);
  if (byMm === null || widthMm === null) return null;
  if (!ground?.heights) {
    tell('no-body');
    return null;
  }
  const { found } = pathsOfFeature(feature, input.evaluated, input.part.sketches);
  if (found.length === 0) {
    tell('nothing-to-go-by');
    return null;
  }
  const isOpen = ({ form, made }: (typeof found)[number]) => !made && form?.kind === 'chain' && !form.closed;
  const regions = [
    ...regionsOfPaths(
      found.filter((p) => !isOpen(p)),
      null,
      tell,
    ),
    ...regionsOfPaths(found.filter(isOpen), widthMm, tell),
  ];
  if (regions.length === 0) return null;
  const top = ground.heights.toMm;
  const raised = feature.does === 'add';
  return {
    kind: 'extrude',
    id: feature.id,
    does: raised ? 'add' : 'cut',
    frame: ground.frame,
    regions,
    heights: raised ? { fromMm: top, toMm: top + byMm } : { fromMm: top - byMm, toMm: top },
    draftRad: 0,
    inside: ground.regions,
  };
}

const isSameWay = (a: Frame, b: Frame): boolean => {
  const [n, m] = [normalOf(a), normalOf(b)];
  return Math.abs(n.x - m.x) + Math.abs(n.y - m.y) + Math.abs(n.z - m.z) < 1e-9;
};

function holesOf(feature: Extract<Feature, { kind: 'holes' }>, state: State, tell: Told): BodyStep | null {
  const { input } = state;
  const { found, gone } = pathsOfFeature(feature, input.evaluated, input.part.sketches);
  if (gone) tell('nothing-to-go-by');
  const diameterMm = feature.diameter && thickness(feature.diameter, tell);
  const depthMm = feature.depth && thickness(feature.depth, tell);
  if ((feature.diameter && diameterMm === null) || (feature.depth && depthMm === null)) return null;
  const head = headOf(feature.head, tell);
  if (!head) return null;
  const holes = found.flatMap((one): Hole[] =>
    loopsOf(one).flatMap(({ form }) =>
      form.kind === 'circle'
        ? [{ path: one.path.id, centre: form.centre, diameterMm: diameterMm ?? 2 * form.radius }]
        : [],
    ),
  );
  if (holes.length === 0) {
    tell('nothing-to-go-by');
    return null;
  }
  if (head.kind !== 'none' && holes.some((h) => h.diameterMm >= head.diameterMm)) {
    tell('too-large');
    return null;
  }
  const { id, does, from } = feature;
  return { kind: 'holes', id, does, frame: frameOfSketch(input, feature.sketch), holes, depthMm, from, head };
}

type Head = Extract<BodyStep, { kind: 'holes' }>['head'];

function headOf(head: Extract<Feature, { kind: 'holes' }>['head'], tell: Told): Head | null {
  if (head.kind === 'none') return head;
  const diameterMm = thickness(head.diameter, tell);
  if (diameterMm === null) return null;
  if (head.kind === 'countersink') return { kind: 'countersink', diameterMm, angleRad: (head.degrees * Math.PI) / 180 };
  const depthMm = thickness(head.depth, tell);
  return depthMm === null ? null : { kind: 'counterbore', diameterMm, depthMm };
}

function hollowOf(
  { id, does, wall, open }: Extract<Feature, { kind: 'hollow' }>,
  state: State,
  tell: Told,
): BodyStep | null {
  const wallMm = thickness(wall, tell);
  if (wallMm === null) return null;
  const [first, ...rest] = state.steps;
  const isOwn = open.every((f) => f.feature === first?.id);
  const base =
    isOwn && first?.kind === 'revolve' && rest.length === 0
      ? first
      : isOwn &&
          first?.kind === 'extrude' &&
          first.heights &&
          first.draftRad === 0 &&
          rest.every((s) => s.kind === 'edges')
        ? first
        : null;
  if (!base) return { kind: 'hollow', id, does, wallMm, open, cavity: null, base: null };
  const cavity = cavityOf(base, id, wallMm, open);
  if (cavity) return { kind: 'hollow', id, does, wallMm, open, cavity, base: base.kind === 'revolve' ? base : null };
  tell('too-large');
  return null;
}

function repeatOf(feature: Extract<Feature, { kind: 'repeat' }>, state: State, tell: Told): BodyStep | null {
  const { id, does, of, how } = feature;
  const known = of.filter((f) => state.steps.some((s) => s.id === f && s.kind !== 'edges' && s.kind !== 'hollow'));
  if (known.length < of.length) tell('nothing-to-go-by');
  if (known.length === 0) return null;
  const made = { kind: 'repeat' as const, id, does, of: known };
  if (how.kind === 'mirror') {
    const atMm = length(how.at, tell);
    return atMm === null ? null : { ...made, how: { kind: 'mirror', across: how.across, atMm } };
  }
  if (how.kind === 'row') {
    const stepMm = length(how.step, tell);
    return stepMm === null ? null : { ...made, how: { kind: 'row', along: how.along, stepMm, count: how.count } };
  }
  const form = state.input.evaluated.paths.find((p) => p.path.id === how.path)?.form;
  if (form?.kind !== 'circle') {
    tell('nothing-to-go-by');
    return null;
  }
  const frame = frameOfSketch(state.input, how.sketch);
  const step = Math.abs(how.degrees) >= 360 ? how.degrees / how.count : how.degrees;
  return {
    ...made,
    how: {
      kind: 'round',
      at: inSpace(frame, form.centre),
      about: normalOf(frame),
      count: how.count,
      stepRad: (step * Math.PI) / 180,
    },
  };
}

/** Round what a step adds, as far as plain figures tell; null where they do not. */
function boxOfStep(step: BodyStep): Box | null {
  if (step.kind === 'extrude' && step.heights) {
    const bounds = boundsOfRegions(step.regions);
    if (!bounds) return null;
    const { fromMm, toMm } = step.heights;
    return boxOf([inSpace(step.frame, bounds.min, fromMm), inSpace(step.frame, bounds.max, toMm)]);
  }
  if (step.kind === 'revolve') {
    const bounds = boundsOfRegions(step.regions);
    if (!bounds) return null;
    const { at, along } = step.axis;
    const away = (p: Vec2) => Math.abs(along.x * (p.y - at.y) - along.y * (p.x - at.x));
    const corners = [
      bounds.min,
      bounds.max,
      { x: bounds.min.x, y: bounds.max.y },
      { x: bounds.max.x, y: bounds.min.y },
    ];
    const reach = Math.max(...corners.map(away));
    const across = { x: -along.y * 2 * reach, y: along.x * 2 * reach };
    const all = corners.flatMap((c) => [-1, 1].map((s) => ({ x: c.x + s * across.x, y: c.y + s * across.y })));
    return boxOf(all.flatMap((c) => [-reach, reach].map((up) => inSpace(step.frame, c, up))));
  }
  return null;
}
