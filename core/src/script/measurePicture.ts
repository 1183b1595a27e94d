import { lensOf, TURNED } from '../job';
import type { Pixels } from '../raster';
import {
  type Agreement,
  agreements,
  betweenOnTurned,
  CAMERA,
  type Datum,
  deviationsOf,
  distance,
  type Figure,
  figureOf,
  limbDiameter,
  type PictureFacts,
  type PlanePick,
  positionOf,
  type RulerWidth,
  rulerWidths,
  type Truing,
  type TruingFault,
  type TruingInput,
  type TurnedPart,
  truePicture,
} from '../truing';
import type { MeasureRequest, ScriptCling, ScriptPlace, ScriptPlane } from './request';
import { besideOf, clung, type SaidYardstick, sayYardstick } from './sayYardstick';

export interface MeasureAnswer {
  truing: {
    tiltDegrees: number;
    tiltPlusMinusDegrees: number;
    cameraHeightMm: number;
    otherTilts: number;
    /** The camera as it was found, each with its ±. */
    parameters: Record<string, Figure>;
    /** Every solution that the picture allows, the likeliest first, by its tilt about both axes. */
    solutions: { tiltXDegrees: number; tiltYDegrees: number }[];
  };
  /** Each yardstick as the others find it; null with only one. */
  yardsticks: Record<string, Agreement | null>;
  /** What was found of each: how many places, and how far off they lie, root mean square. */
  found: Record<string, { places: number; rmsMm: number }>;
  /** Of each ruler with both long edges seen: its width as all else finds it, and that held against what was measured. */
  rulerWidths: Record<string, RulerWidth>;
  positions: Record<string, ScriptPosition | null>;
  distances: { from: string; to: string; mm: Figure | null }[];
  /** Of a turned part: its diameter between both outlines where they were picked. */
  turned?: { diameterMm: Figure | null };
}

export interface ScriptPosition {
  xMm: Figure;
  yMm: Figure;
  uPx: number;
  vPx: number;
  sigmaPx: number;
  /** Other edges that run along the one it clung to, the nearest first: a foot, another rim, the line of a chamfer. */
  beside: ScriptPlace[];
}

export type MeasureResult =
  | { ok: true; answer: MeasureAnswer }
  | {
      ok: false;
      reason: TruingFault | Extract<SaidYardstick, { ok: false }>['reason'] | 'unknown-point';
      at?: string;
    };

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
  const level = { heightMm: 0, plusMinusMm: 0 };
  const heights = { yardstick: level, face: level, ...request.heights };
  const input: TruingInput = {
    facts,
    lens: lensOf(request.kind ?? 'photo'),
    believeResolution: request.believeResolution ?? true,
    hold: request.hold ?? 'free',
    saved: request.camera ?? null,
    planes: Object.entries(heights).map(([id, height]) => ({ id, ...height })),
    yardsticks: [],
  };
  const planes = new Set(['table', ...Object.keys(heights)]);
  const asked = [request.zero, request.axis, request.turned];
  const onTurned = request.turned ? new Set([...planes, TURNED]) : planes;
  if (
    asked.some((p) => p?.plane !== undefined && !planes.has(p.plane)) ||
    Object.values(request.points ?? {}).some((p) => p.plane !== undefined && !onTurned.has(p.plane))
  )
    return { ok: false, reason: 'unknown-plane' };
  for (const y of request.yardsticks) {
    const said = sayYardstick(y, pixels, request.unit ?? 'mm');
    if (!said.ok) return { ok: false, reason: said.reason, at: said.detail ? `${y.id} (${said.detail})` : y.id };
    input.yardsticks.push(said.yardstick);
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
  const axisPlane = request.turned?.plane ?? 'face';
  const points = Object.fromEntries(
    Object.entries(request.points ?? {}).map(([name, p]) => {
      const plane = p.plane === TURNED ? axisPlane : (p.plane ?? 'face');
      return [name, pick(p.at, plane, p.cling ?? 'edge')];
    }),
  );
  const turned = request.turned ? turnedBy(request.turned, (at, cling) => pick(at, axisPlane, cling)) : null;
  const between = (from: string, to: string): Figure | null => {
    const both = [from, to].every((name) => request.points?.[name]?.plane === TURNED);
    return turned && both
      ? (betweenOnTurned(truing, turned, points[from], points[to])?.figure ?? null)
      : figureOf(truing, [points[from], points[to]], distance);
  };
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
        parameters: parametersOf(truing),
        solutions: [{ a: truing.parameters[CAMERA.a], b: truing.parameters[CAMERA.b] }, ...truing.otherTilts].map(
          ({ a, b }) => ({ tiltXDegrees: a * degrees, tiltYDegrees: b * degrees }),
        ),
      },
      yardsticks: agreements(input),
      found: foundOf(input),
      rulerWidths: rulerWidths(input),
      positions: Object.fromEntries(
        Object.entries(points).map(([name, p]) => {
          const at = positionOf(truing, datum, p);
          const { uPx, vPx, sigmaPx } = p;
          const clings = (request.points?.[name]?.cling ?? 'edge') === 'edge';
          const beside = clings && pixels ? besideOf(pixels, p) : [];
          return [name, at && { xMm: at.x, yMm: at.y, uPx, vPx, sigmaPx, beside }];
        }),
      ),
      distances: (request.distances ?? []).map(({ from, to }) => ({
        from,
        to,
        mm: between(from, to),
      })),
      ...(turned && { turned: { diameterMm: limbDiameter(truing, turned) } }),
    },
  };
}

function turnedBy(
  { limbs: [a, b], cling = 'edge' }: NonNullable<MeasureRequest['turned']>,
  pick: (at: ScriptPlace, cling: ScriptCling) => PlanePick,
): TurnedPart {
  return {
    limbs: [
      [pick(a[0], cling), pick(a[1], cling)],
      [pick(b[0], cling), pick(b[1], cling)],
    ],
  };
}

/** The camera's eight numbers by their names; of a page they mean its scales and shear (truing/page.ts). */
function parametersOf({ parameters, covariance }: Truing): Record<string, Figure> {
  const size = parameters.length;
  return Object.fromEntries(
    Object.entries(CAMERA).map(([name, k]) => [
      name,
      { value: parameters[k], plusMinus: 2 * Math.sqrt(covariance[k * (size + 1)]) },
    ]),
  );
}

function foundOf(input: TruingInput): MeasureAnswer['found'] {
  const deviations = deviationsOf(input);
  return Object.fromEntries(
    input.yardsticks.map(({ id }) => {
      const own = deviations.filter((d) => d.yardstick === id);
      const square = own.reduce((sum, d) => sum + d.offMm ** 2, 0);
      return [id, { places: own.length, rmsMm: Math.sqrt(square / Math.max(1, own.length)) }];
    }),
  );
}
