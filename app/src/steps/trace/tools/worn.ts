import { type Segment, splitSegment } from '@steady-moth/core/geometry';
import { insertPoint, setWorn, together } from '@steady-moth/core/job';
import type { Aim } from '../../../board/useAim';
import { derivedPick, NO_PREVIEW, type TraceContext, type TraceOutcome, type TraceTool } from './context';
import { bendOf, type PieceUnder, pieceUnder } from './insert';

/** A stretch shorter than this share of its piece is none. */
const LEAST_SHARE = 1e-3;

/** Marks a stretch of a piece as worn, from one place to another: the piece is parted there, its form kept. */
export const wornTool: TraceTool<PieceUnder | null> = {
  start: () => null,
  wish: () => 'edge',
  snaps: () => false,
  looks: false,
  step(first, event, context): TraceOutcome<PieceUnder | null> {
    if (event.kind === 'move') {
      const end = first && pieceUnder(event.aim.place, context);
      const stretch = end && first && stretchOf(first, end);
      const forms = stretch ? [{ kind: 'chain' as const, segments: [stretch.pieces[1]], closed: false }] : [];
      return { state: first, preview: { ...NO_PREVIEW, forms } };
    }
    if (event.kind === 'cancel') return { state: null, preview: NO_PREVIEW };
    return event.kind === 'place' ? placed(first, event.aim, context) : { state: first };
  },
};

function placed(first: PieceUnder | null, aim: Aim, context: TraceContext): TraceOutcome<PieceUnder | null> {
  const end = pieceUnder(aim.place, context);
  if (!end) return { state: first, show: { snaps: 'press a line, an arc or a curve' } };
  if (!first) return { state: end, show: { snaps: 'one end of the stretch' } };
  const stretch = stretchOf(first, end);
  if (!stretch) return { state: first, show: { snaps: 'press the same piece at its other end' } };
  const action = parted(end, stretch.pieces, aim.sigmaPx, context);
  if (!action) return { state: null, preview: NO_PREVIEW };
  return { state: null, preview: NO_PREVIEW, action, select: { kind: 'path', path: end.path }, isDone: true };
}

/** What lies before a stretch, the stretch, and what lies behind it; null where both ends are not on one piece. */
function stretchOf(a: PieceUnder, b: PieceUnder): { pieces: readonly [Segment, Segment, Segment] } | null {
  const [from, to] = [Math.min(a.t, b.t), Math.max(a.t, b.t)];
  if (a.curve !== b.curve || to - from < LEAST_SHARE) return null;
  const [ahead, behind] = splitSegment(b.segment, to);
  const [before, own] = splitSegment(ahead, from / to);
  return { pieces: [before, own, behind] };
}

function parted(
  { path, curve }: PieceUnder,
  [before, own, behind]: readonly [Segment, Segment, Segment],
  sigmaPx: number,
  context: TraceContext,
) {
  const { newId } = context;
  const [one, two, three] = [before, own, behind].map((piece) => bendOf(piece, sigmaPx, context));
  const [from, to] = [derivedPick(context, own.from, sigmaPx), derivedPick(context, own.to, sigmaPx)];
  if (!one || !two || !three || !from || !to) return null;
  const worn = newId();
  // What the first cut leaves ahead of it is bent anew by the second.
  return together(
    'mark a stretch as worn',
    insertPoint(path, curve, { id: newId(), at: to.at }, newId(), [one, three]),
    insertPoint(path, curve, { id: newId(), at: from.at }, worn, [one, two]),
    setWorn(path, worn, true),
  );
}
