import type { PicturePoint } from '../calibration';
import { type Form, pointAt, segmentLength, segmentsOf, speedAt, type Vec2 } from '../geometry';
import { type EvaluatedPath, type Id, type PictureMap, pxPerUnit, walkOf } from '../sketch';

/** Where a path is held against the picture's edge: on the part, and in the picture. */
export interface Probe {
  curve: Id;
  /** Which piece of the form it is on, and how far along it. */
  piece: number;
  t: number;
  at: Vec2;
  /** Square to the path, to its left, of unit length. */
  normal: Vec2;
  picture: PicturePoint;
  pxPerMm: number;
}

/** Places along a path: so many on each piece, its ends left out, and not nearer to each other than this, mm. */
const MOST_ON_PIECE = 24;
const LEAST_ON_PIECE = 3;
const APART_MM = 1;

/** Places along a path at which it can be held against the picture; worn pieces are left out. */
export function probesOf(
  { sketch, path, form }: EvaluatedPath,
  worn: Readonly<Record<Id, true>>,
  mapper: PictureMap,
): Probe[] {
  if (!form) return [];
  const curves = walkOf(sketch, path)?.pieces.map((p) => p.curve.id) ?? [];
  // A circle is two halves of one curve.
  const pieces = segmentsOf(form).map((segment, k) => ({
    segment,
    curve: (form.kind === 'circle' ? curves[0] : curves[k]) ?? '',
  }));
  return pieces.flatMap(({ segment, curve }, piece) => {
    if (Object.hasOwn(worn, curve)) return [];
    const count = Math.min(MOST_ON_PIECE, Math.max(LEAST_ON_PIECE, Math.floor(segmentLength(segment) / APART_MM)));
    return Array.from({ length: count }, (_, k): Probe | null => {
      const t = (k + 0.5) / count;
      const at = pointAt(segment, t);
      const speed = speedAt(segment, t);
      const length = Math.hypot(speed.x, speed.y);
      const picture = mapper.toPicture(at);
      if (!picture || !(length > 0)) return null;
      const normal = { x: -speed.y / length, y: speed.x / length };
      return { curve, piece, t, at, normal, picture, pxPerMm: pxPerUnit(mapper, at) };
    }).filter((p): p is Probe => p !== null);
  });
}

/** What the picture says along one piece. */
export interface PieceDeviation {
  /** Places where an edge was found, of all that were asked. */
  found: number;
  asked: number;
  rmsMm: number;
  largestMm: number;
  largestPx: number;
}

export interface Deviation {
  pieces: Readonly<Record<Id, PieceDeviation>>;
  whole: PieceDeviation;
  /** From the path to the edge, mm. */
  whiskers: readonly { at: Vec2; normal: Vec2; mm: number }[];
}

/** A piece of which less than this share was found has no form of its own. */
const FOUND_SHARE = 0.5;
/** Places of a form told by edges, for each place where one was found. */
const FINER = 4;

/**
 * The form that the picture's edges have along a path, piece by piece: each place as far beside the path as the edges to
 * either side of it were found. Pieces along which too few were found are left out.
 */
export function seenForms(
  { form }: EvaluatedPath,
  probes: readonly Probe[],
  edges: readonly (PicturePoint | null)[],
  { toPlace }: Pick<PictureMap, 'toPlace'>,
): Form[] {
  if (!form) return [];
  return segmentsOf(form).flatMap((segment, piece): Form[] => {
    const own = probes.flatMap((probe, k) => (probe.piece === piece ? [{ probe, edge: edges[k] ?? null }] : []));
    const found = own.flatMap(({ probe, edge }) => {
      const place = edge && toPlace(edge);
      if (!place) return [];
      const { at, normal, t } = probe;
      return [{ t, mm: (place.x - at.x) * normal.x + (place.y - at.y) * normal.y }];
    });
    if (found.length < 2 || found.length < FOUND_SHARE * own.length) return [];
    const [first, last] = [found[0]!.t, found[found.length - 1]!.t];
    const count = FINER * found.length;
    let next = 1;
    const places = Array.from({ length: count + 1 }, (_, k): Vec2 => {
      const t = first + ((last - first) * k) / count;
      while (next < found.length - 1 && found[next]!.t < t) next += 1;
      const [a, b] = [found[next - 1]!, found[next]!];
      const mm = a.mm + ((b.mm - a.mm) * (t - a.t)) / (b.t - a.t);
      const [at, speed] = [pointAt(segment, t), speedAt(segment, t)];
      const length = Math.hypot(speed.x, speed.y) || 1;
      return { x: at.x - (speed.y / length) * mm, y: at.y + (speed.x / length) * mm };
    });
    const segments = places.slice(1).map((to, k) => ({ kind: 'line' as const, from: places[k]!, to }));
    return [{ kind: 'chain', segments, closed: false }];
  });
}

/** How far the picture's edges lie from a path: square to it, left positive. `edges` one for each probe, null for none. */
export function deviationOf(
  probes: readonly Probe[],
  edges: readonly (PicturePoint | null)[],
  { toPlace }: Pick<PictureMap, 'toPlace'>,
): Deviation {
  const whiskers: { at: Vec2; normal: Vec2; mm: number; probe: Probe }[] = [];
  for (const [k, probe] of probes.entries()) {
    const edge = edges[k];
    const place = edge && toPlace(edge);
    if (!place) continue;
    const mm = (place.x - probe.at.x) * probe.normal.x + (place.y - probe.at.y) * probe.normal.y;
    whiskers.push({ at: probe.at, normal: probe.normal, mm, probe });
  }
  const told = (own: typeof whiskers, asked: number): PieceDeviation => {
    const squares = own.reduce((sum, w) => sum + w.mm * w.mm, 0);
    const largest = own.reduce<(typeof own)[number] | null>(
      (best, w) => (best && Math.abs(best.mm) >= Math.abs(w.mm) ? best : w),
      null,
    );
    return {
      found: own.length,
      asked,
      rmsMm: own.length ? Math.sqrt(squares / own.length) : 0,
      largestMm: Math.abs(largest?.mm ?? 0),
      largestPx: Math.abs(largest?.mm ?? 0) * (largest?.probe.pxPerMm ?? 0),
    };
  };
  const curves = [...new Set(probes.map((p) => p.curve))];
  const of = (curve: Id) => whiskers.filter((w) => w.probe.curve === curve);
  const asked = (curve: Id) => probes.filter((p) => p.curve === curve).length;
  return {
    pieces: Object.fromEntries(curves.map((c) => [c, told(of(c), asked(c))])),
    whole: told(whiskers, probes.length),
    whiskers: whiskers.map(({ at, normal, mm }) => ({ at, normal, mm })),
  };
}
