import {
  axisFrom,
  type Calibration,
  type Figure,
  figureAt,
  figureOf,
  type PartFrame,
  type PlacedPicks,
  placeOfPick,
  placePicks,
  silhouettePicks,
  sumAt,
  type TurnedAxis,
  type TurnedPart,
} from '../../calibration';
import { arcShape, circleThrough, type Segment, segmentArea, segmentLength, type Vec2 } from '../../geometry';
import {
  decidedDiameter,
  decidedDistance,
  decidedOf,
  formOf,
  type Id,
  isCircle,
  lengthOf,
  observationIn,
  type Path,
  type Piece,
  picksOfCurve,
  placedOnTurned,
  planeOfPath,
  pointsOfCurve,
  type Sketch,
  segmentOfPiece,
  TURNED,
  tangentAt,
  walkOf,
} from '../../sketch';
import { onPlane, planeUnder, turnedOf } from '../calibrationInput';
import type { CalibrationRecord } from '../document/document';
import { leadingOf, overallAlong } from './overall';
import { clustersAlong, holdTogether, measuredOf, seenAlong, type Traced } from './sizes/holdTogether';

/** What is measured of one piece. Lengths in mm, angles in rad. */
export interface PieceMeasures {
  kind: Segment['kind'];
  length: Figure;
  /** Its length was decided, not measured: the name of the size that says so. */
  decided: Id | null;
  /** Arcs only. */
  radius: Figure | null;
  /** Angle swept by an arc, or the direction of a line against X. */
  angle: Figure | null;
}

/** What is measured of one path. */
export interface PathMeasures {
  length: Figure;
  /** mm²; null for an open path. */
  area: Figure | null;
  diameter: Figure | null;
  /** Of a closed form, how long and how wide it is along and across the straight piece that it is laid by; else null. */
  overall: [long: Figure, wide: Figure] | null;
  /** Of a circle whose diameter was decided: the name of the size that says so, and what was measured. */
  decided: { size: Id; seen: Figure | null } | null;
  /** By the curve's name: those that were asked for. */
  pieces: Record<Id, PieceMeasures>;
  /** Angle inside each corner between two pieces, rad, by the point at which they meet. */
  corners: Record<Id, Figure>;
}

/** Which pieces of a path are measured by themselves, by their place along it, from one up to another; all where left out. */
export interface MeasuredPieces {
  from: number;
  to: number;
}

/**
 * Measures a path with its ±: lengths, radii, angles, perimeter and area through the calibration's joint covariance and
 * the scatter of its own points, what was decided kept; `frame`: how the part lies in the calibration's world, for what
 * holds things along X or Y; null where it lies as that does. A figure costs what its own points
 * cost, and all of them together what the path costs once. `said` is what is said of the picture that it was traced on,
 * or of the first one of joined ones that it reaches over. Null where the path has no form on its plane.
 */
export function measurePath(
  sketch: Sketch,
  path: Path,
  calibration: Calibration,
  said: CalibrationRecord,
  asked: MeasuredPieces | null = null,
  frame: PartFrame | null = null,
): PathMeasures | null {
  const found = tracedOf(sketch, path, calibration, said);
  if (!found) return null;
  const { traced, turned } = found;
  const range = {
    from: Math.max(0, asked?.from ?? 0),
    to: Math.min(traced.walk.pieces.length, asked?.to ?? Number.POSITIVE_INFINITY),
  };
  if (isCircle(sketch, path)) return measureCircle(traced, calibration, frame);
  return turned ? measureTurned(traced, calibration, turned, range) : measureChain(traced, calibration, range, frame);
}

/** A path with what was seen of it, and the turned part that it was traced on, if any; null where nothing was seen. */
function tracedOf(
  sketch: Sketch,
  path: Path,
  calibration: Calibration,
  said: CalibrationRecord,
): { traced: Traced; turned: TurnedPart | null } | null {
  const walk = walkOf(sketch, path);
  if (!walk || walk.pieces.length === 0) return null;
  const clusters = clustersAlong(sketch, measuredOf(walk));
  const ids = seenAlong(sketch, measuredOf(walk), clusters);
  const seen = ids.flatMap((id) => observationIn(sketch, id) ?? []);
  if (seen.length === 0) return null;
  // A silhouette is seen from one lens: over several pictures, or in a scan, the path is measured as it lies.
  const seenByOne = calibration.lens === 'photo' && seen.every((at) => at.picture === seen[0]!.picture);
  const turned = planeOfPath(sketch, path) === TURNED && seenByOne ? turnedOf(said) : null;
  // Of joined pictures each point is placed through its own.
  const picks = seen.map((at) => ({ ...onPlane(at, planeUnder(at.plane, said)), picture: at.picture }));
  return { traced: { sketch, path, walk, ids, picks, clusters }, turned };
}

/**
 * A figure of a path that was traced on a turned part, as a function of its pieces and the axis where they truly lie, mm; null
 * for any other path.
 */
export function measureOnTurned(
  sketch: Sketch,
  path: Path,
  calibration: Calibration,
  said: CalibrationRecord,
  what: (segments: Segment[], axis: TurnedAxis) => number,
): Figure | null {
  const found = tracedOf(sketch, path, calibration, said);
  return found?.turned ? turnedMeasure(found.traced, calibration, found.turned)(what) : null;
}

/** A figure that nobody measured. */
const exactly = (value: number): Figure => ({ value, plusMinus: 0 });

function measureCircle(traced: Traced, calibration: Calibration, frame: PartFrame | null): PathMeasures | null {
  const { sketch, walk, ids, picks } = traced;
  const circle = walk.pieces[0]!.curve;
  const dimension = decidedDiameter(sketch, circle.id);
  const typed = dimension && decidedOf(dimension);
  const decided = typed && lengthOf(typed);
  const rim = picksOfCurve(circle).map((id) => ids.indexOf(id));
  const all = rim.length === 3 ? placePicks(calibration, picks, frame) : null;
  const radius = (p: Float64Array): number =>
    circleThrough(placeOf(p, 0), placeOf(p, 1), placeOf(p, 2))?.radius ?? Number.POSITIVE_INFINITY;
  const isRound = all && Number.isFinite(radius(Float64Array.from(rim.flatMap((k) => placeOfPick(all, k)))));
  const held = isRound ? holdTogether(traced, measuredOf(walk), all) : null;
  const measure = (from: PlacedPicks | null, what: (r: number) => number): Figure | null =>
    isRound && from ? figureAt(from, rim, (p) => what(radius(p))) : null;
  const seen = measure(all, (r) => 2 * r);
  const whole = (what: (r: number) => number) => (decided === null ? measure(held, what) : exactly(what(decided / 2)));
  const length = whole((r) => 2 * Math.PI * r);
  if (!length) return null;
  return {
    length,
    area: whole((r) => Math.PI * r * r),
    diameter: whole((r) => 2 * r),
    overall: null,
    decided: dimension && decided !== null ? { size: dimension.id, seen } : null,
    pieces: {},
    corners: {},
  };
}

function measureChain(
  traced: Traced,
  calibration: Calibration,
  range: MeasuredPieces,
  frame: PartFrame | null,
): PathMeasures | null {
  const { sketch, path, walk, ids, picks } = traced;
  const placed = placePicks(calibration, picks, frame);
  if (!placed) return null;
  const all = holdTogether(traced, measuredOf(walk), placed);
  const index = new Map(ids.map((id, k) => [id, k]));
  const parts = walk.pieces.map((piece) => partOf(piece, index));
  const corners: Record<Id, Figure> = {};
  const pieces: Record<Id, PieceMeasures> = {};
  for (let k = range.from; k < range.to; k++) {
    const { at, segmentOf } = parts[k]!;
    const { curve } = walk.pieces[k]!;
    const own = (what: (segment: Segment) => number) => figureAt(all, at, (p) => what(segmentOf(p)));
    const isArc = curve.kind === 'arc';
    const decided = curve.kind === 'line' ? decidedDistance(sketch, curve.from, curve.to) : null;
    pieces[curve.id] = {
      kind: curve.kind === 'cubic' ? 'curve' : isArc ? 'arc' : 'line',
      length: own(segmentLength),
      decided: decided?.id ?? null,
      radius: isArc ? own(radiusOf) : null,
      angle: isArc ? own(sweepOf) : null,
    };
    const before = k > 0 ? parts[k - 1] : path.closed ? parts[parts.length - 1] : null;
    if (before && before !== parts[k]) corners[walk.points[k]!] = cornerAt(all, before, parts[k]!);
  }
  const terms = parts.map((part) => part.at);
  const sumOf = (what: (segment: Segment) => number, finish?: (sum: number) => number) =>
    sumAt(all, terms, (k) => (p) => what(parts[k]!.segmentOf(p)), finish);
  return {
    length: sumOf(segmentLength),
    area: path.closed ? sumOf(segmentArea, Math.abs) : null,
    diameter: null,
    overall: path.closed ? overallOf(all, parts) : null,
    decided: null,
    pieces,
    corners,
  };
}

/** A piece by the numbers of the picks that it hangs on, and as a segment of their places. */
interface Part {
  at: number[];
  segmentOf(places: Float64Array): Segment;
}

function partOf(piece: Piece, index: ReadonlyMap<Id, number>): Part {
  const ids = [...pointsOfCurve(piece.curve), ...picksOfCurve(piece.curve)];
  const slot = new Map(ids.map((id, k) => [id, k]));
  return {
    at: ids.map((id) => index.get(id) as number),
    segmentOf: (places) => segmentOfPiece(piece, (id) => placeOf(places, slot.get(id) as number)) as Segment,
  };
}

/** How long and how wide a form is, by the picks of the pieces that reach furthest and of the one that it is laid by. */
function overallOf(all: PlacedPicks, parts: readonly Part[]): PathMeasures['overall'] {
  const place = (part: Part) => part.segmentOf(Float64Array.from(part.at.flatMap((k) => placeOfPick(all, k))));
  const placed = parts.map(place);
  const leading = leadingOf(placed);
  if (!leading) return null;
  const telling = [leading.lead, ...leading.reach].map((k) => parts[k]!);
  const at = [...new Set(telling.flatMap((part) => part.at))];
  const slots = telling.map((part) => part.at.map((pick) => at.indexOf(pick)));
  const figure = (which: 0 | 1): Figure =>
    figureAt(all, at, (p) => {
      const segments = telling.map((part, k) =>
        part.segmentOf(Float64Array.from(slots[k]!.flatMap((slot) => [p[2 * slot]!, p[2 * slot + 1]!]))),
      );
      return overallAlong(segments[0]!, segments.slice(1))[which];
    });
  const [along, across] = overallAlong(placed[leading.lead]!, placed);
  // Which of them is the longer one is not asked again where things scatter: a square would come out too long.
  return along >= across ? [figure(0), figure(1)] : [figure(1), figure(0)];
}

/** The angle between two pieces: over their picks together, of which they share one or, in a path of two, both ends. */
function cornerAt(all: PlacedPicks, before: Part, after: Part): Figure {
  const at = [...new Set([...before.at, ...after.at])];
  const from = (part: Part, places: Float64Array): Segment => {
    const own = new Float64Array(2 * part.at.length);
    part.at.forEach((pick, j) => {
      const k = at.indexOf(pick);
      own[2 * j] = places[2 * k]!;
      own[2 * j + 1] = places[2 * k + 1]!;
    });
    return part.segmentOf(own);
  };
  return figureAt(all, at, (p) => angleBetween(from(before, p), from(after, p)));
}

/** Figures of a path on a turned part, each a function of its pieces and of the axis, where they truly lie. */
function turnedMeasure(
  { sketch, path, ids, picks }: Pick<Traced, 'sketch' | 'path' | 'ids' | 'picks'>,
  calibration: Calibration,
  turned: TurnedPart,
) {
  const index = new Map(ids.map((id, k) => [id, k]));
  const axisAt = 2 * picks.length;
  return (what: (segments: Segment[], axis: TurnedAxis) => number) =>
    figureOf(calibration, [...picks, ...silhouettePicks(turned)], (places, lens) => {
      const seen = (id: string) => placeOf(places, index.get(id) as number);
      const axis = axisFrom(places, axisAt, lens);
      const placed = placedOnTurned(sketch, path, seen, axis, lens);
      const form = formOf(sketch, path, placed);
      // A form that falls apart in a scattered draw counts as endlessly far, so that the ± is not made too small.
      return form?.kind === 'chain' ? what(form.segments, axis) : Number.POSITIVE_INFINITY;
    });
}

/**
 * On a turned part each place hangs on its neighbours' and on the axis: every figure is a function of all of them. Such
 * a path is a profile of some dozens of points.
 */
function measureTurned(
  traced: Traced,
  calibration: Calibration,
  turned: TurnedPart,
  range: MeasuredPieces,
): PathMeasures | null {
  const { path, walk } = traced;
  const measure = turnedMeasure(traced, calibration, turned);
  const length = measure((all) => all.reduce((sum, s) => sum + segmentLength(s), 0));
  if (!length) return null;
  const pieces: Record<Id, PieceMeasures> = {};
  const corners: Record<Id, Figure> = {};
  const count = walk.pieces.length;
  for (let k = range.from; k < range.to; k++) {
    const { curve } = walk.pieces[k]!;
    const own = measure((all) => segmentLength(all[k]!));
    const isArc = curve.kind === 'arc';
    if (own)
      pieces[curve.id] = {
        kind: curve.kind === 'cubic' ? 'curve' : isArc ? 'arc' : 'line',
        length: own,
        decided: null,
        radius: isArc ? measure((all) => radiusOf(all[k]!)) : null,
        angle: isArc ? measure((all) => sweepOf(all[k]!)) : null,
      };
    const before = k > 0 ? k - 1 : path.closed ? count - 1 : k;
    const corner = before === k ? null : measure((all) => angleBetween(all[before]!, all[k]!));
    if (corner) corners[walk.points[k]!] = corner;
  }
  const area = (all: Segment[]) => Math.abs(all.reduce((sum, s) => sum + segmentArea(s), 0));
  return {
    length,
    area: path.closed ? measure(area) : null,
    diameter: null,
    overall: null,
    decided: null,
    pieces,
    corners,
  };
}

/** Angle between two segments where the first ends and the second begins, 0 to π, rad. */
function angleBetween(first: Segment, second: Segment): number {
  const back = tangentAt(first, 'end');
  const on = tangentAt(second, 'start');
  return Math.abs(Math.atan2(-back.x * on.y + back.y * on.x, -back.x * on.x - back.y * on.y));
}

function radiusOf(segment: Segment): number {
  const arc = segment.kind === 'arc' ? arcShape(segment.from, segment.via, segment.to) : null;
  return arc ? arc.radius : Number.POSITIVE_INFINITY;
}

function sweepOf(segment: Segment): number {
  const arc = segment.kind === 'arc' ? arcShape(segment.from, segment.via, segment.to) : null;
  return arc ? Math.abs(arc.sweep) : 0;
}

const placeOf = (places: Float64Array, k: number): Vec2 => ({ x: places[2 * k]!, y: places[2 * k + 1]! });
