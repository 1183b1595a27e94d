import type { PicturePoint } from '@steady-moth/core/calibration';
import type { Vec2 } from '@steady-moth/core/geometry';
import {
  bend,
  closePath,
  type DecidedSize,
  decideSizes,
  extendPath,
  type JobAction,
  movePicks,
  startPath,
  together,
} from '@steady-moth/core/job';
import {
  type Bend,
  type Expression,
  edgeKept,
  findPath,
  type Id,
  type NewPoint,
  nextName,
  observationOf,
  type Path,
  pathsIn,
  pathsOf,
  type Sketch,
  sketchesOf,
  walkOf,
} from '@steady-moth/core/sketch';
import {
  alongOf,
  arrivesFor,
  arriving,
  bendOfNext,
  closingOf,
  derivedAt,
  endOfNext,
  type Growing,
  lastOf,
  lastPlace,
  nextForms,
  seenAt,
  snapTargets,
  type TypedWay,
} from '@steady-moth/core/tracing';
import type { Aim, SnapTarget } from '../../../board/useAim';
import { NO_PREVIEW, spanBetween } from '../../../part/preview';
import type { ToolEvent } from '../../../tool/tool';
import type { TraceAnswer, TraceContext, TraceHeld, TraceOutcome } from './context';
import { readPiece, type TypedPiece } from './typedPiece';

/** A point at a typed distance is as well placed as the one it is measured from, px. */
const TYPED_SIGMA_PX = 0.1;

type State = { growing: Growing | null };

/** A press within this share of the snap's reach of the last point is that point. */
const SAME_PLACE = 0.35;
/** Presses nearer to each other than this are one place, units of the board. */
const NO_LENGTH = 1e-6;

/**
 * Draws a path piece by piece: lines from press to press; an arc or a curve through one press to the next. The first
 * point closes the path, another path's end joins both, Enter ends it.
 */
export const drawing = {
  targets(state: State, at: Vec2, reach: number, context: TraceContext): SnapTarget[] {
    const { growing } = state;
    const found = isThrough(state, context)
      ? snapTargets(at, reach, null, context).filter((t) => !t.isWeak)
      : snapTargets(at, reach, growing && lastPlace(growing, context), context);
    // A short piece ends near the point that it begins at: only a press right on that one means it.
    const last = growing && lastOf(growing, context.job);
    return found.filter(
      ({ id, place }) => id !== last || Math.hypot(place.x - at.x, place.y - at.y) < SAME_PLACE * reach,
    );
  },

  choose: ({ growing }: State, edges: readonly PicturePoint[], { job }: TraceContext): number =>
    growing ? edgeKept(alongOf(growing, job), growing.end, edges) : 0,

  step(state: State, event: ToolEvent<TraceHeld, TraceAnswer>, context: TraceContext): TraceOutcome<State> {
    const { growing } = state;
    switch (event.kind) {
      case 'move': {
        const last = growing && lastPlace(growing, context);
        if (!last) return { state };
        const to = endOfNext(growing, last, event.aim);
        const preview = { ...NO_PREVIEW, growing, forms: nextForms(growing, last, to, context) };
        return context.isTrue ? { state, preview, show: spanBetween(last, to) } : { state, preview };
      }
      case 'place':
        return placed(state, event.aim, context);
      case 'said':
        return growing ? said(growing, event, context) : { state };
      case 'finish':
        return growing?.path ? { ...grown(null), select: { kind: 'path', path: growing.path } } : grown(null);
      case 'cancel':
        return grown(null);
      default:
        return { state };
    }
  },
};

/**
 * The next press is where a piece goes through: that is seen in the picture, or is a place of the trace; on the extension
 * of the piece before it would be no arc at all.
 */
const isThrough = ({ growing }: State, { piece }: TraceContext): boolean =>
  growing !== null && growing.through === null && (piece === 'arc' || piece === 'curve');

const grown = (growing: Growing | null): TraceOutcome<State> => ({
  state: { growing },
  preview: { ...NO_PREVIEW, growing },
});

/** A point that pieces can end in, where an aim snapped to one; else a new one. */
function pointAt(aim: Aim, { job, newId }: TraceContext): NewPoint {
  const shared = aim.point !== null && observationOf(job.part, aim.point) && isPoint(aim.point, job);
  return shared ? { id: aim.point as Id, at: null } : { id: newId(), at: seenAt(aim) };
}

const isPoint = (id: Id, { part }: TraceContext['job']): boolean =>
  sketchesOf(part).some((s) => Object.hasOwn(s.points, id));

/** The open path that ends at a point, and at which end. */
function endingAt(
  point: Id | null,
  { part }: TraceContext['job'],
): { sketch: Sketch; path: Path; end: 'head' | 'tail' } | null {
  if (point === null) return null;
  for (const sketch of sketchesOf(part))
    for (const path of pathsIn(sketch)) {
      const points = path.closed ? [] : (walkOf(sketch, path)?.points ?? []);
      if (points.length < 2) continue;
      if (points.at(-1) === point) return { sketch, path, end: 'tail' };
      if (points[0] === point) return { sketch, path, end: 'head' };
    }
  return null;
}

function placed(state: State, aim: Aim, context: TraceContext): TraceOutcome<State> {
  const { job, piece } = context;
  const { growing } = state;
  if (!growing || (growing.path !== null && findPath(job.part, growing.path)?.path.closed !== false)) {
    const other = endingAt(aim.point, job);
    return grown(
      other
        ? { path: other.path.id, end: other.end, first: null, through: null, way: null }
        : { path: null, end: 'tail', first: pointAt(aim, context), through: null, way: null },
    );
  }
  if (aim.point !== null && aim.point === lastOf(growing, job)) return { state };
  // With nothing snapping, a second press in one place would be a piece of no length.
  const last = lastPlace(growing, context);
  const isThere = ({ place }: Aim) => last !== null && Math.hypot(place.x - last.x, place.y - last.y) < NO_LENGTH;
  if (isThere(aim)) return { state };
  if ((piece === 'arc' || piece === 'curve') && growing.through === null) return grown({ ...growing, through: aim });
  return drawnTo(growing, aim, context);
}

/** One piece more, to where an aim is. */
function drawnTo(growing: Growing, aim: Aim, context: TraceContext): TraceOutcome<State> {
  const { job, newId } = context;
  const curve = newId();
  const found = growing.path === null ? undefined : findPath(job.part, growing.path);
  const points = found ? (walkOf(found.sketch, found.path)?.points ?? []) : [];
  const far = growing.end === 'tail' ? points[0] : points.at(-1);
  const from = lastPlace(growing, context);
  if (!from) return { state: { growing } };
  // Back to where it began: two pieces are enough where the last one is bent.
  const isBent = growing.end === 'tail' && bendOfNext(growing, from, aim, context) !== null;
  const fewest = isBent || found?.path.uses.some((u) => found.sketch.curves[u.curve]?.kind !== 'line') ? 2 : 3;
  if (growing.path !== null && aim.point !== null && aim.point === far && points.length >= fewest)
    return closed(growing.path, growing, from, aim, context);
  const bent = bendOfNext(growing, from, aim, context);
  const next = growing.way === null ? pointAt(aim, context) : onRay(growing, from, aim, context);
  if (!next) return { state: { growing }, refused: BEYOND };
  const path = growing.path ?? newId();
  const isFirst = growing.path === null && growing.first !== null;
  const drawn: JobAction = isFirst
    ? startPath(newPath(path, job), [growing.first as NewPoint, next], curve)
    : extendPath(path, growing.end, next, curve);
  const turn = arrivesFor(growing, from, endOfNext(growing, from, aim), context);
  const sizes = bent ? [] : directionSizes(growing, curve, context);
  const parts = [
    ...(turn ? [movePicks('turn a handle', turn)] : []),
    drawn,
    ...(bent ? [bend(curve, bent)] : []),
    ...(sizes.length > 0 ? [decideSizes(path, sizes)] : []),
  ];
  const action = parts.length > 1 ? together(drawn.label, ...parts) : drawn;
  const other = next.at === null ? endingAt(next.id, job) : null;
  const meets = other && other.path.id !== path;
  // At another path's end both become one, of which the one in hand stays.
  if (meets) return ended(path, action);
  return { ...grown({ path, end: growing.end, first: null, through: null, way: null }), action };
}

const ended = (path: Id, action: JobAction): TraceOutcome<State> => ({
  ...grown(null),
  action,
  select: { kind: 'path', path },
});

const newPath = (id: Id, { part }: TraceContext['job']) => ({
  id,
  name: pathsOf(part).some((p) => p.uses.length > 1 || !p.closed) ? nextName(part, 'Path') : 'Outer edge',
  role: 'cut' as const,
});

/** The last piece, back to the first point; a curve through places runs on smoothly there too. */
function closed(path: Id, growing: Growing, from: Vec2, aim: Aim, context: TraceContext): TraceOutcome<State> {
  const curve = context.newId();
  const smooth = closingOf(growing, from, context);
  const arrives = arrivesFor(growing, from, aim.place, context);
  const bent = bendOfNext(growing, from, aim, context, smooth?.way ?? null);
  if (!bent || growing.end !== 'tail') return ended(path, closePath(path, curve));
  const turns = { ...arrives, ...smooth?.turn };
  return ended(
    path,
    together(
      'close the path',
      ...(Object.keys(turns).length > 0 ? [movePicks('turn a handle', turns)] : []),
      closePath(path, curve, true),
      bend(curve, bent),
    ),
  );
}

/** A point on the ray that was typed. */
function onRay(growing: Growing, from: Vec2, aim: Aim, context: TraceContext): NewPoint | null {
  const at = derivedAt(context, endOfNext(growing, from, aim), aim.sigmaPx);
  return at && { id: context.newId(), at };
}

const BEYOND = 'That lies beyond what the camera could see.';
const UNREAD = 'Type a length, or for instance 40 at 30, 30 deg, 40 turn 90, x 10 y 5, r 12 turn 90.';

/** What was typed of the next piece: its length stays as long as was typed. */
function said(
  growing: Growing,
  { text, unit }: { text: string; unit: 'mm' | 'in' },
  context: TraceContext,
): TraceOutcome<State> {
  const state = { growing };
  const typed = readPiece(text, unit);
  const last = lastPlace(growing, context);
  if (!typed || !last) return { state, refused: UNREAD };
  const before = arriving(growing, context);
  if (typed.turn !== null && !before) return { state, refused: 'There is no piece before it to turn from.' };
  const angleBefore = before ? Math.atan2(before.y, before.x) : 0;
  if (typed.radius !== null) return arcSaid(growing, typed, last, angleBefore, context);
  if (typed.x !== null || typed.y !== null) {
    const place = { x: typed.x ?? last.x, y: typed.y ?? last.y };
    const { x, y } = typed.texts;
    return to({ ...growing, way: null }, place, context, ({ point }) => [
      ...(x ? [size(context, 'distance', [point], x, 'x')] : []),
      ...(y ? [size(context, 'distance', [point], y, 'y')] : []),
    ]);
  }
  const way: TypedWay | null =
    typed.at !== null
      ? { angle: typed.at, from: 'x', value: typed.texts.at! }
      : typed.turn !== null
        ? { angle: angleBefore + typed.turn, from: 'before', value: typed.texts.turn! }
        : growing.way;
  if (!typed.length) return grown({ ...growing, way });
  const angle = way?.angle ?? context.angle;
  if (angle === null) return { state, refused: 'Point in the direction first, then type the length.' };
  const { mm, value } = typed.length;
  const end = { x: last.x + mm * Math.cos(angle), y: last.y + mm * Math.sin(angle) };
  return to({ ...growing, way }, end, context, ({ point, before }) => [
    size(context, 'distance', [before, point], value),
  ]);
}

/** An arc of a typed radius that leaves tangent to the piece before, and turns by a given angle. */
function arcSaid(
  growing: Growing,
  { radius, turn, texts }: TypedPiece,
  last: Vec2,
  before: number,
  context: TraceContext,
): TraceOutcome<State> {
  if (radius === null || turn === null || turn === 0 || Math.abs(turn) >= 2 * Math.PI)
    return { state: { growing }, refused: 'Of an arc type its radius and how far it turns: r 12 turn 90.' };
  const side = Math.sign(turn);
  // Seen from the middle of the arc: the radius stands square to the way at its beginning and at its end.
  const on = (angle: number): Vec2 => ({
    x: last.x + radius * (-side * Math.sin(before) + side * Math.sin(before + angle)),
    y: last.y + radius * (side * Math.cos(before) - side * Math.cos(before + angle)),
  });
  const via = derivedAt(context, on(turn / 2), TYPED_SIGMA_PX);
  if (!via) return { state: { growing }, refused: BEYOND };
  const bent: Bend = { kind: 'arc', via: { id: context.newId(), at: via } };
  const sizes = ({ curve }: NewPiece) => [
    size(context, 'radius', [curve], texts.radius!),
    size(context, 'angle', [curve], { text: texts.turn!.text.replace(/^-/, ''), unit: 'mm' }),
  ];
  return to({ ...growing, way: null }, on(turn), context, sizes, bent);
}

/** A piece that is drawn: its curve, and the points that it goes from and to. */
interface NewPiece {
  curve: Id;
  before: Id;
  point: Id;
}

const size = (
  { newId }: TraceContext,
  kind: DecidedSize['kind'],
  of: readonly Id[],
  value: Expression,
  along: DecidedSize['along'] = 'straight',
): DecidedSize => ({ id: newId(), kind, of, along, value });

/** A direction that was typed for a straight piece stays: against X, or by its angle with a straight piece before. */
function directionSizes(growing: Growing, curve: Id, context: TraceContext): DecidedSize[] {
  const { way } = growing;
  if (!way) return [];
  if (way.from === 'x') return [size(context, 'angle', [curve], way.value)];
  const found = growing.path === null ? undefined : findPath(context.job.part, growing.path);
  const pieces = found ? (walkOf(found.sketch, found.path)?.pieces ?? []) : [];
  const last = growing.end === 'tail' ? pieces.at(-1) : pieces[0];
  const between = 180 - Math.abs(Number(way.value.text.replace(',', '.')));
  if (last?.curve.kind !== 'line' || !(between > 0 && between < 180)) return [];
  return [size(context, 'angle', [last.curve.id, curve], { text: String(Number(between.toFixed(9))), unit: 'mm' })];
}

/** One piece more, to a place that was typed. */
function to(
  growing: Growing,
  place: Vec2,
  context: TraceContext,
  sizes: (piece: NewPiece) => DecidedSize[],
  bent: Bend | null = null,
): TraceOutcome<State> {
  const { job, newId } = context;
  const here = lastOf(growing, job);
  const at = derivedAt(context, place, TYPED_SIGMA_PX);
  if (!at || here === null) return { state: { growing }, refused: BEYOND };
  const next: NewPoint = { id: newId(), at };
  const path = growing.path ?? newId();
  const curve = newId();
  const line =
    growing.path === null && growing.first
      ? startPath(newPath(path, job), [growing.first, next], curve)
      : extendPath(path, growing.end, next, curve);
  const all = [
    ...sizes({ curve, before: here, point: next.id }),
    ...(bent ? [] : directionSizes(growing, curve, context)),
  ];
  return {
    ...grown({ path, end: growing.end, first: null, through: null, way: null }),
    action: together(
      bent ? 'draw an arc' : 'draw a line',
      line,
      ...(bent ? [bend(curve, bent)] : []),
      decideSizes(path, all),
    ),
  };
}
