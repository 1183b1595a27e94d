import {
  type Between,
  boxesOf,
  type Crossing,
  crossingsOf,
  type Form,
  meetingAhead,
  ONE_PLACE_MM,
  type Segment,
  segmentBounds,
  segmentsOf,
  stretchAbout,
  stretchOf,
  type Vec2,
} from '@steady-moth/core/geometry';
import {
  addDimensions,
  extendTo,
  insertPoint,
  type JobAction,
  joinPoints,
  joinWhereMet,
  putPaths,
  removePiece,
  setPathPlane,
  together,
} from '@steady-moth/core/job';
import {
  bendsOfCut,
  type Dimension,
  type Id,
  MAIN_SKETCH,
  newSketch,
  type OpenCurve,
  planeOfPath,
  putForm,
  segmentOfCurve,
  walkOf,
} from '@steady-moth/core/sketch';
import { inkOf } from '../../../board/inkOf';
import type { Aim } from '../../../board/useAim';
import { hitSegment } from '../hit';
import type { DrawnPath } from '../useDrawn';
import { derivedAt, NO_PREVIEW, seeingWith, type TraceContext, type TraceOutcome, type TraceTool } from './context';

/** How near a piece is looked for, px of the screen. */
const REACH_PX = 20;
/** A place worked out from pieces is as well known as a point set by hand, px. */
const SIGMA_PX = 0.3;
/** A crossing nearer to another path's point than this is that point, mm. */
const SAME_POINT_MM = 1e-3;

/**
 * Takes away the piece that is pointed at, up to the next crossing on either side; one that nothing crosses is drawn on
 * from the end that is nearer, up to what lies ahead.
 */
export const trimTool: TraceTool<null> = {
  start: () => null,
  wish: (_, { picture }) => inkOf(picture),
  snaps: () => false,
  looks: false,
  step(state, event, context) {
    if (event.kind === 'move') {
      const plan = planAt(event.aim, context);
      return {
        state,
        preview: { ...NO_PREVIEW, forms: plan ? [plan.shown] : [] },
        show: { snaps: plan ? WORDS[plan.kind] : 'no piece near' },
      };
    }
    if (event.kind === 'place') return { state, preview: NO_PREVIEW, ...done(event.aim, context) };
    return event.kind === 'cancel' ? { state, preview: NO_PREVIEW } : { state };
  },
};

const WORDS = {
  trim: 'this goes',
  round: 'this goes',
  extend: 'drawn on to here',
  none: 'nothing crosses it',
} as const;

type Plan = { shown: Form; own: DrawnPath } & (
  | { kind: 'trim'; curve: Id; segment: Segment; between: Between }
  | { kind: 'round'; left: Segment }
  | { kind: 'extend'; point: Id; to: Vec2 }
  | { kind: 'none' }
);

const alone = (segment: Segment): Form => ({ kind: 'chain', segments: [segment], closed: false });

/** What a press here would do, and what it shows of it. */
function planAt(aim: Aim, { drawn, scale }: TraceContext): Plan | null {
  const hit = hitSegment(drawn, aim.place, REACH_PX / scale);
  const own = hit && drawn.paths.find((d) => d.path.id === hit.path);
  if (!hit || !own?.form) return null;
  const others = othersOf(drawn.paths);
  if (hit.kind === 'circle') return planOfCircle(own, aim, others.near);
  const use = own.path.uses.find((u) => u.curve === hit.curve);
  const curve = own.sketch.curves[hit.curve] as OpenCurve;
  const segment = segmentOfCurve(curve, drawn.placeOf);
  if (!use || !segment) return null;
  const t = use.reversed ? 1 - hit.t : hit.t;
  const between = stretchAbout(segment, t, others.near(segment));
  if (between.before || between.after)
    return {
      kind: 'trim',
      own,
      curve: curve.id,
      segment,
      between,
      shown: alone(stretchOf(segment, between.from, between.to)),
    };
  const points = own.path.closed ? [] : (walkOf(own.sketch, own.path)?.points ?? []);
  const isOpen = (point: Id) => point === points[0] || point === points.at(-1);
  const ends = (['from', 'to'] as const).filter((end) => isOpen(curve[end]));
  const end = ends.length === 2 ? (t < 0.5 ? 'from' : 'to') : ends[0];
  const to = end && meetingAhead(segment, end, others.all(segment));
  if (end && to) {
    const point = curve[end];
    return { kind: 'extend', own, point, to, shown: alone({ kind: 'line', from: segment[end], to }) };
  }
  return { kind: 'none', own, shown: alone(segment) };
}

/** Of a circle that others cross the stretch pointed at goes, and what is left of it is an arc. */
function planOfCircle(own: DrawnPath, aim: Aim, near: (s: Segment) => Segment[]): Plan | null {
  const { form } = own;
  if (form?.kind !== 'circle') return null;
  const { centre, radius } = form;
  const angleOf = (p: Vec2) => Math.atan2(p.y - centre.y, p.x - centre.x);
  const on = (a: number): Vec2 => ({ x: centre.x + radius * Math.cos(a), y: centre.y + radius * Math.sin(a) });
  const arc = (a: number, b: number): Segment => ({ kind: 'arc', from: on(a), via: on((a + b) / 2), to: on(b) });
  const crossings = segmentsOf(form).flatMap((half) => near(half).flatMap((o) => crossingsOf(half, o)));
  const here = angleOf(aim.place);
  const ahead = crossings.map((c) => turn(angleOf(c.at) - here)).sort((a, b) => a - b);
  const [first, last] = [ahead[0], ahead.at(-1)];
  if (first === undefined || last === undefined || last - first < 1e-6) return { kind: 'none', own, shown: form };
  const [from, to] = [here + last - 2 * Math.PI, here + first];
  return { kind: 'round', own, left: arc(to, here + last), shown: alone(arc(from, to)) };
}

const turn = (a: number): number => ((a % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI);

interface Others {
  /** Those whose boxes meet a segment's. */
  near(segment: Segment): Segment[];
  /** All but the segment itself. */
  all(segment: Segment): readonly Segment[];
}

const kept = new WeakMap<readonly DrawnPath[], Others>();

/** Everything that pieces can cross, found by boxes: built once for a drawing. */
function othersOf(paths: readonly DrawnPath[]): Others {
  const known = kept.get(paths);
  if (known) return known;
  const all = paths.flatMap(({ form }) => (form ? segmentsOf(form) : []));
  const boxes = all.length ? boxesOf(all) : null;
  const isOther = (a: Segment, b: Segment) =>
    !((isAt(a.from, b.from) && isAt(a.to, b.to)) || (isAt(a.from, b.to) && isAt(a.to, b.from)));
  const made: Others = {
    near(segment) {
      const { min, max } = segmentBounds(segment);
      const found = boxes?.search(min.x, min.y, max.x, max.y) ?? [];
      return found.flatMap((k) => (isOther(all[k]!, segment) ? [all[k]!] : []));
    },
    all: (segment) => all.filter((s) => isOther(s, segment)),
  };
  kept.set(paths, made);
  return made;
}

const isAt = (a: Vec2, b: Vec2): boolean => Math.abs(a.x - b.x) < ONE_PLACE_MM && Math.abs(a.y - b.y) < ONE_PLACE_MM;

function done(aim: Aim, context: TraceContext): Partial<TraceOutcome<null>> {
  const plan = planAt(aim, context);
  if (!plan) return {};
  const { path } = plan.own;
  switch (plan.kind) {
    case 'none':
      return { select: { kind: 'path', path: path.id }, show: { snaps: 'nothing crosses it, nothing lies ahead' } };
    case 'extend':
      return extended(plan, context);
    case 'round': {
      const draft = newSketch(MAIN_SKETCH, '', null);
      const id = context.newId();
      const see = seeingWith(context, SIGMA_PX);
      if (!putForm(draft, alone(plan.left), { ...path, id }, see, context.newId)) return {};
      const plane = planeOfPath(plan.own.sketch, path);
      const arc = Object.keys(draft.curves)[0]!;
      const action = together(
        'trim a circle',
        putPaths('', draft, [path.id]),
        setPathPlane(id, plane),
        addDimensions(plan.own.sketch.id, sizesKept(plan.own, arc, context.newId)),
      );
      return { action, select: { kind: 'path', path: id } };
    }
    case 'trim':
      return trimmed(plan, context);
  }
}

/** Sizes of a circle alone, said of the arc that is left of it: what was typed stays typed. */
function sizesKept({ sketch, path }: DrawnPath, arc: Id, newId: () => Id): Dimension[] {
  const circle = path.uses[0]!.curve;
  return Object.values(sketch.dimensions)
    .filter((d) => d.refs.length === 1 && d.refs[0]!.id === circle && (d.kind === 'diameter' || d.kind === 'radius'))
    .map((d) => ({ ...d, id: newId(), refs: [{ ...d.refs[0]!, id: arc }] }));
}

function extended(
  { own, point, to }: Extract<Plan, { kind: 'extend' }>,
  context: TraceContext,
): Partial<TraceOutcome<null>> {
  const { path } = own;
  const meets = pointAt(to, own, context);
  if (meets && meets !== point)
    return { action: joinPoints(meets, point, path.id), select: { kind: 'path', path: path.id } };
  const at = derivedAt(context, to, SIGMA_PX);
  return at ? { action: extendTo(path.id, point, at), select: { kind: 'path', path: path.id } } : {};
}

/** A point of the same sketch in a place; null where none is. */
function pointAt(at: Vec2, { sketch: { id } }: DrawnPath, { job, drawn }: TraceContext): Id | null {
  const sketch = job.part.sketches[id];
  for (const point of Object.keys(sketch?.points ?? {})) {
    const place = drawn.placeOf(point);
    if (place && Math.hypot(place.x - at.x, place.y - at.y) < SAME_POINT_MM) return point;
  }
  return null;
}

/** Cuts at the farther crossing first, so that shares of what is left before it are still shares of the whole. */
function trimmed(
  { own, curve, segment, between }: Extract<Plan, { kind: 'trim' }>,
  context: TraceContext,
): Partial<TraceOutcome<null>> {
  const { path } = own;
  const { newId } = context;
  const see = seeingWith(context, SIGMA_PX);
  const actions: JobAction[] = [];
  const meeting: Id[] = [];
  let [gone, rest] = [curve, segment];
  let share = between.from;
  const cut = (t: number, at: Crossing): { second: Id } | null => {
    const made = bendsOfCut(rest, t, see, newId);
    if (!made) return null;
    const shared = pointAt(at.at, own, context);
    const second = newId();
    const point = shared ? { id: shared, at: null } : made.at;
    actions.push(insertPoint(path.id, gone, point, second, made.bends));
    if (shared) meeting.push(shared);
    return { second };
  };
  if (between.after) {
    if (!cut(between.to, between.after)) return {};
    rest = stretchOf(segment, 0, between.to);
    share = between.from / between.to;
  }
  if (between.before) {
    const made = cut(share, between.before);
    if (!made) return {};
    gone = made.second;
  }
  const other = newId();
  actions.push(removePiece(path.id, gone, other));
  for (const point of meeting) actions.push(joinWhereMet(path.id, point));
  return { action: together('trim a piece', ...actions), select: null };
}
