import type { PicturePoint } from '@steady-moth/core/calibration';
import { handlesThrough, type Vec2 } from '@steady-moth/core/geometry';
import {
  bend,
  closePath,
  decideDistance,
  extendPath,
  type JobAction,
  startPath,
  together,
} from '@steady-moth/core/job';
import {
  type Bend,
  edgeKept,
  findPath,
  type Id,
  type NewPoint,
  nextName,
  type Observation,
  observationIn,
  observationOf,
  type Path,
  pathsIn,
  pathsOf,
  type Sketch,
  sketchesOf,
  walkOf,
} from '@steady-moth/core/sketch';
import type { Aim, SnapTarget } from '../../../board/useAim';
import type { ToolEvent } from '../../../tool/tool';
import { pointsNear } from '../pointsNear';
import {
  derivedAt,
  derivedPick,
  type Growing,
  NO_PREVIEW,
  seenAt,
  spanBetween,
  type TraceAnswer,
  type TraceContext,
  type TraceHeld,
  type TraceOutcome,
} from './context';

/** A point at a typed distance is as well placed as the one it is measured from, px. */
const TYPED_SIGMA_PX = 0.1;

type State = { growing: Growing | null };

/**
 * Draws a path piece by piece: lines from press to press; an arc or a curve through one press to the next. The first
 * point closes the path, another path's end joins both, Enter ends it.
 */
export const drawing = {
  targets: (at: Vec2, reach: number, { drawn, job }: TraceContext): SnapTarget[] =>
    pointsNear(drawn, at, reach).flatMap((id) => {
      const board = drawn.placeOf(id);
      return board ? [{ id, board, sigmaPx: observationOf(job.part, id)?.sigmaPx ?? TYPED_SIGMA_PX }] : [];
    }),

  choose: ({ growing }: State, edges: readonly PicturePoint[], { job }: TraceContext): number =>
    growing ? edgeKept(alongOf(growing, job), growing.end, edges) : 0,

  step(state: State, event: ToolEvent<TraceHeld, TraceAnswer>, context: TraceContext): TraceOutcome<State> {
    const { growing } = state;
    switch (event.kind) {
      case 'move': {
        const last = growing && lastPlace(growing, context);
        return last && context.isTrue ? { state, show: spanBetween(last, event.aim.board) } : { state };
      }
      case 'place':
        return placed(state, event.aim, context);
      case 'typed':
        return growing ? typed(growing, event, context) : { state };
      case 'finish':
        return growing?.path ? { ...grown(null), select: { kind: 'path', path: growing.path } } : grown(null);
      case 'cancel':
        return grown(null);
      default:
        return { state };
    }
  },
};

const grown = (growing: Growing | null): TraceOutcome<State> => ({
  state: { growing },
  preview: { ...NO_PREVIEW, growing },
});

/** What was seen along a path so far. */
function alongOf(growing: Growing, { part }: TraceContext['job']): Observation[] {
  if (growing.path === null) {
    const first = growing.first && (growing.first.at ?? observationOf(part, growing.first.id));
    return first ? [first] : [];
  }
  const found = findPath(part, growing.path);
  return found
    ? (walkOf(found.sketch, found.path)?.points.flatMap((id) => observationIn(found.sketch, id) ?? []) ?? [])
    : [];
}

/** The point that a path grows from. */
function lastOf(growing: Growing, { part }: TraceContext['job']): Id | null {
  if (growing.path === null) return growing.first?.id ?? null;
  const found = findPath(part, growing.path);
  const points = found && walkOf(found.sketch, found.path)?.points;
  return (growing.end === 'tail' ? points?.at(-1) : points?.[0]) ?? null;
}

/** Where the next piece begins, in board units; null where that is gone. */
export function lastPlace(growing: Growing, { job, drawn }: Pick<TraceContext, 'job' | 'drawn'>): Vec2 | null {
  const { first, path } = growing;
  if (path === null && first?.at) return drawn.placeSeen(first.at);
  const id = lastOf(growing, job);
  return id === null ? null : drawn.placeOf(id);
}

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
        ? { path: other.path.id, end: other.end, first: null, through: null }
        : { path: null, end: 'tail', first: pointAt(aim, context), through: null },
    );
  }
  if (aim.point !== null && aim.point === lastOf(growing, job)) return { state };
  if (piece !== 'line' && growing.through === null) return grown({ ...growing, through: aim });
  return drawnTo(growing, aim, context);
}

/** One piece more, to where an aim is. */
function drawnTo(growing: Growing, aim: Aim, context: TraceContext): TraceOutcome<State> {
  const { job, newId } = context;
  const curve = newId();
  const found = growing.path === null ? undefined : findPath(job.part, growing.path);
  const points = found ? (walkOf(found.sketch, found.path)?.points ?? []) : [];
  const far = growing.end === 'tail' ? points[0] : points.at(-1);
  const bent = bendOf(growing, aim, context);
  if (growing.path !== null && aim.point !== null && aim.point === far && points.length >= 3) {
    const closing = closePath(growing.path, curve);
    return ended(
      growing.path,
      bent && growing.end === 'tail' ? together('close the path', closing, bend(curve, bent)) : closing,
    );
  }
  const next = pointAt(aim, context);
  const path = growing.path ?? newId();
  const isFirst = growing.path === null && growing.first !== null;
  const drawn: JobAction = isFirst
    ? startPath(newPath(path, job), [growing.first as NewPoint, next], curve)
    : extendPath(path, growing.end, next, curve);
  const action = bent ? together(drawn.label, drawn, bend(curve, bent)) : drawn;
  const other = next.at === null ? endingAt(next.id, job) : null;
  const meets = other && other.path.id !== path;
  // At another path's end both become one, of which the one in hand stays.
  if (meets) return ended(path, action);
  return { ...grown({ path, end: growing.end, first: null, through: null }), action };
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

/** How the next piece is bent, through the press before this one; null for a line. */
function bendOf(growing: Growing, aim: Aim, context: TraceContext): Bend | null {
  const { through } = growing;
  const { piece } = context;
  const from = lastPlace(growing, context);
  if (!through || !from || piece === 'line') return null;
  if (piece === 'arc') return { kind: 'arc', via: { id: context.newId(), at: seenAt(through) } };
  const up = (p: Vec2) => ({ x: p.x, y: -p.y });
  const handles = handlesThrough(up(from), up(through.board), up(aim.board));
  const own = [handles.handleFrom, handles.handleTo].map((p) => derivedPick(context, p, through.sigmaPx));
  const [a, b] = growing.end === 'tail' ? own : own.reverse();
  return a && b ? { kind: 'cubic', handles: [a, b] } : null;
}

/** A line of a typed length in the direction of the pointer; it stays as long as was typed. */
function typed(
  growing: Growing,
  { value, mm }: { value: { text: string; unit: 'mm' | 'in' }; mm: number },
  context: TraceContext,
): TraceOutcome<State> {
  const { angle, job, newId } = context;
  const state = { growing };
  const last = lastPlace(growing, context);
  const here = lastOf(growing, job);
  if (angle === null || !last || here === null)
    return { state, refused: 'Point in the direction first, then type the length.' };
  const board = { x: last.x + mm * Math.cos(angle), y: last.y - mm * Math.sin(angle) };
  const at = derivedAt(context, board, TYPED_SIGMA_PX);
  if (!at) return { state, refused: 'That lies beyond what the camera could see.' };
  const next: NewPoint = { id: newId(), at };
  const path = growing.path ?? newId();
  const curve = newId();
  const line =
    growing.path === null && growing.first
      ? startPath(newPath(path, job), [growing.first, next], curve)
      : extendPath(path, growing.end, next, curve);
  return {
    ...grown({ path, end: growing.end, first: null, through: null }),
    action: together('draw a line', line, decideDistance(path, newId(), [here, next.id], value)),
  };
}
