import type { Segment, Vec2 } from '@steady-moth/core/geometry';
import { putPaths } from '@steady-moth/core/job';
import { MAIN_SKETCH, newSketch, nextName, putForm } from '@steady-moth/core/sketch';
import { hitSegment, seeingWith, snapTargets } from '@steady-moth/core/tracing';
import { inkOf } from '../../../board/inkOf';
import type { Aim } from '../../../board/useAim';
import { NO_PREVIEW } from '../../../part/preview';
import type { TraceContext, TraceOutcome, TraceTool } from './context';
import { readPiece } from './typedPiece';

/** Sine of the angle below which two guides run side by side. */
const PARALLEL_SINE = 1e-9;

/** How near a line is looked for, px of the screen. */
const REACH_PX = 14;
/** How long a guide is on screen where only its direction is said, px. */
const LONG_PX = 400;

type State = { first: Aim; line: { from: Vec2; to: Vec2 } | null } | null;

/**
 * Construction lines, which are not handed over: through two places, at an angle through one, parallel to a line at a
 * distance, and the middle between two lines or two places.
 */
export const guideTool: TraceTool<State> = {
  start: () => null,
  wish: (_, { picture }) => inkOf(picture),
  snaps: ({ snapOff, guide }) => guide === 'through' && !snapOff.includes('edges'),
  targets: (state, at, reach, context) =>
    context.guide === 'parallel' ? [] : snapTargets(at, reach, state?.first.place ?? null, context),
  awaits: (state, { guide, isTrue }) =>
    state && isTrue
      ? guide === 'parallel'
        ? 'Distance from the line'
        : guide === 'through'
          ? 'Direction, or length'
          : null
      : null,
  reads: (_, { guide }) => guide === 'through',
  step(state, event, context) {
    switch (event.kind) {
      case 'place':
        return state ? second(state, event.aim, context) : first(event.aim, context);
      case 'move': {
        const line = state && lineTo(state, event.aim, context);
        return { state, preview: { ...NO_PREVIEW, forms: line ? [alone(line)] : [] } };
      }
      case 'typed': {
        const line = state?.line && beside(state.line, event.mm * sideOf(state.line, context));
        return line ? drawn(line, state.first.sigmaPx, context) : { state };
      }
      case 'said':
        return state ? said(state, event, context) : { state };
      case 'finish':
      case 'cancel':
        return { state: null, preview: NO_PREVIEW };
      default:
        return { state };
    }
  },
};

type Line = { from: Vec2; to: Vec2 };
const alone = ({ from, to }: Line) => ({
  kind: 'chain' as const,
  segments: [{ kind: 'line' as const, from, to }],
  closed: false,
});

/** The straight piece at a place; null where there is none. */
function lineAt(aim: Aim, { drawn: all, scale }: TraceContext): Line | null {
  const hit = hitSegment(all, aim.place, REACH_PX / scale);
  const own = hit?.kind === 'piece' ? all.paths.find((d) => d.path.id === hit.path) : undefined;
  const k = own?.path.uses.findIndex((u) => hit?.kind === 'piece' && u.curve === hit.curve) ?? -1;
  const segment: Segment | undefined = own?.form?.kind === 'chain' ? own.form.segments[k] : undefined;
  return segment?.kind === 'line' ? { from: segment.from, to: segment.to } : null;
}

function first(aim: Aim, context: TraceContext): TraceOutcome<State> {
  const line = context.guide === 'through' ? null : lineAt(aim, context);
  if (context.guide === 'parallel' && !line) return { state: null, show: { snaps: 'press a straight piece first' } };
  return { state: { first: aim, line } };
}

/** The guide that a second press would draw; null where it has no length, or there is no second line. */
function lineTo({ first: start, line }: NonNullable<State>, aim: Aim, context: TraceContext): Line | null {
  const [a, b] = [start.place, aim.place];
  if (context.guide === 'through') return a.x === b.x && a.y === b.y ? null : { from: a, to: b };
  if (context.guide === 'parallel') return line && beside(line, across(line, b));
  const other = lineAt(aim, context);
  if (line && other) return between(line, other);
  return line || (a.x === b.x && a.y === b.y) ? null : bisector(a, b);
}

/** How far a place lies beside a line, left positive, mm. */
function across({ from, to }: Line, p: Vec2): number {
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  return ((to.x - from.x) * (p.y - from.y) - (to.y - from.y) * (p.x - from.x)) / length;
}

function beside({ from, to }: Line, by: number): Line | null {
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  if (!(length > 0) || by === 0) return null;
  const [x, y] = [(-(to.y - from.y) / length) * by, ((to.x - from.x) / length) * by];
  return { from: { x: from.x + x, y: from.y + y }, to: { x: to.x + x, y: to.y + y } };
}

/** To which side of a line the pointer was seen last. */
function sideOf({ from, to }: Line, { angle }: TraceContext): 1 | -1 {
  if (angle === null) return 1;
  return Math.sin(angle - Math.atan2(to.y - from.y, to.x - from.x)) < 0 ? -1 : 1;
}

/** The line of which every place is as far from one line as from the other: half way, or halving the angle. */
function between(a: Line, b: Line): Line {
  const turned =
    (a.to.x - a.from.x) * (b.to.x - b.from.x) + (a.to.y - a.from.y) * (b.to.y - b.from.y) < 0
      ? { from: b.to, to: b.from }
      : b;
  const unit = ({ from, to }: Line): Vec2 => {
    const length = Math.hypot(to.x - from.x, to.y - from.y);
    return { x: (to.x - from.x) / length, y: (to.y - from.y) / length };
  };
  const [u, v] = [unit(a), unit(turned)];
  const det = u.x * v.y - u.y * v.x;
  const length = Math.max(
    Math.hypot(a.to.x - a.from.x, a.to.y - a.from.y),
    Math.hypot(b.to.x - b.from.x, b.to.y - b.from.y),
  );
  const way = { x: (u.x + v.x) / Math.hypot(u.x + v.x, u.y + v.y), y: (u.y + v.y) / Math.hypot(u.x + v.x, u.y + v.y) };
  const mid = (p: Vec2, q: Vec2): Vec2 => ({ x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 });
  const middle = mid(mid(a.from, a.to), mid(b.from, b.to));
  if (Math.abs(det) < PARALLEL_SINE)
    return {
      from: { x: middle.x - (way.x * length) / 2, y: middle.y - (way.y * length) / 2 },
      to: { x: middle.x + (way.x * length) / 2, y: middle.y + (way.y * length) / 2 },
    };
  const off = { x: turned.from.x - a.from.x, y: turned.from.y - a.from.y };
  const t = (off.x * v.y - off.y * v.x) / det;
  const meet = { x: a.from.x + t * u.x, y: a.from.y + t * u.y };
  // As far as the lines themselves reach, seen from where they meet.
  const reach = (p: Vec2) => (p.x - meet.x) * way.x + (p.y - meet.y) * way.y;
  const all = [a.from, a.to, b.from, b.to].map(reach);
  const at = (s: number): Vec2 => ({ x: meet.x + s * way.x, y: meet.y + s * way.y });
  return { from: at(Math.min(0, ...all)), to: at(Math.max(0, ...all)) };
}

/** Square to the line between two places, through its middle, as long as it. */
function bisector(a: Vec2, b: Vec2): Line {
  const [mx, my] = [(a.x + b.x) / 2, (a.y + b.y) / 2];
  const [x, y] = [-(b.y - a.y) / 2, (b.x - a.x) / 2];
  return { from: { x: mx - x, y: my - y }, to: { x: mx + x, y: my + y } };
}

function second(state: NonNullable<State>, aim: Aim, context: TraceContext): TraceOutcome<State> {
  const line = lineTo(state, aim, context);
  if (!line) return { state, show: { snaps: 'press another place or line' } };
  return drawn(line, Math.max(state.first.sigmaPx, aim.sigmaPx), context);
}

/** A direction through the place that was pressed, or a length in the direction of the pointer. */
function said(
  state: NonNullable<State>,
  { text, unit }: { text: string; unit: 'mm' | 'in' },
  context: TraceContext,
): TraceOutcome<State> {
  const typed = readPiece(text, unit);
  const way = typed?.at ?? context.angle;
  if (!typed || way === null || (typed.at === null && !typed.length))
    return { state, refused: 'Type a direction, as 30 deg, or a length, as 40 or 40 at 30.' };
  const a = state.first.place;
  const reach = typed.length?.mm ?? LONG_PX / context.scale;
  const by = { x: reach * Math.cos(way), y: reach * Math.sin(way) };
  const from = typed.length ? a : { x: a.x - by.x / 2, y: a.y - by.y / 2 };
  return drawn({ from, to: { x: from.x + by.x, y: from.y + by.y } }, state.first.sigmaPx, context);
}

function drawn(line: Line, sigmaPx: number, context: TraceContext): TraceOutcome<State> {
  const draft = newSketch(MAIN_SKETCH, '', null);
  const id = context.newId();
  const path = { id, name: nextName(context.job.part, 'Guide'), role: 'reference' as const, layer: null };
  if (!putForm(draft, alone(line), path, seeingWith(context, sigmaPx), context.newId))
    return { state: null, preview: NO_PREVIEW, show: { snaps: 'beyond what the camera could see' } };
  return {
    state: null,
    preview: NO_PREVIEW,
    action: putPaths('draw a construction line', draft),
    select: { kind: 'path', path: id },
  };
}
