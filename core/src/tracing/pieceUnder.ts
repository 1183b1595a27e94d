import { type Segment, splitSegment, type Vec2 } from '../geometry';
import { insertPoint, type JobAction, setWorn, together } from '../job';
import { type Bend, type Id, type OpenCurve, segmentOfCurve } from '../sketch';
import { hitSegment } from './hit';
import { type Aimed, derivedPick, type Seeing, type Setting, seenAt } from './setting';

/** A stretch shorter than this share of its piece is none. */
const LEAST_SHARE = 1e-3;

/** How a curve is bent that runs as a segment does; null where the camera could not see what bends it. */
function bendOf(piece: Segment, sigmaPx: number, context: Seeing): Bend | null {
  if (piece.kind === 'line') return { kind: 'line' };
  if (piece.kind === 'arc') {
    const via = derivedPick(context, piece.via, sigmaPx);
    return via && { kind: 'arc', via };
  }
  const [a, b] = [piece.handleFrom, piece.handleTo].map((p) => derivedPick(context, p, sigmaPx));
  return a && b ? { kind: 'cubic', handles: [a, b] } : null;
}

/** A piece at a place: its curve as it lies, and how far along the curve the place is, from 0 to 1. */
export interface PieceUnder {
  path: Id;
  curve: Id;
  segment: Segment;
  t: number;
}

/** The piece within reach of a place, mm; null where there is none, or a circle. */
export function pieceUnder(at: Vec2, reach: number, { drawn }: Pick<Setting, 'drawn'>): PieceUnder | null {
  const found = hitSegment(drawn, at, reach);
  if (found?.kind !== 'piece') return null;
  const whole = drawn.paths.find((d) => d.path.id === found.path);
  const curve = whole?.sketch.curves[found.curve] as OpenCurve;
  const segment = segmentOfCurve(curve, drawn.placeOf);
  const use = whole?.path.uses.find((u) => u.curve === found.curve);
  if (!segment || !use) return null;
  // Where it was pressed is told along the path; the curve may run the other way.
  return { path: found.path, curve: found.curve, segment, t: use.reversed ? 1 - found.t : found.t };
}

/** A point put into a piece where it is aimed at, which becomes two. Null where it cannot be seen. */
export function pointInserted(
  found: PieceUnder,
  aim: Aimed,
  setting: Setting,
): { action: JobAction; point: Id } | null {
  const { segment } = found;
  const pieces = splitSegment(segment, found.t);
  const [first, rest] = pieces.map((piece) => bendOf(piece, aim.sigmaPx, setting));
  const exact = derivedPick(setting, pieces[0].to, aim.sigmaPx);
  // A point on a line goes where the picture's edge is; one on an arc or a curve stays on it, or it would bend anew.
  const at = segment.kind !== 'line' && exact ? exact.at : seenAt(aim);
  if (!first || !rest) return null;
  const point = setting.newId();
  return { action: insertPoint(found.path, found.curve, { id: point, at }, setting.newId(), [first, rest]), point };
}

/** What lies before a stretch, the stretch, and what lies behind it; null where both ends are not on one piece. */
export function stretchBetween(a: PieceUnder, b: PieceUnder): { pieces: readonly [Segment, Segment, Segment] } | null {
  const [from, to] = [Math.min(a.t, b.t), Math.max(a.t, b.t)];
  if (a.curve !== b.curve || to - from < LEAST_SHARE) return null;
  const [ahead, behind] = splitSegment(b.segment, to);
  const [before, own] = splitSegment(ahead, from / to);
  return { pieces: [before, own, behind] };
}

/** Parts a piece at both ends of a stretch of it, its form kept, and marks the stretch as worn. Null where an end cannot be seen. */
export function markWorn(
  { path, curve }: PieceUnder,
  [before, own, behind]: readonly [Segment, Segment, Segment],
  sigmaPx: number,
  context: Setting,
): JobAction | null {
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
