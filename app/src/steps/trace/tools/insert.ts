import { pieceUnder, pointInserted } from '@steady-moth/core/tracing';
import { inkOf } from '../../../board/inkOf';
import type { Aim } from '../../../board/useAim';
import type { TraceContext, TraceOutcome, TraceTool } from './context';

/** How near a piece is looked for, px of the screen. */
export const REACH_PX = 20;

/** Puts a point into a piece, which becomes two. */
export const insertTool: TraceTool<null> = {
  start: () => null,
  wish: (_, { picture }) => inkOf(picture),
  step: (state, event, context) => (event.kind === 'place' ? inserted(event.aim, context) : { state }),
};

function inserted(aim: Aim, context: TraceContext): TraceOutcome<null> {
  const found = pieceUnder(aim.place, REACH_PX / context.scale, context);
  const made = found && pointInserted(found, aim, context);
  if (!made) return { state: null };
  return { state: null, action: made.action, select: { kind: 'point', path: found.path, point: made.point } };
}
