import { markWorn, type PieceUnder, pieceUnder, stretchBetween } from '@steady-moth/core/tracing';
import type { Aim } from '../../../board/useAim';
import { NO_PREVIEW } from '../../../part/preview';
import type { TraceContext, TraceOutcome, TraceTool } from './context';
import { REACH_PX } from './insert';

/** Marks a stretch of a piece as worn, from one place to another: the piece is parted there, its form kept. */
export const wornTool: TraceTool<PieceUnder | null> = {
  start: () => null,
  wish: () => 'edge',
  snaps: () => false,
  looks: false,
  step(first, event, context): TraceOutcome<PieceUnder | null> {
    if (event.kind === 'move') {
      const end = first && pieceUnder(event.aim.place, REACH_PX / context.scale, context);
      const stretch = end && first && stretchBetween(first, end);
      const forms = stretch ? [{ kind: 'chain' as const, segments: [stretch.pieces[1]], closed: false }] : [];
      return { state: first, preview: { ...NO_PREVIEW, forms } };
    }
    if (event.kind === 'cancel') return { state: null, preview: NO_PREVIEW };
    return event.kind === 'place' ? placed(first, event.aim, context) : { state: first };
  },
};

function placed(first: PieceUnder | null, aim: Aim, context: TraceContext): TraceOutcome<PieceUnder | null> {
  const end = pieceUnder(aim.place, REACH_PX / context.scale, context);
  if (!end) return { state: first, show: { snaps: 'press a line, an arc or a curve' } };
  if (!first) return { state: end, show: { snaps: 'one end of the stretch' } };
  const stretch = stretchBetween(first, end);
  if (!stretch) return { state: first, show: { snaps: 'press the same piece at its other end' } };
  const action = markWorn(end, stretch.pieces, aim.sigmaPx, context);
  if (!action) return { state: null, preview: NO_PREVIEW };
  return { state: null, preview: NO_PREVIEW, action, select: { kind: 'path', path: end.path }, isDone: true };
}
