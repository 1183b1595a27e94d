import { type Circle, circleThrough, type Form, type Segment, type Vec2 } from '../geometry';
import { decidedDiameter, decidedOf, lengthOf } from './expression';
import type { CircleCurve, Curve, Id, OpenCurve, Path, Sketch } from './part';
import { type Piece, picksOfCurve, walkOf } from './walk';

/** Where a point or a pick lies, mm, y up; null where it has no place. */
export type Placer = (id: Id) => Vec2 | null;

/** A curve as a segment, run along from its `from` to its `to`; null where something of it has no place. */
export function segmentOfCurve(curve: OpenCurve, place: Placer): Segment | null {
  const [from, to] = [place(curve.from), place(curve.to)];
  if (!from || !to) return null;
  if (curve.kind === 'line') return { kind: 'line', from, to };
  const [first, second] = picksOfCurve(curve).map(place);
  if (curve.kind === 'arc') return first ? { kind: 'arc', from, via: first, to } : null;
  return first && second ? { kind: 'curve', from, handleFrom: first, handleTo: second, to } : null;
}

/** A segment run along the other way. */
export function reversedSegment(segment: Segment): Segment {
  const { from, to } = segment;
  if (segment.kind === 'curve')
    return { kind: 'curve', from: to, handleFrom: segment.handleTo, handleTo: segment.handleFrom, to: from };
  return { ...segment, from: to, to: from };
}

/** A piece of a path as it is run along. */
export function segmentOfPiece({ curve, reversed }: Piece, place: Placer): Segment | null {
  const segment = segmentOfCurve(curve as OpenCurve, place);
  return segment && reversed ? reversedSegment(segment) : segment;
}

/**
 * A circle through its three places; about its centre, as wide as was decided, where no rim was seen. Null where the places
 * lie on one line, or nothing says how large it is. `isTrue`: places are in millimetres, so that a size that was typed
 * means something.
 */
export function circleOf(sketch: Sketch, curve: CircleCurve, place: Placer, isTrue: boolean): Circle | null {
  const [a, b, c] = picksOfCurve(curve).map(place);
  if (curve.evidence.length > 0) return a && b && c ? circleThrough(a, b, c) : null;
  const dimension = isTrue ? decidedDiameter(sketch, curve.id) : null;
  const typed = dimension && decidedOf(dimension);
  const decided = typed && lengthOf(typed);
  const centre = place(curve.centre);
  return centre && decided !== null ? { centre, radius: decided / 2 } : null;
}

/**
 * A path as a form in mm, from the places of what it is made of; null where something has no place, and for a path of
 * no curve.
 */
export function formOf(sketch: Sketch, path: Path, place: Placer, isTrue = true): Form | null {
  const walk = walkOf(sketch, path);
  if (!walk || walk.pieces.length === 0) return null;
  const first: Curve = walk.pieces[0]!.curve;
  if (first.kind === 'circle') {
    const circle = circleOf(sketch, first, place, isTrue);
    return circle && { kind: 'circle', ...circle };
  }
  const segments: Segment[] = [];
  for (const piece of walk.pieces) {
    const segment = segmentOfPiece(piece, place);
    if (!segment) return null;
    segments.push(segment);
  }
  return { kind: 'chain', segments, closed: path.closed };
}
