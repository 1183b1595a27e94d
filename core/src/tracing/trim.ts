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
} from '../geometry';
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
} from '../job';
import {
  bendsOfCut,
  type Dimension,
  type EvaluatedPath,
  type Id,
  MAIN_SKETCH,
  newSketch,
  type OpenCurve,
  planeOfPath,
  putForm,
  segmentOfCurve,
  walkOf,
} from '../sketch';
import { hitSegment } from './hit';
import { derivedAt, type Setting, seeingWith } from './setting';

/** Between crossings that are less apart, rad, nothing of a circle is left to take. */
const ONE_CROSSING_RAD = 1e-6;

/** A place worked out from pieces is as well known as a point set by hand, px. */
const SIGMA_PX = 0.3;
/** A crossing nearer to another path's point than this is that point, mm. */
const SAME_POINT_MM = 1e-3;

/** What a press on a piece would do, and what is shown of it. */
export type TrimPlan = { shown: Form; own: EvaluatedPath } & (
  | { kind: 'trim'; curve: Id; segment: Segment; between: Between }
  | { kind: 'round'; left: Segment }
  | { kind: 'extend'; point: Id; to: Vec2 }
  | { kind: 'none' }
);

const alone = (segment: Segment): Form => ({ kind: 'chain', segments: [segment], closed: false });

/** What a press at a place, within reach of a piece, mm, would do; null where no piece is near. */
export function trimPlan(at: Vec2, reach: number, { drawn }: Pick<Setting, 'drawn'>): TrimPlan | null {
  const hit = hitSegment(drawn, at, reach);
  const own = hit && drawn.paths.find((d) => d.path.id === hit.path);
  if (!hit || !own?.form) return null;
  const others = othersOf(drawn.paths);
  if (hit.kind === 'circle') return planOfCircle(own, at, others.near);
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
function planOfCircle(own: EvaluatedPath, at: Vec2, near: (s: Segment) => Segment[]): TrimPlan | null {
  const { form } = own;
  if (form?.kind !== 'circle') return null;
  const { centre, radius } = form;
  const angleOf = (p: Vec2) => Math.atan2(p.y - centre.y, p.x - centre.x);
  const on = (a: number): Vec2 => ({ x: centre.x + radius * Math.cos(a), y: centre.y + radius * Math.sin(a) });
  const arc = (a: number, b: number): Segment => ({ kind: 'arc', from: on(a), via: on((a + b) / 2), to: on(b) });
  const crossings = segmentsOf(form).flatMap((half) => near(half).flatMap((o) => crossingsOf(half, o)));
  const here = angleOf(at);
  const ahead = crossings.map((c) => turn(angleOf(c.at) - here)).sort((a, b) => a - b);
  const [first, last] = [ahead[0], ahead.at(-1)];
  if (first === undefined || last === undefined || last - first < ONE_CROSSING_RAD)
    return { kind: 'none', own, shown: form };
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

const kept = new WeakMap<readonly EvaluatedPath[], Others>();

/** Everything that pieces can cross, found by boxes: built once for a drawing. */
function othersOf(paths: readonly EvaluatedPath[]): Others {
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

/** What the plan comes to: the change, and what is chosen then. Null where it does nothing, or cannot be seen. */
export function trimmed(plan: TrimPlan, setting: Setting): { action: JobAction; path: Id | null } | null {
  switch (plan.kind) {
    case 'none':
      return null;
    case 'extend':
      return extended(plan, setting);
    case 'round':
      return roundTrimmed(plan, setting);
    case 'trim':
      return pieceTrimmed(plan, setting);
  }
}

function roundTrimmed(
  { own, left }: Extract<TrimPlan, { kind: 'round' }>,
  setting: Setting,
): { action: JobAction; path: Id } | null {
  const { path, sketch } = own;
  const draft = newSketch(MAIN_SKETCH, '', null);
  const id = setting.newId();
  if (!putForm(draft, alone(left), { ...path, id }, seeingWith(setting, SIGMA_PX), setting.newId)) return null;
  const arc = Object.keys(draft.curves)[0]!;
  const action = together(
    'trim a circle',
    putPaths('', draft, [path.id]),
    setPathPlane(id, planeOfPath(sketch, path)),
    addDimensions(sketch.id, sizesKept(own, arc, setting.newId)),
  );
  return { action, path: id };
}

/** Sizes of a circle alone, said of the arc that is left of it: what was typed stays typed. */
function sizesKept({ sketch, path }: EvaluatedPath, arc: Id, newId: () => Id): Dimension[] {
  const circle = path.uses[0]!.curve;
  return Object.values(sketch.dimensions)
    .filter((d) => d.refs.length === 1 && d.refs[0]!.id === circle && (d.kind === 'diameter' || d.kind === 'radius'))
    .map((d) => ({ ...d, id: newId(), refs: [{ ...d.refs[0]!, id: arc }] }));
}

function extended(
  { own, point, to }: Extract<TrimPlan, { kind: 'extend' }>,
  context: Setting,
): { action: JobAction; path: Id } | null {
  const { path } = own;
  const meets = pointAt(to, own, context);
  if (meets && meets !== point) return { action: joinPoints(meets, point, path.id), path: path.id };
  const at = derivedAt(context, to, SIGMA_PX);
  return at && { action: extendTo(path.id, point, at), path: path.id };
}

/** A point of the same sketch in a place; null where none is. */
function pointAt(
  at: Vec2,
  { sketch: { id } }: EvaluatedPath,
  { job, drawn }: Pick<Setting, 'job' | 'drawn'>,
): Id | null {
  const sketch = job.part.sketches[id];
  for (const point of Object.keys(sketch?.points ?? {})) {
    const place = drawn.placeOf(point);
    if (place && Math.hypot(place.x - at.x, place.y - at.y) < SAME_POINT_MM) return point;
  }
  return null;
}

/** Cuts at the farther crossing first, so that shares of what is left before it are still shares of the whole. */
function pieceTrimmed(
  { own, curve, segment, between }: Extract<TrimPlan, { kind: 'trim' }>,
  context: Setting,
): { action: JobAction; path: null } | null {
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
    if (!cut(between.to, between.after)) return null;
    rest = stretchOf(segment, 0, between.to);
    share = between.from / between.to;
  }
  if (between.before) {
    const made = cut(share, between.before);
    if (!made) return null;
    gone = made.second;
  }
  const other = newId();
  actions.push(removePiece(path.id, gone, other));
  for (const point of meeting) actions.push(joinWhereMet(path.id, point));
  return { action: together('trim a piece', ...actions), path: null };
}
