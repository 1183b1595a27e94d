import type { Vec2 } from '@steady-moth/core/geometry';
import type { Growing } from '@steady-moth/core/tracing';
import { inkOf } from '../../../board/inkOf';
import type { TraceContext, TraceHeld, TraceTool } from './context';
import { drawing } from './draw';
import { grabbing } from './grab';

export interface PathState {
  growing: Growing | null;
  held: TraceHeld | null;
}

/** No tool in hand: takes hold of what is there. */
export const grabTool: TraceTool<PathState> = {
  start: () => ({ growing: null, held: null }),
  wish: () => null,
  targets: grabbing.targets,
  awaits: (_, context) => grabbing.awaits(context),
  step: (state, event, context) => merged(state, grabbing.step(state, event, context, null)),
};

/**
 * Line, Arc and Curve: a path goes on from one to the other. While none is being drawn a drag with Arc and Curve takes hold of
 * a piece and bows it; a press begins a path, on a piece exactly on it.
 */
export const pathTool: TraceTool<PathState> = {
  start: () => ({ growing: null, held: null }),
  wish: (_, { picture }) => inkOf(picture),
  snaps: ({ snapOff }) => !snapOff.includes('edges'),
  targets: (state, at, reach, context) =>
    state.held && !isPressOn(state.held, at, reach)
      ? grabbing.targets(state, at, reach, context)
      : drawing.targets(state, at, reach, context),
  choose: (state, edges, context) => drawing.choose(state, edges, context),
  awaits: ({ growing }, context) => {
    if (growing) return context.isTrue && isStraight(context) ? 'Length of this line' : null;
    return isStraight(context) ? null : grabbing.awaits(context);
  },
  reads: ({ growing }, context) => growing !== null && isStraight(context),
  step(state, event, context) {
    const { piece } = context;
    const bow = piece === 'arc' || piece === 'curve' ? piece : piece === 'spline' ? 'curve' : null;
    const bows = bow !== null && !state.growing;
    const isHolding =
      event.kind === 'let-go' || event.kind === 'drop' || state.held !== null || (bows && event.kind !== 'place');
    if (event.kind === 'cancel') return merged({ ...state, held: null }, drawing.step(state, event, context));
    // Not dragged, what was pressed on is where the first piece begins: exactly on it.
    if (event.kind === 'drop' && event.held.kind === 'bow' && !event.isMoved && bows)
      return merged({ ...state, held: null }, drawing.step(state, { kind: 'place', aim: event.aim }, context));
    return isHolding
      ? merged(state, grabbing.step(state, event, context, bow))
      : merged(state, drawing.step(state, event, context));
  },
};

/** What is held was pressed here and not dragged yet. */
const isPressOn = (held: TraceHeld, at: Vec2, reach: number): boolean =>
  held.kind === 'bow' && Math.hypot(at.x - held.from.x, at.y - held.from.y) < reach;

/** Line, or an arc tangent to what came before: each ends where the next press is. */
const isStraight = ({ piece }: TraceContext): boolean => piece === 'line' || piece === 'tangent';

/** Each of both knows its own half of the state. */
const merged = <Outcome extends { state: Partial<PathState> }>(
  state: PathState,
  outcome: Outcome,
): Outcome & { state: PathState } => ({ ...outcome, state: { ...state, ...outcome.state } });
