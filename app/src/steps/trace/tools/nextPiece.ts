import { type Form, handlesThrough, leaving, type Segment, tangentArc, type Vec2 } from '@steady-moth/core/geometry';
import { type Bend, findPath, segmentOfPiece, walkOf } from '@steady-moth/core/sketch';
import type { Aim } from '../../../board/useAim';
import { derivedPick, type Growing, seenAt, type TraceContext } from './context';

const up = ({ x, y }: Vec2): Vec2 => ({ x, y: -y });

/** Direction in which a path arrives where it is drawn on, y up; null where it has no piece yet. */
export function arriving(growing: Growing, { job, drawn }: Pick<TraceContext, 'job' | 'drawn'>): Vec2 | null {
  const found = growing.path === null ? undefined : findPath(job.part, growing.path);
  const pieces = found && walkOf(found.sketch, found.path)?.pieces;
  const last = growing.end === 'tail' ? pieces?.at(-1) : pieces?.[0];
  if (!last) return null;
  const segment = segmentOfPiece(last, (id) => {
    const at = drawn.placeOf(id);
    return at && up(at);
  });
  if (!segment) return null;
  if (growing.end === 'tail') return leaving(segment);
  const turnedRound = segmentOfPiece({ ...last, reversed: !last.reversed }, (id) => {
    const at = drawn.placeOf(id);
    return at && up(at);
  });
  return turnedRound && leaving(turnedRound);
}

/** Where the next piece ends: where an aim is, or nearest to it on the ray that was typed. Board units. */
export function endOfNext(growing: Growing, from: Vec2, aim: Aim): Vec2 {
  if (growing.way === null) return aim.board;
  const [c, s] = [Math.cos(growing.way), -Math.sin(growing.way)];
  const along = Math.max(0, (aim.board.x - from.x) * c + (aim.board.y - from.y) * s);
  return { x: from.x + along * c, y: from.y + along * s };
}

/** The next piece as it would be drawn to a place of the board, y up; null where it would have no length. */
function nextSegment(growing: Growing, from: Vec2, to: Vec2, context: TraceContext): Segment | null {
  const [a, b] = [up(from), up(to)];
  const { piece } = context;
  if (a.x === b.x && a.y === b.y) return null;
  const through = growing.through && up(growing.through.board);
  if (piece === 'tangent') {
    const way = arriving(growing, context);
    return way ? tangentArc(a, way, b) : { kind: 'line', from: a, to: b };
  }
  if (piece === 'arc' && through) return { kind: 'arc', from: a, via: through, to: b };
  if (piece === 'curve' && through) return { kind: 'curve', from: a, ...handlesThrough(a, through, b), to: b };
  return { kind: 'line', from: a, to: b };
}

/** The same as something to show. */
export function nextForms(growing: Growing, from: Vec2, to: Vec2, context: TraceContext): Form[] {
  const segment = nextSegment(growing, from, to, context);
  return segment ? [{ kind: 'chain', segments: [segment], closed: false }] : [];
}

/** How the next piece is bent, told from its first end on as the curve is kept; null for a line. */
export function bendOfNext(growing: Growing, from: Vec2, aim: Aim, context: TraceContext): Bend | null {
  const segment = nextSegment(growing, from, endOfNext(growing, from, aim), context);
  if (!segment || segment.kind === 'line') return null;
  if (segment.kind === 'arc') {
    if (context.piece === 'arc' && growing.through)
      return { kind: 'arc', via: { id: context.newId(), at: seenAt(growing.through) } };
    // It was not seen there: it is as well known as both its ends.
    const via = derivedPick(context, segment.via, aim.sigmaPx);
    return via && { kind: 'arc', via };
  }
  const sigmaPx = growing.through?.sigmaPx ?? aim.sigmaPx;
  const own = [segment.handleFrom, segment.handleTo].map((p) => derivedPick(context, p, sigmaPx));
  const [a, b] = growing.end === 'tail' ? own : own.reverse();
  return a && b ? { kind: 'cubic', handles: [a, b] } : null;
}
