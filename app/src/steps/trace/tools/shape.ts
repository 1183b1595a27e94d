import { type Circle, circleThrough, type Form, polygon, rectangle, slot, type Vec2 } from '@steady-moth/core/geometry';
import { addCircle, decideDistance, putPaths, together } from '@steady-moth/core/job';
import {
  type Expression,
  type Id,
  MAIN_SKETCH,
  type NewPick,
  newSketch,
  nextName,
  putForm,
  walkOf,
} from '@steady-moth/core/sketch';
import { derivedPick, seeingWith, seenAt, snapTargets } from '@steady-moth/core/tracing';
import { parseLength } from '@steady-moth/core/units';
import { inkOf } from '../../../board/inkOf';
import type { Aim } from '../../../board/useAim';
import { lengthSentence } from '../../../kit/lengthSentence';
import { NO_PREVIEW } from '../../../part/preview';
import type { ShapeKind } from '../traceStore';
import type { TraceContext, TraceOutcome, TraceTool } from './context';

/** A size that was typed, and the place that follows from it. */
interface Size {
  mm: number;
  value: Expression;
}

export interface ShapeState {
  /** Presses so far. */
  at: readonly Aim[];
  /** The first size, once it is typed: the base of a rectangle, how far the ends of a slot are apart. */
  base: Size | null;
  /** Sizes that were typed before the first press: base and height, or the only one. */
  ahead: readonly Size[];
}

const NONE: ShapeState = { at: [], base: null, ahead: [] };
/** Presses that each shape takes. */
const PRESSES: Record<ShapeKind, number> = { rectangle: 3, slot: 3, polygon: 2, 'two-rim': 2, 'three-rim': 3 };

/**
 * Shapes by their places, or as large as is typed: a rectangle by a base and a height, a slot by the middles of its ends
 * and its width, a regular polygon by its middle and a corner, a circle by places on its rim.
 */
export const shapeTool: TraceTool<ShapeState> = {
  start: () => NONE,
  wish: (_, { picture }) => inkOf(picture),
  snaps: ({ snapOff }) => !snapOff.includes('edges'),
  targets: ({ at }, place, reach, context) => snapTargets(place, reach, at[at.length - 1]?.place ?? null, context),
  awaits(state, context) {
    if (!context.isTrue) return null;
    if (state.at.length === 0) return AHEAD[context.shape];
    if (context.shape === 'rectangle') return state.at.length === 1 ? 'Length of its base' : 'Height over its base';
    if (context.shape === 'slot') return state.at.length === 1 ? 'Middle to middle' : 'Width of the slot';
    return context.shape === 'polygon' ? 'Across flats' : null;
  },
  reads: (state) => state.at.length === 0,
  step(state, event, context) {
    switch (event.kind) {
      case 'move': {
        const form = state.at.length ? formTo(state, placeOf(event.aim), context) : null;
        const preview = { ...NO_PREVIEW, forms: form ? [form] : [] };
        const from = state.at[state.at.length - 1]?.place;
        if (!from || !context.isTrue) return { state, preview };
        const [dx, dy] = [event.aim.place.x - from.x, event.aim.place.y - from.y];
        return {
          state,
          preview,
          show: { lengthMm: Math.hypot(dx, dy), lengthPlusMinusMm: null, angle: Math.atan2(dy, dx) },
        };
      }
      case 'place':
        return pressed(state, event.aim, context);
      case 'typed':
        return typed(state, { mm: event.mm, value: event.value }, context);
      case 'said':
        return saidAhead(state, event, context);
      case 'finish':
        return state.at.length === 1 && state.ahead.length === 2 ? wholeAlong(state, 0, context) : cleared;
      case 'cancel':
        return cleared;
      default:
        return { state };
    }
  },
};

const cleared = { state: NONE, preview: NO_PREVIEW };

/** What is asked for before the first press; both sizes in one go, as `95, 60`. */
const AHEAD: Record<ShapeKind, string | null> = {
  rectangle: 'Base, height',
  slot: 'Middle to middle, width',
  polygon: 'Across flats',
  'two-rim': null,
  'three-rim': null,
};

/** Between two sizes: a comma or semicolon with a space behind it, a times sign, or an x. */
const BETWEEN = /\s*[×x*]\s*|[,;]\s+|;/;

/** Sizes before the first press: they wait for it. */
function saidAhead(
  state: ShapeState,
  { text, unit }: { text: string; unit: 'mm' | 'in' },
  { shape }: TraceContext,
): TraceOutcome<ShapeState> {
  const parts = text.trim().split(BETWEEN);
  const most = shape === 'polygon' ? 1 : 2;
  if (parts.length > most)
    return { state, refused: most === 1 ? 'One size is enough here.' : 'Two sizes are enough: for instance 95, 60.' };
  const ahead: Size[] = [];
  for (const part of parts) {
    const found = parseLength(part, unit);
    if (!found.ok) return { state, refused: lengthSentence(found.reason) };
    ahead.push({ mm: found.mm, value: { text: part.trim(), unit } });
  }
  return { state: { ...state, ahead } };
}

/** The shape as it would be with the pointer at a place. */
function formTo(state: ShapeState, to: Vec2, context: TraceContext): Form | null {
  const [first] = state.at;
  const [base, aside] = state.ahead;
  if (state.at.length !== 1 || !first || !base) return formFrom([...state.at.map(placeOf), to], context);
  const a = placeOf(first);
  return withSizes(a, Math.atan2(to.y - a.y, to.x - a.x), base, aside ?? null, context);
}

/** A shape of typed sizes that begins at a place and runs a way; to the left of its base. */
function withSizes(a: Vec2, angle: number, base: Size, aside: Size | null, context: TraceContext): Form | null {
  const on = (mm: number): Vec2 => ({ x: a.x + mm * Math.cos(angle), y: a.y + mm * Math.sin(angle) });
  if (context.shape === 'polygon')
    return polygon(a, on(base.mm / 2 / Math.cos(Math.PI / context.corners)), context.corners);
  const b = on(base.mm);
  if (!aside) return { kind: 'chain', segments: [{ kind: 'line', from: a, to: b }], closed: false };
  return context.shape === 'slot' ? slot(a, b, aside.mm) : onBase(a, b, aside.mm);
}

/** All sizes were typed and one end pressed: the way that it runs is all that is left. */
function wholeAlong(state: ShapeState, angle: number, context: TraceContext): TraceOutcome<ShapeState> {
  const [first] = state.at;
  const [base, aside] = state.ahead;
  const form = first && base ? withSizes(placeOf(first), angle, base, aside ?? null, context) : null;
  return form ? finished(form, [base!, aside ?? null], first!.sigmaPx, context) : cleared;
}

const placeOf = ({ place }: Aim): Vec2 => place;

function pressed(state: ShapeState, aim: Aim, context: TraceContext): TraceOutcome<ShapeState> {
  const at = [...state.at, aim];
  const [first] = state.at;
  const [base, aside] = state.ahead;
  if (first && base && at.length === 2) {
    const [a, to] = [placeOf(first), placeOf(aim)];
    const angle = Math.atan2(to.y - a.y, to.x - a.x);
    if (aside || context.shape === 'polygon') return wholeAlong(state, angle, context);
    return typed({ ...state, ahead: [] }, base, { ...context, angle });
  }
  if (at.length < PRESSES[context.shape]) return { state: { ...state, at } };
  const { shape } = context;
  if (shape === 'two-rim' || shape === 'three-rim') return round(at, context);
  const form = formFrom(at.map(placeOf), context);
  return form ? finished(form, state.base ? [state.base, null] : [], aim.sigmaPx, context) : { state };
}

/** The shape through its places; null where it would have no size. */
function formFrom(at: readonly Vec2[], { shape, corners }: TraceContext): Form | null {
  const [a, b, c] = at;
  if (!a || !b || (a.x === b.x && a.y === b.y)) return null;
  if (shape === 'polygon') return polygon(a, b, corners);
  if (shape === 'two-rim' || shape === 'three-rim') {
    const circle = circleOn(at);
    return circle && { kind: 'circle', ...circle };
  }
  const aside = c ? across(a, b, c) : 0;
  if (!c || aside === 0) return { kind: 'chain', segments: [{ kind: 'line', from: a, to: b }], closed: false };
  return shape === 'slot' ? slot(a, b, 2 * Math.abs(aside)) : onBase(a, b, aside);
}

/** How far a place lies beside the line through two others, left positive. */
function across(a: Vec2, b: Vec2, c: Vec2): number {
  const length = Math.hypot(b.x - a.x, b.y - a.y);
  return ((b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x)) / length;
}

/** A rectangle over its base, to its left where the height is positive. */
function onBase(a: Vec2, b: Vec2, height: number): Form {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const length = Math.hypot(dx, dy);
  const up = { x: (-dy / length) * (height / 2), y: (dx / length) * (height / 2) };
  const middle = { x: (a.x + b.x) / 2 + up.x, y: (a.y + b.y) / 2 + up.y };
  return rectangle(middle, length, Math.abs(height), Math.atan2(dy, dx));
}

function circleOn([a, b, c]: readonly Vec2[]): Circle | null {
  if (!a || !b) return null;
  if (c) return circleThrough(a, b, c);
  return { centre: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }, radius: Math.hypot(b.x - a.x, b.y - a.y) / 2 };
}

/** A circle by what was seen on its rim: of two places that lie across it, a third is worked out. */
function round(at: readonly Aim[], context: TraceContext): TraceOutcome<ShapeState> {
  const circle = circleOn(at.map(placeOf));
  if (!circle) return { state: NONE, preview: NO_PREVIEW, show: { snaps: 'three places on one line make no circle' } };
  const { newId } = context;
  const seen: NewPick[] = at.map((aim) => ({ id: newId(), at: seenAt(aim) }));
  const sigmaPx = Math.max(...at.map((a) => a.sigmaPx));
  const [a] = at.map(placeOf) as [Vec2];
  const third = { x: circle.centre.x - (a.y - circle.centre.y), y: circle.centre.y + (a.x - circle.centre.x) };
  const rim = at.length === 3 ? seen : [...seen, derivedPick(context, third, sigmaPx)];
  const whole = rim.filter((r): r is NewPick => r !== null);
  if (whole.length < 3) return { state: NONE, preview: NO_PREVIEW };
  const path = { id: newId(), name: nextName(context.job.part, 'Hole'), role: 'cut' as const };
  return {
    state: NONE,
    preview: NO_PREVIEW,
    action: addCircle(path, { curve: newId(), centre: newId() }, whole),
    select: { kind: 'path', path: path.id },
  };
}

function typed(state: ShapeState, size: Size, context: TraceContext): TraceOutcome<ShapeState> {
  const { shape, angle } = context;
  const [first, second] = state.at;
  if (!first) return { state, refused: 'Press where it begins first.' };
  const a = placeOf(first);
  const sigmaPx = Math.max(...state.at.map((p) => p.sigmaPx));
  if (shape === 'polygon') {
    if (angle === null) return { state, refused: 'Point to where a corner is first, then type the size.' };
    const reach = size.mm / 2 / Math.cos(Math.PI / context.corners);
    const corner = { x: a.x + reach * Math.cos(angle), y: a.y + reach * Math.sin(angle) };
    return finished(polygon(a, corner, context.corners), [size], sigmaPx, context);
  }
  if (!second) {
    if (angle === null) return { state, refused: 'Point in the direction first, then type the length.' };
    const place = { x: a.x + size.mm * Math.cos(angle), y: a.y + size.mm * Math.sin(angle) };
    const picture = context.mapper.toPicture(place);
    if (!picture) return { state, refused: 'That lies beyond what the camera could see.' };
    const next: Aim = { ...first, place, picture, snappedTo: 'free', point: null, onto: null, edges: [], edge: 0 };
    return { state: { at: [first, next], base: size, ahead: [] } };
  }
  const b = placeOf(second);
  // To the side that the pointer is on, seen along the base.
  const aside = angle === null ? 1 : Math.sin(angle - Math.atan2(b.y - a.y, b.x - a.x)) < 0 ? -1 : 1;
  const form = shape === 'slot' ? slot(a, b, size.mm) : onBase(a, b, aside * size.mm);
  return form ? finished(form, [state.base, size], sigmaPx, context) : { state };
}

/** The shape as a path of ordinary pieces; what was typed of it is decided. */
function finished(
  form: Form,
  sizes: readonly (Size | null)[],
  sigmaPx: number,
  context: TraceContext,
): TraceOutcome<ShapeState> {
  const { job, newId, shape } = context;
  const draft = newSketch(MAIN_SKETCH, '', null);
  const name = nextName(job.part, shape === 'slot' ? 'Slot' : 'Path');
  const path = { id: newId(), name, role: 'cut' as const, layer: null };
  if (!putForm(draft, form, path, seeingWith(context, sigmaPx), newId)) return { state: NONE, preview: NO_PREVIEW };
  const points = walkOf(draft, draft.paths[path.id]!)!.points;
  const decided = sizesOf(shape, points, sizes, form).map(({ ends, value }) =>
    decideDistance(path.id, newId(), ends, value),
  );
  return {
    state: NONE,
    preview: NO_PREVIEW,
    action: together(`draw a ${WORDS[shape]}`, putPaths('', draft), ...decided),
    select: { kind: 'path', path: path.id },
  };
}

const WORDS: Record<ShapeKind, string> = {
  rectangle: 'rectangle',
  slot: 'slot',
  polygon: 'polygon',
  'two-rim': 'circle',
  'three-rim': 'circle',
};

interface Decided {
  ends: readonly [Id, Id];
  value: Expression;
}

/**
 * What was typed of a shape, as distances between its corners: so many that, with all sizes typed, it keeps its form
 * through every new calibration (sides and one diagonal).
 */
function sizesOf(shape: ShapeKind, points: readonly Id[], sizes: readonly (Size | null)[], form: Form): Decided[] {
  const [p, q, r, s] = points as [Id, Id, Id, Id];
  const [first, second] = sizes;
  if (shape === 'polygon') {
    if (!first || form.kind !== 'chain') return [];
    const [a] = form.segments;
    const side = a ? Math.hypot(a.to.x - a.from.x, a.to.y - a.from.y) : 0;
    const n = points.length;
    const reach = side / 2 / Math.sin(Math.PI / n);
    const chord = (k: number): Expression => exactly(2 * reach * Math.sin((Math.PI * k) / n));
    const sides = points.map((id, k): Decided => ({ ends: [id, points[(k + 1) % n]!], value: chord(1) }));
    const fan = Array.from(
      { length: n - 3 },
      (_, k): Decided => ({ ends: [points[0]!, points[k + 2]!], value: chord(k + 2) }),
    );
    return [...sides, ...fan];
  }
  const along: Decided[] = first
    ? [
        { ends: [p, q], value: first.value },
        { ends: [r, s], value: first.value },
      ]
    : [];
  const aside: Decided[] = second
    ? [
        { ends: [q, r], value: second.value },
        { ends: [s, p], value: second.value },
      ]
    : [];
  const both: Decided[] = first && second ? [{ ends: [p, r], value: exactly(Math.hypot(first.mm, second.mm)) }] : [];
  return [...along, ...aside, ...both];
}

/** A length that follows from what was typed, to more figures than any path is placed to. */
const exactly = (mm: number): Expression => ({ text: String(Number(mm.toFixed(9))), unit: 'mm' });
