import {
  type Calibration,
  type Datum,
  distance,
  type Figure,
  figureOf,
  type Measure,
  type PicturePoint,
  type PlanePick,
  planeMap,
  planeMapper,
  positionOf,
} from '../calibration';
import { type GroundOfRim, locateAs, snapCircle } from '../edge';
import { circleThrough, type Form, flattenSegment, type Segment, segmentsOf, type Vec2 } from '../geometry';
import { type Looking, type SettledPick, type SettleFault, settlePath } from '../outline';
import type { Pixels } from '../raster';
import { endOf, MAIN_SKETCH, newSketch, type PictureMap, picksOfCurve, putForm, startOf, walkOf } from '../sketch';
import type { ScriptPiece, ScriptPlace, ScriptSettle } from './request';

/** A settled piece: as a chain in the picture, and on its plane. */
interface ScriptSettledPiece {
  kind: ScriptPiece['kind'];
  px: ScriptPlace[];
  /** Where what tells of it lies now, in the order in which it was given; what it measures. */
  mm: { at: ScriptPlace[]; length?: Figure | null; radius?: Figure | null };
  /** The widest ± of those places, along X or Y. */
  plusMinusMm: number | null;
  /** The widest σ of those places, px: of the edge alone, without what the yardsticks leave open. */
  sigmaPx: number;
  /** How far the edge lies off it, root mean square. */
  rmsPx: number;
  /** Stretches along which too little of an edge was found: it lies there as it was given. */
  doubtful: [ScriptPlace, ScriptPlace][];
}

export type ScriptSettled =
  | { pieces: ScriptSettledPiece[]; movedMm: number }
  /** Nothing was settled, and why. */
  | { reason: SettleFault | 'no-picture' | 'no-form' };

/** A chain of points is so near to a piece, px. */
const CHAIN_PX = 0.02;

/**
 * Settles pieces that a script gives in picture pixels on the edges that they lie over.
 * Degenerate: pieces that do not follow one another, or lie beyond the horizon, give `no-form`.
 */
export function settleAsked(
  { pieces, plane = 'face', cling = 'edge', ground }: ScriptSettle,
  pixels: Pixels | null,
  truing: Calibration,
  datum: Datum,
): ScriptSettled {
  if (!pixels) return { reason: 'no-picture' };
  const mapper = mapOf(truing, datum, plane, pixels);
  const foot = plane === 'table' ? null : mapOf(truing, datum, 'table', pixels);
  const form = formOf(pieces, mapper);
  const sketch = newSketch(MAIN_SKETCH, '', null);
  let named = 0;
  const see = (place: Vec2) => {
    const point = mapper.toPicture(place);
    return (
      point && { ...point, picture: 'picture', plane, sigmaPx: 1, snappedTo: 'free' as const, neighbouringEdge: null }
    );
  };
  const draft = { id: 'path', name: 'Path', role: 'cut' as const, layer: null };
  if (!form || !putForm(sketch, form, draft, see, () => `id-${named++}`)) return { reason: 'no-form' };
  const path = sketch.paths.path!;
  const settled = settlePath(
    { sketch, path, only: null, picture: 'picture' },
    mapper,
    lookIn(pixels, mapper, foot, cling, ground ?? null),
  );
  const walk = walkOf(sketch, path);
  if (!settled.ok || !walk) return { reason: settled.ok ? 'no-form' : settled.reason };
  const seen = (id: string): SettledPick =>
    settled.picks[id] ?? (sketch.points[id]?.at as PlanePick | undefined) ?? sketch.picks[id]!;
  const told = walk.pieces.map(({ curve, reversed }, k): ScriptSettledPiece => {
    const ids =
      curve.kind === 'circle'
        ? picksOfCurve(curve)
        : [startOf(curve, { reversed }), ...picksOfCurve(curve), endOf(curve, { reversed })];
    const picks = ids.map(
      (id): PlanePick => ({ uPx: seen(id).uPx, vPx: seen(id).vPx, sigmaPx: seen(id).sigmaPx, plane }),
    );
    const { kind } = pieces[k]!;
    const at = picks.map((p) => mapper.toPlace(p) ?? { x: Number.NaN, y: Number.NaN });
    const px = chainOf(kind, at, mapper);
    const positions = picks.flatMap((p) => positionOf(truing, datum, p) ?? []);
    const { rmsPx, isDoubtful } = settled.pieces[k]!;
    return {
      kind,
      px,
      mm: { at: at.map(({ x, y }): ScriptPlace => [x, y]), ...sizeOf(kind, truing, picks) },
      plusMinusMm:
        positions.length < picks.length ? null : Math.max(...positions.flatMap((p) => [p.x.plusMinus, p.y.plusMinus])),
      sigmaPx: Math.max(...picks.map((p) => p.sigmaPx)),
      rmsPx,
      doubtful: isDoubtful ? [[px[0]!, px.at(-1)!]] : [],
    };
  });
  return { pieces: told, movedMm: settled.moved };
}

const radiusOf: Measure = (p) =>
  circleThrough({ x: p[0]!, y: p[1]! }, { x: p[2]!, y: p[3]! }, { x: p[4]!, y: p[5]! })?.radius ?? Number.NaN;

function sizeOf(
  kind: ScriptPiece['kind'],
  truing: Calibration,
  picks: PlanePick[],
): { length?: Figure | null; radius?: Figure | null } {
  if (kind === 'line') return { length: figureOf(truing, picks, distance) };
  return kind === 'curve' ? {} : { radius: figureOf(truing, picks, radiusOf) };
}

function mapOf(truing: Calibration, datum: Datum, plane: string, { width, height }: Pixels): PictureMap {
  const mapper = planeMapper(planeMap(truing, datum, plane, { uPx: width / 2, vPx: height / 2 }));
  return {
    toPlace(point) {
      const place = mapper.toPart(point);
      return place && { x: place.xMm, y: place.yMm };
    },
    toPicture: ({ x, y }) => mapper.toPicture({ xMm: x, yMm: y }),
  };
}

function lookIn(
  pixels: Pixels,
  { toPlace: toPlane, toPicture }: PictureMap,
  foot: PictureMap | null,
  cling: 'edge' | 'line',
  ground: GroundOfRim,
): Looking {
  const seen = { toPlane, toPicture, ...(foot && { toFoot: foot.toPicture }) };
  return {
    edges: (at, searchPx) => locateAs(pixels, at, cling, searchPx),
    round: (circle) => snapCircle(pixels, seen, circle, cling, ground),
  };
}

const PLACES_OF = { line: 2, arc: 3, curve: 4, circle: 3 } as const;

/** The pieces on their plane, each from where the one before it ended; null where they make no form. */
function formOf(pieces: readonly ScriptPiece[], { toPlace }: PictureMap): Form | null {
  const places = pieces.map((p) => p.px.flatMap(([uPx, vPx]) => toPlace({ uPx, vPx }) ?? []));
  if (pieces.some((p, k) => places[k]!.length !== PLACES_OF[p.kind])) return null;
  const [first] = pieces;
  if (first?.kind === 'circle') {
    const [a, b, c] = places[0]!;
    const circle = pieces.length === 1 ? circleThrough(a!, b!, c!) : null;
    return circle && { kind: 'circle', ...circle };
  }
  if (!first || pieces.some((p) => p.kind === 'circle')) return null;
  const start = places[0]![0]!;
  const isClosed = isSame(pieces.at(-1)!.px.at(-1)!, first.px[0]!);
  if (pieces.some((p, k) => k > 0 && !isSame(p.px[0]!, pieces[k - 1]!.px.at(-1)!))) return null;
  const segments = pieces.map(({ kind }, k): Segment => {
    const own = places[k]!;
    const from = own[0]!;
    const to = isClosed && k === pieces.length - 1 ? start : (places[k + 1]?.[0] ?? own.at(-1)!);
    return segmentThrough(kind, [from, ...own.slice(1, -1), to]);
  });
  return { kind: 'chain', segments, closed: isClosed };
}

function segmentThrough(kind: ScriptPiece['kind'], [a, b, c, d]: readonly Vec2[]): Segment {
  if (kind === 'line') return { kind: 'line', from: a!, to: b! };
  if (kind === 'arc') return { kind: 'arc', from: a!, via: b!, to: c! };
  return { kind: 'curve', from: a!, handleFrom: b!, handleTo: c!, to: d! };
}

/** Ends that are meant to be one lie so near to each other, px. */
const SAME_PX = 0.5;
const isSame = ([u, v]: ScriptPlace, [x, y]: ScriptPlace): boolean => Math.hypot(u - x, v - y) <= SAME_PX;

/** A piece as points of the picture; of a line its ends and what the lens bends between them. */
function chainOf(kind: ScriptPiece['kind'], at: readonly Vec2[], mapper: PictureMap): ScriptPlace[] {
  const circle = kind === 'circle' ? circleThrough(at[0]!, at[1]!, at[2]!) : null;
  const segments = circle
    ? segmentsOf({ kind: 'circle', ...circle })
    : kind === 'circle'
      ? []
      : [segmentThrough(kind, at)];
  const near = mapper.toPicture(at[0]!);
  const there = near && mapper.toPicture({ x: at[0]!.x + 1, y: at[0]!.y });
  const tolerance = CHAIN_PX / (near && there ? Math.hypot(there.uPx - near.uPx, there.vPx - near.vPx) : 1);
  const places = segments.flatMap((s, k) => [
    ...(k === 0 ? [s.from] : []),
    ...(s.kind === 'line' ? evenly(s.from, s.to) : flattenSegment(s, tolerance)),
  ]);
  return places.flatMap((p) => mapper.toPicture(p) ?? []).map(({ uPx, vPx }: PicturePoint): ScriptPlace => [uPx, vPx]);
}

/** Enough for what a lens bends a straight line by. */
const ON_LINE = 16;
const evenly = (from: Vec2, to: Vec2): Vec2[] =>
  Array.from({ length: ON_LINE }, (_, k) => {
    const t = (k + 1) / ON_LINE;
    return { x: from.x + t * (to.x - from.x), y: from.y + t * (to.y - from.y) };
  });
