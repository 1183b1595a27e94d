import { type Form, handlesThrough, leaving, type Segment, tangentArc, type Vec2 } from '../geometry';
import type { JobDocument } from '../job';
import {
  type Bend,
  type Expression,
  findPath,
  type Id,
  type NewPoint,
  type Observation,
  observationIn,
  observationOf,
  picksOfCurve,
  segmentOfPiece,
  walkOf,
} from '../sketch';
import { type Aimed, derivedPick, type Setting, seenAt } from './setting';

/** The path that is being drawn on, and at which end. */
export interface Growing {
  /** Null as long as only its first point is set: a path begins with its first piece. */
  path: Id | null;
  end: 'head' | 'tail';
  /** The first point of a path that is still to begin. */
  first: NewPoint | null;
  /** What the next piece goes through, where it shall be bent. */
  through: Aimed | null;
  /** The direction that was typed for it: it ends on that ray. */
  way: TypedWay | null;
}

/** A direction as it was typed: against X, or against the piece before. */
export interface TypedWay {
  /** Against X, rad, y up. */
  angle: number;
  from: 'x' | 'before';
  /** As it was typed, in degrees. */
  value: Expression;
}

/** What is looked at to draw on: what the next piece shall be, besides. */
export interface NextSetting extends Setting {
  piece: 'line' | 'arc' | 'curve' | 'tangent' | 'spline';
}

/** What was seen along a path so far. */
export function alongOf(growing: Growing, { part }: JobDocument): Observation[] {
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
export function lastOf(growing: Growing, { part }: JobDocument): Id | null {
  if (growing.path === null) return growing.first?.id ?? null;
  const found = findPath(part, growing.path);
  const points = found && walkOf(found.sketch, found.path)?.points;
  return (growing.end === 'tail' ? points?.at(-1) : points?.[0]) ?? null;
}

/** Where the next piece begins; null where that is gone. */
export function lastPlace(growing: Growing, { job, drawn }: Pick<Setting, 'job' | 'drawn'>): Vec2 | null {
  const { first, path } = growing;
  if (path === null && first?.at) return drawn.placeSeen(first.at);
  const id = lastOf(growing, job);
  return id === null ? null : drawn.placeOf(id);
}

/** Direction in which a path arrives where it is drawn on; null where it has no piece yet. */
export function arriving(growing: Growing, { job, drawn }: Pick<NextSetting, 'job' | 'drawn'>): Vec2 | null {
  const found = growing.path === null ? undefined : findPath(job.part, growing.path);
  const pieces = found && walkOf(found.sketch, found.path)?.pieces;
  const last = growing.end === 'tail' ? pieces?.at(-1) : pieces?.[0];
  if (!last) return null;
  const segment = segmentOfPiece(last, drawn.placeOf);
  if (!segment) return null;
  if (growing.end === 'tail') return leaving(segment);
  const turnedRound = segmentOfPiece({ ...last, reversed: !last.reversed }, drawn.placeOf);
  return turnedRound && leaving(turnedRound);
}

/** Where the next piece ends: where an aim is, or nearest to it on the ray that was typed. */
export function endOfNext(growing: Growing, from: Vec2, aim: Pick<Aimed, 'place' | 'sigmaPx'>): Vec2 {
  if (growing.way === null) return aim.place;
  const [c, s] = [Math.cos(growing.way.angle), Math.sin(growing.way.angle)];
  const along = Math.max(0, (aim.place.x - from.x) * c + (aim.place.y - from.y) * s);
  return { x: from.x + along * c, y: from.y + along * s };
}

/** The next piece as it would be drawn to a place; null where it would have no length. */
function nextSegment(
  growing: Growing,
  a: Vec2,
  b: Vec2,
  context: NextSetting,
  closes: Vec2 | null = null,
): Segment | null {
  const { piece } = context;
  if (a.x === b.x && a.y === b.y) return null;
  const through = growing.through?.place;
  if (piece === 'tangent') {
    const way = arriving(growing, context);
    return way ? tangentArc(a, way, b) : { kind: 'line', from: a, to: b };
  }
  if (piece === 'spline') return splineTo(growing, a, b, closes, context);
  if (piece === 'arc' && through) return { kind: 'arc', from: a, via: through, to: b };
  if (piece === 'curve' && through) return { kind: 'curve', from: a, ...handlesThrough(a, through, b), to: b };
  return { kind: 'line', from: a, to: b };
}

/** The path's last piece, where it is drawn on, and the place before its end. */
function lastPiece(growing: Growing, { job, drawn }: Pick<NextSetting, 'job' | 'drawn'>) {
  const found = growing.path === null ? undefined : findPath(job.part, growing.path);
  const walk = found && walkOf(found.sketch, found.path);
  if (!walk || walk.pieces.length === 0) return null;
  const isTail = growing.end === 'tail';
  const piece = isTail ? walk.pieces[walk.pieces.length - 1]! : walk.pieces[0]!;
  const before = drawn.placeOf(isTail ? walk.points[walk.points.length - 2]! : walk.points[1]!);
  return before && { piece, before };
}

const third = (from: Vec2, way: Vec2, length: number): Vec2 => {
  const own = Math.hypot(way.x, way.y) || 1;
  return { x: from.x + (way.x * length) / 3 / own, y: from.y + (way.y * length) / 3 / own };
};

/** A curve on through the places pressed: where two of them meet both run along the line between their neighbours. */
function splineTo(growing: Growing, a: Vec2, b: Vec2, closes: Vec2 | null, context: NextSetting): Segment {
  const last = lastPiece(growing, context);
  const chord = { x: b.x - a.x, y: b.y - a.y };
  const length = Math.hypot(chord.x, chord.y);
  const way = !last
    ? chord
    : last.piece.curve.kind === 'cubic'
      ? { x: b.x - last.before.x, y: b.y - last.before.y }
      : (arriving(growing, context) ?? chord);
  return {
    kind: 'curve',
    from: a,
    handleFrom: third(a, way, length),
    handleTo: third(b, closes ? { x: -closes.x, y: -closes.y } : { x: -chord.x, y: -chord.y }, length),
    to: b,
  };
}

/** How the curve before has to arrive, so that the next one goes on smoothly: where its last handle goes. */
export function arrivesFor(growing: Growing, a: Vec2, b: Vec2, context: NextSetting): Record<Id, Observation> | null {
  const last = context.piece === 'spline' ? lastPiece(growing, context) : null;
  if (last?.piece.curve.kind !== 'cubic') return null;
  const length = Math.hypot(a.x - last.before.x, a.y - last.before.y);
  const place = third(a, { x: last.before.x - b.x, y: last.before.y - b.y }, length);
  const picks = picksOfCurve(last.piece.curve);
  const isFar = (growing.end === 'tail') !== last.piece.reversed;
  const id = isFar ? picks[1] : picks[0];
  const before = id === undefined ? undefined : observationOf(context.job.part, id);
  const at = before && context.mapper.toPicture(place);
  return id !== undefined && before && at ? { [id]: { ...before, ...at, picture: context.picture.id } } : null;
}

/**
 * How a curve through places has to run where it closes: along the line between the neighbours of its first place. And
 * the first piece's handle there, turned that way. Null of anything else.
 */
export function closingOf(
  growing: Growing,
  a: Vec2,
  context: NextSetting,
): { way: Vec2; turn: Record<Id, Observation> } | null {
  const { job, drawn, mapper, picture, piece } = context;
  const found = piece === 'spline' && growing.path !== null ? findPath(job.part, growing.path) : undefined;
  const walk = found && walkOf(found.sketch, found.path);
  if (!walk || walk.points.length < 2) return null;
  const isTail = growing.end === 'tail';
  const first = isTail ? walk.pieces[0]! : walk.pieces.at(-1)!;
  const [p, q] = (isTail ? walk.points : [...walk.points].reverse()).slice(0, 2).map((id) => drawn.placeOf(id));
  if (first.curve.kind !== 'cubic' || !p || !q) return null;
  const way = { x: q.x - a.x, y: q.y - a.y };
  const picks = picksOfCurve(first.curve);
  const id = isTail !== first.reversed ? picks[0] : picks[1];
  const before = id === undefined ? undefined : observationOf(job.part, id);
  const place = third(p, way, Math.hypot(q.x - p.x, q.y - p.y));
  const at = before && mapper.toPicture(place);
  return id !== undefined && before && at ? { way, turn: { [id]: { ...before, ...at, picture: picture.id } } } : null;
}

/** The same as something to show. */
export function nextForms(growing: Growing, from: Vec2, to: Vec2, context: NextSetting): Form[] {
  const segment = nextSegment(growing, from, to, context);
  return segment ? [{ kind: 'chain', segments: [segment], closed: false }] : [];
}

/** How the next piece is bent, told from its first end on as the curve is kept; null for a line. */
export function bendOfNext(
  growing: Growing,
  from: Vec2,
  aim: Pick<Aimed, 'place' | 'sigmaPx'>,
  context: NextSetting,
  closes: Vec2 | null = null,
): Bend | null {
  const segment = nextSegment(growing, from, endOfNext(growing, from, aim), context, closes);
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
