import { type Segment, splitSegment, type Vec2 } from '@steady-moth/core/geometry';
import { insertPoint } from '@steady-moth/core/job';
import { type Bend, type Id, type OpenCurve, segmentOfCurve } from '@steady-moth/core/sketch';
import { inkOf } from '../../../board/inkOf';
import type { Aim } from '../../../board/useAim';
import { hitSegment } from '../hit';
import { derivedPick, seenAt, type TraceContext, type TraceOutcome, type TraceTool } from './context';

/** How near a piece is looked for, px of the screen. */
const REACH_PX = 20;

/** Puts a point into a piece, which becomes two. */
export const insertTool: TraceTool<null> = {
  start: () => null,
  wish: (_, { picture }) => inkOf(picture),
  step: (state, event, context) => (event.kind === 'place' ? inserted(event.aim, context) : { state }),
};

/** How a curve is bent that runs as a segment does; null where the camera could not see what bends it. */
export function bendOf(piece: Segment, sigmaPx: number, context: TraceContext): Bend | null {
  if (piece.kind === 'line') return { kind: 'line' };
  if (piece.kind === 'arc') {
    const via = derivedPick(context, piece.via, sigmaPx);
    return via && { kind: 'arc', via };
  }
  const [a, b] = [piece.handleFrom, piece.handleTo].map((p) => derivedPick(context, p, sigmaPx));
  return a && b ? { kind: 'cubic', handles: [a, b] } : null;
}

/** A piece under a place: its curve as it lies, and how far along the curve the place is, from 0 to 1. */
export interface PieceUnder {
  path: Id;
  curve: Id;
  segment: Segment;
  t: number;
}

export function pieceUnder(at: Vec2, { drawn, scale }: TraceContext): PieceUnder | null {
  const found = hitSegment(drawn, at, REACH_PX / scale);
  if (found?.kind !== 'piece') return null;
  const whole = drawn.paths.find((d) => d.path.id === found.path);
  const curve = whole?.sketch.curves[found.curve] as OpenCurve;
  const segment = segmentOfCurve(curve, drawn.placeOf);
  const use = whole?.path.uses.find((u) => u.curve === found.curve);
  if (!segment || !use) return null;
  // Where it was pressed is told along the path; the curve may run the other way.
  return { path: found.path, curve: found.curve, segment, t: use.reversed ? 1 - found.t : found.t };
}

function inserted(aim: Aim, context: TraceContext): TraceOutcome<null> {
  const { newId } = context;
  const found = pieceUnder(aim.place, context);
  if (!found) return { state: null };
  const { segment } = found;
  const pieces = splitSegment(segment, found.t);
  const bends = pieces.map((piece) => bendOf(piece, aim.sigmaPx, context));
  const exact = derivedPick(context, pieces[0].to, aim.sigmaPx);
  // A point on a line goes where the picture's edge is; one on an arc or a curve stays on it, or it would bend anew.
  const at = segment.kind !== 'line' && exact ? exact.at : seenAt(aim);
  const [first, rest] = bends;
  if (!first || !rest) return { state: null };
  const point = newId();
  return {
    state: null,
    action: insertPoint(found.path, found.curve, { id: point, at }, newId(), [first, rest]),
    select: { kind: 'point', path: found.path, point },
  };
}
