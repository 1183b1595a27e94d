import type Flatbush from 'flatbush';
import {
  boxesOf,
  crossingsOf,
  NO_SHARE,
  nearestOn,
  pointAt,
  type Segment,
  segmentsOf,
  shapeOfArc,
  type Vec2,
} from '../geometry';
import {
  type EvaluatedPath,
  observationIn,
  observationOf,
  observedOf,
  picksOfCurve,
  pointsOfCurve,
  walkOf,
} from '../sketch';
import { pointsNear } from './pointsNear';
import type { Setting } from './setting';

/** A place of a circle is on its arc where it is no further off than this, mm, and as a share of the radius. */
const ON_ARC = 1e-6;

/** What of the part a new point may snap to. */
export interface SnapTarget {
  /** The point that it would be; null for a place that follows from pieces. */
  id: string | null;
  place: Vec2;
  sigmaPx: number;
  /** What it is, in words. */
  name: string;
  /** Comes after the picture's edges: along a piece there is always one. */
  isWeak: boolean;
}

/** What new points can snap to; each kind can be switched off. */
export const SNAP_KINDS = [
  'edges',
  'points',
  'middles',
  'centres',
  'crossings',
  'feet',
  'tangents',
  'paths',
  'extensions',
] as const;
export type SnapKind = (typeof SNAP_KINDS)[number];

/** A place that was set by hand, px: of points of which nothing was seen. */
const BY_HAND_PX = 0.5;
/** A line is followed beyond its end as far as it is long, and at least this many reaches. */
const EXTENSION_REACHES = 12;

interface Piece {
  segment: Segment;
  own: EvaluatedPath;
  /** Scatter of what it hangs on, px: the largest. */
  sigmaPx: number;
  /** What it is called. */
  word: string;
}

interface Index {
  pieces: readonly Piece[];
  boxes: Flatbush | null;
}

const built = new WeakMap<readonly EvaluatedPath[], Index>();

function indexOf(paths: readonly EvaluatedPath[]): Index {
  const known = built.get(paths);
  if (known) return known;
  const pieces = paths.flatMap((own) => piecesOf(own));
  const made: Index = { pieces, boxes: pieces.length ? boxesOf(pieces.map((p) => p.segment)) : null };
  built.set(paths, made);
  return made;
}

function piecesOf(own: EvaluatedPath): Piece[] {
  const { form, sketch, path } = own;
  if (!form) return [];
  const walk = walkOf(sketch, path);
  const sigmaOf = (ids: readonly string[]) => Math.max(...ids.map((id) => observationIn(sketch, id)?.sigmaPx ?? 0));
  const word = path.role === 'centre-line' ? 'the centre line' : path.name;
  if (form.kind === 'circle') {
    const sigmaPx = sigmaOf(observedOf(sketch, path)) || BY_HAND_PX;
    return segmentsOf(form).map((segment) => ({ segment, own, sigmaPx, word }));
  }
  return form.segments.map((segment, k) => {
    const curve = walk?.pieces[k]?.curve;
    const ids = curve ? [...pointsOfCurve(curve), ...picksOfCurve(curve)] : [];
    return { segment, own, sigmaPx: sigmaOf(ids) || BY_HAND_PX, word };
  });
}

/**
 * What of the trace a new point may snap to within reach of a place: points that it shares, and places that
 * follow from pieces. `from` is where the piece being drawn begins: feet and tangents are told from there.
 */
export function snapTargets(
  at: Vec2,
  reach: number,
  from: Vec2 | null,
  { drawn, job, snapOff }: Pick<Setting, 'drawn' | 'job'> & { snapOff: readonly SnapKind[] },
): SnapTarget[] {
  const isOn = (kind: SnapKind) => !snapOff.includes(kind);
  const found: SnapTarget[] = [];
  const add = (place: Vec2, name: string, sigmaPx: number, isWeak = false) => {
    if (Math.hypot(place.x - at.x, place.y - at.y) <= reach) found.push({ id: null, place, sigmaPx, name, isWeak });
  };
  if (isOn('points')) found.push(...sharedPoints(at, reach, drawn, job));
  const { pieces, boxes } = indexOf(drawn.paths);
  if (!boxes) return found;
  const near = boxes.search(at.x - reach, at.y - reach, at.x + reach, at.y + reach).map((k) => pieces[k]!);
  if (isOn('centres')) for (const p of pieces) addCentre(p, add);
  if (isOn('middles')) for (const p of near) addMiddle(p, add);
  if (isOn('crossings')) addCrossings(near, add);
  if (from && isOn('feet'))
    for (const p of near) for (const foot of feetOn(p.segment, from)) add(foot, `square to ${p.word}`, p.sigmaPx);
  if (from && isOn('tangents'))
    for (const p of near) for (const t of tangentsTo(p.segment, from)) add(t, `tangent to ${p.word}`, p.sigmaPx);
  if (isOn('paths')) for (const p of near) add(nearestOn(p.segment, at).point, `on ${p.word}`, p.sigmaPx, true);
  if (isOn('extensions')) for (const p of pieces) addExtension(p, at, reach, add);
  return found;
}

type Add = (place: Vec2, name: string, sigmaPx: number, isWeak?: boolean) => void;

/** Points of the trace that a new one would share. */
function sharedPoints(at: Vec2, reach: number, drawn: Setting['drawn'], job: Setting['job']): SnapTarget[] {
  return pointsNear(drawn, at, reach).flatMap((id) => {
    const place = drawn.placeOf(id);
    const seen = observationOf(job.part, id);
    return place && seen ? [{ id, place, sigmaPx: seen.sigmaPx, name: 'point', isWeak: false }] : [];
  });
}

function addMiddle({ segment, own, sigmaPx, word }: Piece, add: Add): void {
  if (own.form?.kind !== 'circle') add(pointAt(segment, 0.5), `middle of ${word}`, sigmaPx);
}

/** Where two pieces cross, but for ends that they share. */
function addCrossings(near: readonly Piece[], add: Add): void {
  for (const [k, a] of near.entries())
    for (const b of near.slice(k + 1)) {
      if (a.own === b.own && a.own.form?.kind === 'circle') continue;
      for (const c of crossingsOf(a.segment, b.segment))
        if (!isEnd(c.t) || !isEnd(c.u))
          add(c.at, `crossing of ${a.word} and ${b.word}`, Math.max(a.sigmaPx, b.sigmaPx));
    }
}

const isEnd = (t: number): boolean => t === 0 || t === 1;

function addCentre({ segment, own, sigmaPx, word }: Piece, add: Add): void {
  const shape = segment.kind === 'arc' ? shapeOfArc(segment) : null;
  // Of a circle, which is two halves, only the first.
  if (shape && !(own.form?.kind === 'circle' && segment.from.x < segment.to.x))
    add(shape.centre, `centre of ${word}`, sigmaPx);
}

/** Feet of the perpendiculars from a place on a segment. */
function feetOn(segment: Segment, p: Vec2): Vec2[] {
  if (segment.kind === 'curve') return [];
  const shape = segment.kind === 'arc' ? shapeOfArc(segment) : null;
  if (shape) {
    const [dx, dy] = [p.x - shape.centre.x, p.y - shape.centre.y];
    const d = Math.hypot(dx, dy);
    if (!(d > 0)) return [];
    return [1, -1]
      .map((s) => ({
        x: shape.centre.x + (s * shape.radius * dx) / d,
        y: shape.centre.y + (s * shape.radius * dy) / d,
      }))
      .filter((foot) => nearestOn(segment, foot).distance < ON_ARC * (1 + shape.radius));
  }
  const [dx, dy] = [segment.to.x - segment.from.x, segment.to.y - segment.from.y];
  const square = dx * dx + dy * dy;
  const t = square > 0 ? ((p.x - segment.from.x) * dx + (p.y - segment.from.y) * dy) / square : -1;
  return t > 0 && t < 1 ? [{ x: segment.from.x + t * dx, y: segment.from.y + t * dy }] : [];
}

/** Where lines from a place touch an arc. */
function tangentsTo(segment: Segment, p: Vec2): Vec2[] {
  const shape = segment.kind === 'arc' ? shapeOfArc(segment) : null;
  if (!shape) return [];
  const { centre, radius } = shape;
  const [dx, dy] = [p.x - centre.x, p.y - centre.y];
  const d = Math.hypot(dx, dy);
  if (d <= radius * (1 + NO_SHARE)) return [];
  const [half, way] = [Math.acos(radius / d), Math.atan2(dy, dx)];
  return [way + half, way - half]
    .map((a) => ({ x: centre.x + radius * Math.cos(a), y: centre.y + radius * Math.sin(a) }))
    .filter((t) => nearestOn(segment, t).distance < ON_ARC * (1 + radius));
}

/** A place in line with a line, beyond its ends; a centre line is followed all the way. */
function addExtension({ segment, own, sigmaPx, word }: Piece, at: Vec2, reach: number, add: Add): void {
  if (segment.kind !== 'line') return;
  const [dx, dy] = [segment.to.x - segment.from.x, segment.to.y - segment.from.y];
  const length = Math.hypot(dx, dy);
  if (!(length > 0)) return;
  const along = ((at.x - segment.from.x) * dx + (at.y - segment.from.y) * dy) / length;
  const far = own.path.role === 'centre-line' ? Number.POSITIVE_INFINITY : Math.max(length, EXTENSION_REACHES * reach);
  if ((along >= 0 && along <= length) || along < -far || along > length + far) return;
  // Traced on, a line is as much less well known as it is drawn on.
  const worse = 1 + (2 * Math.max(-along, along - length)) / length;
  add(
    { x: segment.from.x + (along * dx) / length, y: segment.from.y + (along * dy) / length },
    `in line with ${word}`,
    sigmaPx * worse,
    true,
  );
}
