import { type Located, locateEdge, locateStroke } from '../edge';
import { countStrokes } from '../find';
import { lensOf } from '../job';
import type { Pixels } from '../raster';
import {
  type Agreement,
  agreements,
  type Datum,
  distance,
  type Figure,
  figureOf,
  type Hold,
  type PictureFacts,
  type PlanePick,
  positionOf,
  type TruingFault,
  type TruingInput,
  truePicture,
} from '../truing';
import { type LengthUnit, parseLength } from '../units';

/** A place in a picture as a script gives it: u and v in px, upright, (0, 0) at the corner of the first pixel. */
export type ScriptPlace = readonly [number, number];

/** What a pick is moved onto before it is used: the nearest edge, the nearest thin line, or nothing. */
export type ScriptCling = 'edge' | 'line' | 'none';

export type ScriptPlane = 'table' | 'yardstick' | 'face';

/** What a script says of a picture, and what it asks. The schema beside this file checks it. */
export interface MeasureRequest {
  unit?: LengthUnit;
  kind?: 'photo' | 'scan' | 'drawing';
  /** Of scans and drawings: the resolution that the file states counts. Left out it does. */
  believeResolution?: boolean;
  hold?: Hold;
  heights?: Partial<Record<'yardstick' | 'face', { heightMm: number; plusMinusMm: number }>>;
  yardsticks: {
    id: string;
    from: ScriptPlace;
    to: ScriptPlace;
    length: string;
    plane?: ScriptPlane;
    cling?: ScriptCling;
    /** Both ends are graduations of a ruler: those between them are counted and taken as lines. */
    strokes?: boolean;
  }[];
  zero?: { at: ScriptPlace; plane?: ScriptPlane; cling?: ScriptCling };
  axis?: { from: ScriptPlace; to: ScriptPlace; along: 'x' | 'y'; plane?: ScriptPlane; cling?: ScriptCling };
  points?: Record<string, { at: ScriptPlace; plane?: ScriptPlane; cling?: ScriptCling }>;
  distances?: { from: string; to: string }[];
}

export interface MeasureAnswer {
  truing: { tiltDegrees: number; tiltPlusMinusDegrees: number; cameraHeightMm: number; otherTilts: number };
  /** Each known length as the others find it; null with only one. */
  yardsticks: Record<string, Agreement | null>;
  positions: Record<string, { xMm: Figure; yMm: Figure; uPx: number; vPx: number; sigmaPx: number } | null>;
  distances: { from: string; to: string; mm: Figure | null }[];
}

export type MeasureResult =
  | { ok: true; answer: MeasureAnswer }
  | { ok: false; reason: TruingFault | 'bad-length' | 'unknown-point' | 'strokes-not-counted'; at?: string };

/** A pick that is taken as it is given: half a pixel, as by hand. */
const GIVEN_SIGMA_PX = 0.5;
const SEARCH_PX = 12;

/**
 * Measures a picture from a script: everything that the True step does, without its screen.
 *
 * In: what is said (px, lengths as people write them), what the file tells of its camera, and the picture's pixels, or
 * null when no pick shall cling. Out: figures with the half width of their 95 % interval, mm.
 * Degenerate: a length that is none, a point that is not listed, or a picture that cannot be trued gives a reason.
 */
export function measurePicture(request: MeasureRequest, facts: PictureFacts, pixels: Pixels | null): MeasureResult {
  const pick = (at: ScriptPlace, plane: ScriptPlane, cling: ScriptCling): PlanePick => ({
    ...clung(pixels, at, cling),
    plane,
  });
  const input: TruingInput = {
    facts,
    lens: lensOf(request.kind ?? 'photo'),
    believeResolution: request.believeResolution ?? true,
    hold: request.hold ?? 'free',
    planes: (['yardstick', 'face'] as const).map((id) => ({
      id,
      ...(request.heights?.[id] ?? { heightMm: 0, plusMinusMm: 0 }),
    })),
    yardsticks: [],
  };
  for (const y of request.yardsticks) {
    const length = parseLength(y.length, request.unit ?? 'mm');
    if (!length.ok) return { ok: false, reason: 'bad-length', at: y.id };
    const plane = y.plane ?? 'yardstick';
    const [from, to] = [y.from, y.to].map((p) => pick(p, plane, y.cling ?? 'line'));
    input.yardsticks.push({
      id: y.id,
      kind: 'known-length',
      plane,
      from,
      to,
      lengthMm: length.mm,
      plusMinusMm: length.plusMinusMm,
      strokes: null,
    });
    if (!y.strokes) continue;
    const counted = pixels ? countStrokes(pixels, from, to, length.mm) : null;
    if (!counted?.ok) return { ok: false, reason: 'strokes-not-counted', at: y.id };
    input.yardsticks[input.yardsticks.length - 1].strokes = counted.strokes;
  }
  const result = truePicture(input);
  if (!result.ok) return { ok: false, reason: result.reason, at: result.yardstick };
  const { truing } = result;
  const { zero, axis } = request;
  const datum: Datum = {
    zero: zero ? pick(zero.at, zero.plane ?? 'face', zero.cling ?? 'edge') : null,
    axis: axis
      ? {
          along: axis.along,
          from: pick(axis.from, axis.plane ?? 'face', axis.cling ?? 'edge'),
          to: pick(axis.to, axis.plane ?? 'face', axis.cling ?? 'edge'),
        }
      : null,
  };
  const points = Object.fromEntries(
    Object.entries(request.points ?? {}).map(([name, p]) => [name, pick(p.at, p.plane ?? 'face', p.cling ?? 'edge')]),
  );
  const stray = (request.distances ?? []).flatMap((d) => [d.from, d.to]).find((name) => !Object.hasOwn(points, name));
  if (stray !== undefined) return { ok: false, reason: 'unknown-point', at: stray };
  const degrees = 180 / Math.PI;
  return {
    ok: true,
    answer: {
      truing: {
        tiltDegrees: truing.tiltRad * degrees,
        tiltPlusMinusDegrees: Math.max(...truing.tiltPlusMinusRad) * degrees,
        cameraHeightMm: truing.cameraHeightMm,
        otherTilts: truing.otherTilts.length,
      },
      yardsticks: agreements(input),
      positions: Object.fromEntries(
        Object.entries(points).map(([name, p]) => {
          const at = positionOf(truing, datum, p);
          return [name, at && { xMm: at.x, yMm: at.y, uPx: p.uPx, vPx: p.vPx, sigmaPx: p.sigmaPx }];
        }),
      ),
      distances: (request.distances ?? []).map(({ from, to }) => ({
        from,
        to,
        mm: figureOf(truing, [points[from], points[to]], distance),
      })),
    },
  };
}

/** A pick moved onto what it shall cling to; where there is nothing, it stays where it was given. */
function clung(
  pixels: Pixels | null,
  [uPx, vPx]: ScriptPlace,
  cling: ScriptCling,
): { uPx: number; vPx: number; sigmaPx: number } {
  let found: Located | null = null;
  if (pixels && cling === 'line') found = locateStroke(pixels, uPx, vPx, { searchPx: SEARCH_PX });
  if (pixels && cling === 'edge') found = locateEdge(pixels, uPx, vPx, { searchPx: SEARCH_PX });
  return found ? { uPx: found.uPx, vPx: found.vPx, sigmaPx: found.sigmaPx } : { uPx, vPx, sigmaPx: GIVEN_SIGMA_PX };
}
