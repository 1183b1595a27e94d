import {
  add,
  between,
  cornersOf,
  type Form,
  mirrorForm,
  offsetEach,
  offsetForm,
  reverseForm,
  type Segment,
  scale,
  shiftForm,
  speedAt,
  sub,
  turned,
  turnForm,
  type Vec2,
  WELD_MM,
  weldedForm,
  workCorners,
} from '../../geometry';
import { copiesOf, lengthOf, numberOf } from '../expression';
import type { Id, Maker } from '../part';

/** Why something cannot be made of a path: it is left out, and what the others make stays. */
export type MakerReason =
  /** A fillet, a chamfer or an offset is larger than there is room for. */
  | 'too-large'
  /** Some corners have no room for it, the others have it. */
  | 'some-too-large'
  /** What it is about is no straight line, or no circle, or has no place. */
  | 'nothing-to-go-by'
  /** Distances of their own leave no simple form: pieces do not meet, or would cross. */
  | 'edges-do-not-meet'
  /** What was typed is no length. */
  | 'no-length'
  /** More forms would come of it than are made of one path. */
  | 'too-many'
  /** Or no number of copies, from two on, or of degrees. */
  | 'no-number'
  /** It shall be smooth across its line, and a line or an arc ends there askew. */
  | 'only-curves-turn'
  /** Half of a mirrored form lies beyond the line it is mirrored in. */
  | 'crosses-its-line';

export interface Made {
  forms: Form[];
  faults: { maker: Id; reason: MakerReason }[];
}

/** Ends of a half nearer to the line that it is mirrored in belong on it, and ends of a copy to the next one's, mm. */
const ON_LINE_MM = 0.5;
/** More forms than this are not made of one path. */
const MOST_MADE = 2000;

/** The makers of a path in their order. */
export const makersOf = (makers: Record<Id, Maker>, path: Id): Maker[] =>
  Object.values(makers)
    .filter((m) => m.path === path)
    .sort((a, b) => a.place - b.place);

/**
 * What the makers of a path make of its form, one after the other.
 *
 * In: the form where it truly lies, mm; the makers in their order; the forms of other paths that they go by. Out: what is
 * cut or marked instead of the path, and which maker could not do its part, and why.
 */
export function makeForms(
  form: Form,
  makers: readonly Maker[],
  formOf: (path: Id) => Form | null,
  own: Own = NONE,
): Made {
  let forms: Form[] = [form];
  const faults: Made['faults'] = [];
  for (const maker of makers) {
    const made = makeOne(forms, maker, formOf, own);
    if (made.reason) faults.push({ maker: maker.id, reason: made.reason });
    if (made.forms && made.forms.length <= MOST_MADE) forms = made.forms;
    else if (made.forms) faults.push({ maker: maker.id, reason: 'too-many' });
  }
  return { forms, faults };
}

interface One {
  /** Null where nothing could be made. */
  forms: Form[] | null;
  reason?: MakerReason;
}

// biome-ignore lint/complexity/noExcessiveCognitiveComplexity: a list of kinds, each a few lines by itself
function makeOne(forms: readonly Form[], maker: Maker, formOf: (path: Id) => Form | null, own: Own): One {
  switch (maker.kind) {
    case 'fillet':
    case 'chamfer': {
      const size = lengthOf(maker.size);
      if (size === null) return { forms: null, reason: 'no-length' };
      const which = maker.at?.flatMap((id) => own.placeOf(id) ?? []) ?? null;
      const chosen = forms.map((f) => cornersAt(f, which));
      const corners = chosen.reduce((sum, c) => sum + c.length, 0);
      if (corners === 0 && which) return { forms: null, reason: 'nothing-to-go-by' };
      const worked = forms.map((f, k) => workCorners(f, maker.kind, size, chosen[k]));
      const left = worked.reduce((sum, w) => sum + w.tooLarge.length, 0);
      const reason = left === 0 ? undefined : left < corners ? 'some-too-large' : 'too-large';
      return reason ? { forms: worked.map((w) => w.form), reason } : { forms: worked.map((w) => w.form) };
    }
    case 'offset': {
      const by = lengthOf(maker.by);
      if (by === null) return { forms: null, reason: 'no-length' };
      const sign = maker.side === 'out' ? 1 : -1;
      if (Object.keys(maker.except).length > 0) return offsetEdges(forms, maker, sign * by, own);
      const made = forms.flatMap((f) => offsetForm(f, sign * by, maker.corners));
      return made.length ? { forms: made } : { forms: null, reason: 'too-large' };
    }
    case 'mirror': {
      const line = lineOf(formOf(maker.about));
      return line ? mirrored(forms, line, maker.smooth) : { forms: null, reason: 'nothing-to-go-by' };
    }
    case 'round': {
      const about = formOf(maker.about);
      if (about?.kind !== 'circle') return { forms: null, reason: 'nothing-to-go-by' };
      const count = copiesOf(maker.count);
      const step = count === null ? null : stepOf(maker, count);
      if (count === null || step === null) return { forms: null, reason: 'no-number' };
      if (isTooMany(forms, count)) return { forms: null, reason: 'too-many' };
      const own = forms.map((f) => meetingNext(f, about.centre, step));
      const turns = Array.from({ length: count }, (_, k) => k * step);
      return { forms: joined(turns.flatMap((angle) => own.map((f) => turnForm(f, about.centre, angle)))) };
    }
    case 'row': {
      const typed = lengthOf(maker.step);
      const count = copiesOf(maker.count);
      if (typed === null) return { forms: null, reason: 'no-length' };
      if (count === null) return { forms: null, reason: 'no-number' };
      if (isTooMany(forms, count)) return { forms: null, reason: 'too-many' };
      const step = maker.span === 'total' ? typed / (count - 1) : typed;
      const way = WAYS[maker.way];
      const steps = Array.from({ length: count }, (_, k) => scale(way, k * step));
      return { forms: steps.flatMap((by) => forms.map((f) => shiftForm(f, by))) };
    }
    case 'grid': {
      const [step, rowStep] = [lengthOf(maker.step), lengthOf(maker.rowStep)];
      if (step === null || rowStep === null) return { forms: null, reason: 'no-length' };
      const [count, rows] = [copiesOf(maker.count), copiesOf(maker.rows)];
      if (count === null || rows === null) return { forms: null, reason: 'no-number' };
      if (isTooMany(forms, rows * count)) return { forms: null, reason: 'too-many' };
      const places = Array.from({ length: rows * count }, (_, k): Vec2 => {
        const row = Math.floor(k / count);
        return { x: (k % count) * step, y: row * rowStep };
      });
      return { forms: places.flatMap((by) => forms.map((f) => shiftForm(f, by))) };
    }
  }
}

/** Counted before anything is built: what will be refused costs nothing. */
const isTooMany = (forms: readonly Form[], copies: number): boolean => forms.length * copies > MOST_MADE;

/** A path's own points and pieces, that single corners and pieces of it can be named. */
export interface Own {
  placeOf(point: Id): Vec2 | null;
  /** Names of its curves, in the order in which they are run along. */
  curves: readonly Id[];
}

const NONE: Own = { placeOf: () => null, curves: [] };

/** Corners of a form: all of them, or those that lie at some places. */
function cornersAt(form: Form, places: readonly Vec2[] | null): number[] {
  const all = cornersOf(form);
  if (!places || form.kind === 'circle') return all;
  return all.filter((k) => places.some((p) => between(p, form.segments[k]!.to) < WELD_MM));
}

/** An offset with some pieces at a distance of their own: of the path itself only, whose pieces have names. */
function offsetEdges(
  forms: readonly Form[],
  { side, except }: Extract<Maker, { kind: 'offset' }>,
  by: number,
  own: Own,
): One {
  const [form] = forms;
  if (forms.length !== 1 || form?.kind !== 'chain' || form.segments.length !== own.curves.length)
    return { forms: null, reason: 'nothing-to-go-by' };
  const distances = own.curves.map((id) => {
    const typed = Object.hasOwn(except, id) ? lengthOf(except[id]!) : Math.abs(by);
    return typed === null ? Number.NaN : side === 'out' ? typed : -typed;
  });
  if (distances.some(Number.isNaN)) return { forms: null, reason: 'no-length' };
  const made = offsetEach(form, distances);
  return made ? { forms: [made] } : { forms: null, reason: 'edges-do-not-meet' };
}

/** From one copy round a centre to the next, rad; null where what was typed is no angle. */
function stepOf({ turn }: Extract<Maker, { kind: 'round' }>, count: number): number | null {
  if (!turn) return (2 * Math.PI) / count;
  const degrees = numberOf(turn.degrees);
  if (degrees === null) return null;
  const angle = (degrees * Math.PI) / 180;
  return turn.span === 'total' ? angle / (count - 1) : angle;
}

const WAYS: Record<'right' | 'left' | 'up' | 'down', Vec2> = {
  right: { x: 1, y: 0 },
  left: { x: -1, y: 0 },
  up: { x: 0, y: 1 },
  down: { x: 0, y: -1 },
};

/** The straight line through the first and the last place of a path. */
function lineOf(form: Form | null): [Vec2, Vec2] | null {
  if (form?.kind !== 'chain' || form.closed) return null;
  const [a, b] = [form.segments[0]?.from, form.segments[form.segments.length - 1]?.to];
  return a && b && between(a, b) > ON_LINE_MM ? [a, b] : null;
}

/** Halves with both ends on the line become whole with their image; anything else gets its image beside it. */
function mirrored(forms: readonly Form[], [a, b]: [Vec2, Vec2], smooth: boolean): One {
  let crosses = false;
  let turns = true;
  const made = forms.flatMap((form): Form[] => {
    const plain = onLine(form, a, b);
    const half = smooth ? squareTo(plain, a, b) : plain;
    if (!half) {
      turns = false;
      return [form];
    }
    if (crossesLine(half, a, b)) crosses = true;
    const image = mirrorForm(half, a, b);
    return image ? [half, reverseForm(image)] : [half];
  });
  if (!turns) return { ...mirrored(forms, [a, b], false), reason: 'only-curves-turn' };
  return crosses ? { forms: joined(made), reason: 'crosses-its-line' } : { forms: joined(made) };
}

/** Pieces nearer than this to square across a line are smooth across it, rad. */
const SQUARE_RAD = 1e-3;

/**
 * An open form whose ends on a line cross it squarely, so that it meets its image without a kink: handles of curves are
 * turned and keep their length. Null where a line or an arc ends there askew, which cannot turn.
 */
function squareTo(form: Form, a: Vec2, b: Vec2): Form | null {
  if (form.kind !== 'chain' || form.closed || form.segments.length === 0) return form;
  const way = scale(sub(b, a), 1 / between(a, b));
  const across = { x: -way.y, y: way.x };
  const isOn = (p: Vec2) => Math.abs(way.x * (p.y - a.y) - way.y * (p.x - a.x)) < WELD_MM;
  const turnedTo = (end: Vec2, handle: Vec2): Vec2 => {
    const off = sub(handle, end);
    const side = off.x * across.x + off.y * across.y < 0 ? -1 : 1;
    return add(end, scale(across, side * Math.hypot(off.x, off.y)));
  };
  const segments = [...form.segments];
  const last = segments.length - 1;
  for (const [k, end] of [
    [0, 'from'],
    [last, 'to'],
  ] as const) {
    const s = segments[k]!;
    if (!isOn(s[end])) continue;
    if (s.kind === 'curve')
      segments[k] =
        end === 'from'
          ? { ...s, handleFrom: turnedTo(s.from, s.handleFrom) }
          : { ...s, handleTo: turnedTo(s.to, s.handleTo) };
    else {
      const speed = speedAt(s, end === 'from' ? 0 : 1);
      const askew = Math.abs(speed.x * way.x + speed.y * way.y) / (Math.hypot(speed.x, speed.y) || 1);
      if (askew > SQUARE_RAD) return null;
    }
  }
  return { ...form, segments };
}

/** Ends of an open form that lie near a line, on it. */
function onLine(form: Form, a: Vec2, b: Vec2): Form {
  if (form.kind !== 'chain' || form.closed || form.segments.length === 0) return form;
  const way = scale(sub(b, a), 1 / between(a, b));
  const foot = (p: Vec2): Vec2 => {
    const along = sub(p, a).x * way.x + sub(p, a).y * way.y;
    const on = add(a, scale(way, along));
    return between(on, p) < ON_LINE_MM ? on : p;
  };
  const last = form.segments.length - 1;
  const segments = form.segments.map((s, k): Segment => {
    const from = k === 0 ? foot(s.from) : s.from;
    const to = k === last ? foot(s.to) : s.to;
    return from === s.from && to === s.to ? s : { ...s, from, to };
  });
  return { ...form, segments };
}

/** An open form whose end lies near to where its next copy begins ends there, so that all of them are one. */
function meetingNext(form: Form, centre: Vec2, step: number): Form {
  if (form.kind !== 'chain' || form.closed || form.segments.length === 0) return form;
  const [first, last] = [form.segments[0]!, form.segments[form.segments.length - 1]!];
  for (const angle of [step, -step]) {
    const begins = add(centre, turned(sub(first.from, centre), angle));
    if (between(begins, last.to) < ON_LINE_MM)
      return { ...form, segments: [...form.segments.slice(0, -1), { ...last, to: begins }] };
  }
  return form;
}

/** A form has places clearly on both sides of a line. */
function crossesLine(form: Form, a: Vec2, b: Vec2): boolean {
  const way = scale(sub(b, a), 1 / between(a, b));
  const side = (p: Vec2) => way.x * (p.y - a.y) - way.y * (p.x - a.x);
  if (form.kind === 'circle') return Math.abs(side(form.centre)) < form.radius - ON_LINE_MM;
  const sides = form.segments.flatMap((s) => [side(s.from), side(s.to)]);
  return Math.min(...sides) < -ON_LINE_MM && Math.max(...sides) > ON_LINE_MM;
}

/** Open forms that meet end to end are one; closed where the last meets the first. */
function joined(forms: readonly Form[]): Form[] {
  const open: Segment[][] = [];
  const whole: Form[] = [];
  for (const form of forms) {
    if (form.kind === 'circle' || form.closed || form.segments.length === 0) whole.push(form);
    else open.push([...form.segments]);
  }
  for (let k = 0; k < open.length; k++) {
    const own = open[k]!;
    for (let other = joinable(open, k); other >= 0; other = joinable(open, k)) {
      const [first, ...rest] = open.splice(other, 1)[0]!;
      // One place for each joint.
      own.push({ ...first!, from: own[own.length - 1]!.to }, ...rest);
    }
    whole.push(weldedForm({ kind: 'chain', segments: own, closed: false }));
  }
  return whole;
}

/** Which of the others goes on from where this one ends; turned round in its place if need be. */
function joinable(open: Segment[][], k: number): number {
  const end = open[k]![open[k]!.length - 1]!.to;
  if (between(end, open[k]![0]!.from) < WELD_MM) return -1;
  for (let n = k + 1; n < open.length; n++) {
    const other = open[n]!;
    if (between(other[0]!.from, end) < WELD_MM) return n;
    if (between(other[other.length - 1]!.to, end) > WELD_MM) continue;
    const turned = reverseForm({ kind: 'chain', segments: other, closed: false });
    open[n] = turned.kind === 'chain' ? turned.segments : other;
    return n;
  }
  return -1;
}
