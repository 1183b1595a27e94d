import { arcShape, type Form, formArea, formLength, type Segment, segmentLength, type Vec2 } from '../geometry';
import { axisFrom, type Figure, figureOf, limbPicks, type Truing } from '../truing';
import { type JobDocument, type Run, type TruingRecord, TURNED } from './document';
import { formOf } from './forms';
import { tangentAt } from './tangents';
import { pointsOfRun } from './traceActions';
import { onPlane, planeUnder, turnedOf } from './truingInput';
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
  segments: SegmentMeasures[];
  /** Angle inside each corner between two segments, rad, by the point at which they meet. */
  corners: Record<string, Figure>;
}

/**
 * Measures a run with its ±: lengths, radii, angles, perimeter and area through the truing's joint covariance and
 * the scatter of its own points. Free of the datum. `said` is what is said of the picture that it was traced on, or of
 * the first one of joined ones that it reaches over. Null where the run has no form on its plane.
 */
export function measureRun(
  points: JobDocument['part']['points'],
  run: Run,
  truing: Truing,
  said: TruingRecord,
): RunMeasures | null {
  const ids = pointsOfRun(run);
  const index = new Map(ids.map((id, k) => [id, k]));
  // A limb is seen from one lens: over several pictures, or in a scan, the run is measured as it lies.
  const seenByOne = truing.lens === 'photo' && ids.every((id) => points[id].picture === points[ids[0]].picture);
  const turned = run.plane === TURNED && seenByOne ? turnedOf(said) : null;
  const plane = planeUnder(run.plane, said);
  // Of joined pictures each point is placed through its own.
  const picks = ids.map((id) => ({ ...onPlane(points[id], plane), picture: points[id].picture }));
  const limbsAt = 2 * picks.length;
  const formAt = (places: Float64Array, lens: Float64Array) => {
    const seen = (id: string) => placeOf(places, index.get(id) as number);
    return formOf(run, turned ? placedOnTurned(run, seen, axisFrom(places, limbsAt, lens), lens) : seen);
  };
  const measure = (what: (form: Form) => number) =>
    figureOf(truing, turned ? [...picks, ...limbPicks(turned)] : picks, (places, lens) =>
      whenFormed(formAt(places, lens), what),
    );
  const length = measure(formLength);
  if (!length) return null;
  const circle = run.kind === 'circle';
  const shape = circle ? [] : run.segments;
  return {
    length,
    area: circle || run.closed ? measure(formArea) : null,
    diameter: circle ? measure((f) => (f.kind === 'circle' ? 2 * f.radius : Number.NaN)) : null,
    segments: shape.flatMap((s, k) => {
      const own = (what: (segment: Segment) => number) =>
        measure((f) => (f.kind === 'chain' ? what(f.segments[k]) : Number.NaN));
      const figure = own(segmentLength);
      if (!figure) return [];
      return [
        {
          kind: s.kind,
          length: figure,
          radius: s.kind === 'arc' ? own(radiusOf) : null,
          angle: s.kind === 'arc' ? own(sweepOf) : null,
        },
      ];
    }),
    corners: run.kind === 'chain' ? cornerAngles(run, measure) : {},
  };
}

function cornerAngles(
  run: Extract<Run, { kind: 'chain' }>,
  measure: (what: (form: Form) => number) => Figure | null,
): Record<string, Figure> {
  const corners: Record<string, Figure> = {};
  run.points.forEach((id, k) => {
    if (!run.closed && (k === 0 || k === run.points.length - 1)) return;
    const before = (k + run.segments.length - 1) % run.segments.length;
    const figure = measure((f) => (f.kind === 'chain' ? angleBetween(f.segments[before], f.segments[k]) : Number.NaN));
    if (figure) corners[id] = figure;
  });
  return corners;
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

/** A form that falls apart in a scattered draw counts as endlessly far, so that the ± is not made too small. */
function whenFormed(form: Form | null, what: (form: Form) => number): number {
  return form ? what(form) : Number.POSITIVE_INFINITY;
}

const placeOf = (places: Float64Array, k: number): Vec2 => ({ x: places[2 * k], y: places[2 * k + 1] });
