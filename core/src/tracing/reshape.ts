import {
  type Form,
  type Segment,
  type SmoothWay,
  type Symmetry,
  smoothEnd,
  smoothJoint,
  symmetricForms,
  threeOnCircle,
  type Vec2,
} from '../geometry';
import { type JobAction, movePicks } from '../job';
import {
  type EvaluatedPath,
  type Id,
  type Observation,
  observationOf,
  picksOfCurve,
  reversedSegment,
  walkOf,
} from '../sketch';
import type { Setting } from './setting';

/** Scatter of a place that was worked out, px: not better than what it came from. */
const LEAST_SIGMA_PX = 0.05;

/**
 * Where points and picks of paths have to be so that the paths run as given, piece by piece as they are; null where a
 * place could not be seen.
 */
function reshaped(
  paths: readonly EvaluatedPath[],
  forms: readonly Form[],
  { job, picture, mapper }: Pick<Setting, 'job' | 'picture' | 'mapper'>,
): Record<Id, Observation> | null {
  const moves: Record<Id, Observation> = {};
  let isSeen = true;
  const put = (id: Id, place: Vec2) => {
    const before = observationOf(job.part, id);
    const at = mapper.toPicture(place);
    if (!at) isSeen = false;
    if (!before || !at) return;
    const sigmaPx = Math.max(before.sigmaPx, LEAST_SIGMA_PX);
    moves[id] = { ...before, ...at, picture: picture.id, sigmaPx, snappedTo: 'free', neighbouringEdge: null };
  };
  paths.forEach(({ sketch, path }, f) => {
    const form = forms[f];
    const walk = walkOf(sketch, path);
    if (!walk || !form) return;
    if (form.kind === 'circle') {
      const [curve] = walk.pieces.map((p) => p.curve);
      if (curve?.kind !== 'circle') return;
      const rim = picksOfCurve(curve);
      if (rim.length === 0) put(curve.centre, form.centre);
      for (const [k, place] of threeOnCircle(form).entries()) if (rim[k]) put(rim[k], place);
      return;
    }
    form.segments.forEach((segment, k) => {
      const piece = walk.pieces[k];
      if (!piece) return;
      put(walk.points[k]!, segment.from);
      if (!path.closed && k === form.segments.length - 1) put(walk.points[k + 1]!, segment.to);
      const own: Segment = piece.reversed ? reversedSegment(segment) : segment;
      const picks = picksOfCurve(piece.curve);
      if (own.kind === 'arc' && picks[0]) put(picks[0], own.via);
      if (own.kind === 'curve' && picks[0] && picks[1]) {
        put(picks[0], own.handleFrom);
        put(picks[1], own.handleTo);
      }
    });
  });
  return isSeen ? moves : null;
}

/** Averages both halves of paths about a line; worn pieces count for nothing. Null where a piece has no counterpart. */
export function madeSymmetric(paths: readonly EvaluatedPath[], axis: Symmetry, setting: Setting): JobAction | null {
  const own = paths.filter((d) => d.form !== null);
  const wornOf = ({ sketch, path }: EvaluatedPath, k: number) => {
    const worn = setting.job.part.sketches[sketch.id]?.worn ?? {};
    return Object.hasOwn(worn, path.uses[k]?.curve ?? '');
  };
  const forms = symmetricForms(
    own.map((d) => d.form as Form),
    axis,
    (f, k) => wornOf(own[f]!, k),
  );
  const moves = forms && reshaped(own, forms, setting);
  return moves && movePicks('make symmetric', moves);
}

/** Makes both pieces at a point of a path go on smoothly; null where neither is a curve, or what cannot turn runs otherwise. */
export function smoothed(own: EvaluatedPath, point: Id, way: SmoothWay, setting: Setting): JobAction | null {
  const { form, sketch, path } = own;
  const k = walkOf(sketch, path)?.points.indexOf(point) ?? -1;
  if (form?.kind !== 'chain' || k < 0) return null;
  const count = form.segments.length;
  const before = k > 0 ? k - 1 : path.closed ? count - 1 : -1;
  const [a, b] = [form.segments[before], form.segments[k]];
  const made = a && b ? smoothJoint(a, b, way) : endsSmoothly(a, b, way);
  if (!made) return null;
  const segments = form.segments.map((s, n) => (n === before ? (made[0] ?? s) : n === k ? (made[1] ?? s) : s));
  const moves = reshaped([own], [{ ...form, segments }], setting);
  if (!moves) return null;
  // Only the handles turn: everything else is where it was, as well known as it was.
  const pieces = walkOf(sketch, path)!.pieces;
  const handles = new Set([before, k].flatMap((n) => (pieces[n] ? picksOfCurve(pieces[n].curve) : [])));
  const turned = Object.fromEntries(Object.entries(moves).filter(([id]) => handles.has(id)));
  return movePicks('smooth a corner', turned);
}

/** At an open end there is one piece alone, which runs as it is asked to. */
function endsSmoothly(
  before: Segment | undefined,
  after: Segment | undefined,
  way: SmoothWay,
): [Segment | null, Segment | null] | null {
  if (way === 'as it comes') return null;
  const made = before ? smoothEnd(before, 'to', way) : after ? smoothEnd(after, 'from', way) : null;
  return made && (before ? [made, null] : [null, made]);
}
