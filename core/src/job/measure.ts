import {
  axisFrom,
  type Calibration,
  type Figure,
  figureAt,
  figureOf,
  type PlacedPicks,
  type PlanePick,
  placePicks,
  silhouettePicks,
  sumAt,
  type TurnedPart,
} from '../calibration';
import { arcShape, circleThrough, type Segment, segmentArea, segmentLength, type Vec2 } from '../geometry';
import { onPlane, planeUnder, turnedOf } from './calibrationInput';
import { type CalibrationRecord, type ChainRun, type JobDocument, type Run, TURNED } from './document';
import { formOf } from './forms';
import { tangentAt } from './tangents';
import { pointsOfRun } from './traceActions';
import { placedOnTurned } from './turnedForm';

/** What is measured of one segment. Lengths in mm, angles in rad. */
export interface SegmentMeasures {
  kind: Segment['kind'];
  length: Figure;
  /** Arcs only. */
  radius: Figure | null;
  /** Angle swept by an arc, or the direction of a line against X. */
  angle: Figure | null;
}

/** What is measured of one run. */
export interface RunMeasures {
  length: Figure;
  /** mm²; null for an open run. */
  area: Figure | null;
  diameter: Figure | null;
  /** By the segment's place in the run: those that were asked for. */
  segments: Record<number, SegmentMeasures>;
  /** Angle inside each corner between two segments, rad, by the point at which they meet. */
  corners: Record<string, Figure>;
}

/** Which segments of a run are measured by themselves, from one up to another; all of them where it is left out. */
export interface MeasuredSegments {
  from: number;
  to: number;
}

/**
 * Measures a run with its ±: lengths, radii, angles, perimeter and area through the truing's joint covariance and
 * the scatter of its own points. Free of the datum. A figure costs what its own points cost, and all of them together
 * what the run costs once. `said` is what is said of the picture that it was traced on, or of the first one of joined
 * ones that it reaches over. Null where the run has no form on its plane.
 */
export function measureRun(
  points: JobDocument['part']['points'],
  run: Run,
  truing: Calibration,
  said: CalibrationRecord,
  asked: MeasuredSegments | null = null,
): RunMeasures | null {
  const ids = pointsOfRun(run);
  // A limb is seen from one lens: over several pictures, or in a scan, the run is measured as it lies.
  const seenByOne = truing.lens === 'photo' && ids.every((id) => points[id].picture === points[ids[0]].picture);
  const turned = run.plane === TURNED && seenByOne ? turnedOf(said) : null;
  const plane = planeUnder(run.plane, said);
  // Of joined pictures each point is placed through its own.
  const picks = ids.map((id) => ({ ...onPlane(points[id], plane), picture: points[id].picture }));
  if (run.kind === 'circle') return measureCircle(truing, picks);
  const range = {
    from: Math.max(0, asked?.from ?? 0),
    to: Math.min(run.segments.length, asked?.to ?? Number.POSITIVE_INFINITY),
  };
  return turned ? measureTurned(run, ids, picks, truing, turned, range) : measureChain(run, ids, picks, truing, range);
}

function measureCircle(truing: Calibration, picks: PlanePick[]): RunMeasures | null {
  const all = placePicks(truing, picks);
  if (!all) return null;
  const radius = (p: Float64Array): number =>
    circleThrough(placeOf(p, 0), placeOf(p, 1), placeOf(p, 2))?.radius ?? Number.POSITIVE_INFINITY;
  if (!Number.isFinite(radius(Float64Array.from(all.placed.flatMap(({ place }) => [...place]))))) return null;
  const measure = (what: (r: number) => number) => figureAt(all, [0, 1, 2], (p) => what(radius(p)));
  return {
    length: measure((r) => 2 * Math.PI * r),
    area: measure((r) => Math.PI * r * r),
    diameter: measure((r) => 2 * r),
    segments: {},
    corners: {},
  };
}

function measureChain(
  run: ChainRun,
  ids: readonly string[],
  picks: PlanePick[],
  truing: Calibration,
  range: MeasuredSegments,
): RunMeasures | null {
  const all = placePicks(truing, picks);
  if (!all || run.points.length === 0) return null;
  const index = new Map(ids.map((id, k) => [id, k]));
  const parts = run.segments.map((_, k) => partOf(run, k, index));
  const corners: Record<string, Figure> = {};
  const segments: Record<number, SegmentMeasures> = {};
  for (let k = range.from; k < range.to; k++) {
    const { at, segmentOf } = parts[k];
    const own = (what: (segment: Segment) => number) => figureAt(all, at, (p) => what(segmentOf(p)));
    const isArc = run.segments[k].kind === 'arc';
    segments[k] = {
      kind: run.segments[k].kind,
      length: own(segmentLength),
      radius: isArc ? own(radiusOf) : null,
      angle: isArc ? own(sweepOf) : null,
    };
    const before = k > 0 ? parts[k - 1] : run.closed ? parts[parts.length - 1] : null;
    if (before && before !== parts[k]) corners[run.points[k]] = cornerAt(all, before, parts[k]);
  }
  const terms = parts.map((part) => part.at);
  const sumOf = (what: (segment: Segment) => number, finish?: (sum: number) => number) =>
    sumAt(all, terms, (k) => (p) => what(parts[k].segmentOf(p)), finish);
  return {
    length: sumOf(segmentLength),
    area: run.closed ? sumOf(segmentArea, Math.abs) : null,
    diameter: null,
    segments,
    corners,
  };
}

/** A segment by the numbers of its own picks, and as a form of their places. */
interface Part {
  at: number[];
  segmentOf(places: Float64Array): Segment;
}

function partOf(run: ChainRun, k: number, index: ReadonlyMap<string, number>): Part {
  const s = run.segments[k];
  const number = (id: string) => index.get(id) as number;
  const ends = [number(run.points[k]), number(run.points[(k + 1) % run.points.length])];
  if (s.kind === 'arc')
    return {
      at: [...ends, number(s.via)],
      segmentOf: (p) => ({ kind: 'arc', from: placeOf(p, 0), to: placeOf(p, 1), via: placeOf(p, 2) }),
    };
  if (s.kind === 'curve')
    return {
      at: [...ends, number(s.handleFrom), number(s.handleTo)],
      segmentOf: (p) => ({
        kind: 'curve',
        from: placeOf(p, 0),
        to: placeOf(p, 1),
        handleFrom: placeOf(p, 2),
        handleTo: placeOf(p, 3),
      }),
    };
  return { at: ends, segmentOf: (p) => ({ kind: 'line', from: placeOf(p, 0), to: placeOf(p, 1) }) };
}

/** The angle between two segments: over their picks together, of which they share one or, in a run of two, both ends. */
function cornerAt(all: PlacedPicks, before: Part, after: Part): Figure {
  const at = [...new Set([...before.at, ...after.at])];
  const from = (part: Part, places: Float64Array): Segment => {
    const own = new Float64Array(2 * part.at.length);
    part.at.forEach((pick, j) => {
      const k = at.indexOf(pick);
      own[2 * j] = places[2 * k];
      own[2 * j + 1] = places[2 * k + 1];
    });
    return part.segmentOf(own);
  };
  return figureAt(all, at, (p) => angleBetween(from(before, p), from(after, p)));
}

/**
 * On a turned part each place hangs on its neighbours' and on the axis: every figure is a function of all of them. Such
 * a run is a profile of some dozens of points.
 */
function measureTurned(
  run: ChainRun,
  ids: readonly string[],
  picks: PlanePick[],
  truing: Calibration,
  turned: TurnedPart,
  range: MeasuredSegments,
): RunMeasures | null {
  const index = new Map(ids.map((id, k) => [id, k]));
  const limbsAt = 2 * picks.length;
  const measure = (what: (segments: Segment[]) => number) =>
    figureOf(truing, [...picks, ...silhouettePicks(turned)], (places, lens) => {
      const seen = (id: string) => placeOf(places, index.get(id) as number);
      const form = formOf(run, placedOnTurned(run, seen, axisFrom(places, limbsAt, lens), lens));
      // A form that falls apart in a scattered draw counts as endlessly far, so that the ± is not made too small.
      return form?.kind === 'chain' ? what(form.segments) : Number.POSITIVE_INFINITY;
    });
  const length = measure((all) => all.reduce((sum, s) => sum + segmentLength(s), 0));
  if (!length) return null;
  const segments: Record<number, SegmentMeasures> = {};
  const corners: Record<string, Figure> = {};
  for (let k = range.from; k < range.to; k++) {
    const own = measure((all) => segmentLength(all[k]));
    const isArc = run.segments[k].kind === 'arc';
    if (own)
      segments[k] = {
        kind: run.segments[k].kind,
        length: own,
        radius: isArc ? measure((all) => radiusOf(all[k])) : null,
        angle: isArc ? measure((all) => sweepOf(all[k])) : null,
      };
    const before = k > 0 ? k - 1 : run.closed ? run.segments.length - 1 : k;
    const corner = before === k ? null : measure((all) => angleBetween(all[before], all[k]));
    if (corner) corners[run.points[k]] = corner;
  }
  const area = (all: Segment[]) => Math.abs(all.reduce((sum, s) => sum + segmentArea(s), 0));
  return { length, area: run.closed ? measure(area) : null, diameter: null, segments, corners };
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

const placeOf = (places: Float64Array, k: number): Vec2 => ({ x: places[2 * k], y: places[2 * k + 1] });
