import {
  type Agreement,
  agreements,
  betweenOnTurned,
  CAMERA,
  type Calibration,
  type CalibrationInput,
  type Datum,
  deviationsOf,
  distance,
  type Figure,
  figureOf,
  type PlanePick,
  positionOf,
  type RulerWidth,
  rulerWidths,
  silhouetteDiameter,
} from '../calibration';
import { TURNED } from '../sketch';
import type { ScriptPlace } from './request';
import type { SaidPicture } from './sayPicture';
import { besideOf } from './sayYardstick';
import { type ScriptSettled, settleAsked } from './settleAsked';

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
  /** Each yardstick as the others find it; null with only one, and where they hold it within no bound. */
  yardsticks: Record<string, Agreement | null>;
  /** What was found of each: how many places, how far off they lie, root mean square, and what makes it doubtful. */
  found: Record<string, { places: number; rmsMm: number; doubt?: string }>;
  /** Of each ruler with both long edges seen: its width as all else finds it, and that held against what was measured. */
  rulerWidths: Record<string, RulerWidth>;
  positions: Record<string, ScriptPosition | null>;
  distances: { from: string; to: string; mm: Figure | null }[];
  /** What was given to be settled, by its id. */
  settled?: Record<string, ScriptSettled>;
  /** Of a turned part: its diameter between both outlines where they were picked. */
  turned?: { diameterMm: Figure | null };
}

interface ScriptPosition {
  xMm: Figure;
  yMm: Figure;
  uPx: number;
  vPx: number;
  sigmaPx: number;
  /** Other edges that run along the one it clung to, the nearest first: a foot, another rim, the line of a chamfer. */
  beside: ScriptPlace[];
}

/** Of pictures that are joined: the truing that holds them all, whose datum it is, and which of them this one is. */
export interface Within {
  over: Calibration;
  datum: Datum;
  picture: string;
}

/** Everything that is told of one picture, by its truing. */
export function answerPicture(said: SaidPicture, truing: Calibration, within: Within | null = null): MeasureAnswer {
  const { request, input, points, turned, pixels } = said;
  const over = within?.over ?? truing;
  const datum = within?.datum ?? said.datum;
  const placed = (p: PlanePick): PlanePick => (within ? { ...p, picture: within.picture } : p);
  const between = (from: string, to: string): Figure | null => {
    const both = [from, to].every((name) => request.points?.[name]?.plane === TURNED);
    return turned && both
      ? (betweenOnTurned(truing, turned, points[from]!, points[to]!)?.figure ?? null)
      : figureOf(over, [placed(points[from]!), placed(points[to]!)], distance);
  };
  const degrees = 180 / Math.PI;
  return {
    truing: {
      tiltDegrees: truing.tiltRad * degrees,
      tiltPlusMinusDegrees: Math.max(...truing.tiltPlusMinusRad) * degrees,
      cameraHeightMm: truing.cameraHeightMm,
      otherTilts: truing.otherTilts.length,
      parameters: parametersOf(truing),
      solutions: [{ a: truing.parameters[CAMERA.a]!, b: truing.parameters[CAMERA.b]! }, ...truing.otherTilts].map(
        ({ a, b }) => ({ tiltXDegrees: a * degrees, tiltYDegrees: b * degrees }),
      ),
    },
    yardsticks: Object.fromEntries(
      Object.entries(agreements(input)).map(([id, a]) => [id, a && !isEndless(a.found) ? a : null]),
    ),
    found: foundOf(input, said.doubts),
    rulerWidths: rulerWidths(input),
    positions: Object.fromEntries(
      Object.entries(points).map(([name, p]) => {
        const at = positionOf(over, datum, placed(p));
        const { uPx, vPx, sigmaPx } = p;
        const snaps = (request.points?.[name]?.cling ?? 'edge') === 'edge';
        const beside = snaps && pixels ? besideOf(pixels, p) : [];
        return [name, at && { xMm: at.x, yMm: at.y, uPx, vPx, sigmaPx, beside }];
      }),
    ),
    distances: (request.distances ?? []).map(({ from, to }) => ({ from, to, mm: between(from, to) })),
    ...(request.settle && {
      settled: Object.fromEntries(request.settle.map((s) => [s.id, settleAsked(s, pixels, truing, said.datum)])),
    }),
    ...(turned && { turned: { diameterMm: silhouetteDiameter(truing, turned) } }),
  };
}

/** A figure that says nothing: its ± reaches beyond any bound. */
export const isEndless = (f: Figure | null | undefined): boolean =>
  !!f && !(Number.isFinite(f.value) && Number.isFinite(f.plusMinus));

/** The first figure that is asked for and has no bound: a point's, a distance's, or the camera's; null when all have. */
export function findEndless({ truing, positions, distances, turned }: MeasureAnswer): string | null {
  const point = Object.entries(positions).find(([, at]) => isEndless(at?.xMm) || isEndless(at?.yMm));
  if (point) return point[0];
  const between = distances.find(({ mm }) => isEndless(mm));
  if (between) return `${between.from} to ${between.to}`;
  if (isEndless(turned?.diameterMm)) return 'turned';
  return Object.values(truing.parameters).some(isEndless) ? 'truing' : null;
}

/** The camera's eight numbers by their names; of a page they mean its scales and shear (calibration/model/page.ts). */
function parametersOf({ parameters, covariance }: Calibration): Record<string, Figure> {
  const size = parameters.length;
  return Object.fromEntries(
    Object.entries(CAMERA).map(([name, k]) => [
      name,
      { value: parameters[k]!, plusMinus: 2 * Math.sqrt(covariance[k * (size + 1)]!) },
    ]),
  );
}

function foundOf(input: CalibrationInput, doubts: SaidPicture['doubts']): MeasureAnswer['found'] {
  const deviations = deviationsOf(input);
  return Object.fromEntries(
    input.references.map(({ id }) => {
      const own = deviations.filter((d) => d.reference === id);
      const square = own.reduce((sum, d) => sum + d.offMm ** 2, 0);
      const doubt = doubts[id];
      return [id, { places: own.length, rmsMm: Math.sqrt(square / Math.max(1, own.length)), ...(doubt && { doubt }) }];
    }),
  );
}
