import { type Calibration, calibrate } from '../estimate/calibrate';
import type { CalibrationInput } from '../estimate/calibrationInput';
import { layOutUnknowns } from '../estimate/layOutUnknowns';
import { isRuler, RULER_WIDTH, type Ruler, rulerMiddleMm, rulerWidthSigmaMm } from '../reference/kinds';
import { knownLengthSigmaMm, type PixelPick, type Reference, type ReferenceId } from '../reference/reference';
import { sizesOf } from '../reference/sizes';
import { betweenOnTurned, silhouetteDiameter, type TurnedPart } from '../turned/turned';
import { distance, type Figure, figureOf, type Measure, type PlanePick } from '../uncertainty/figure';

/** A known length held against what the rest says of it. */
export interface Agreement {
  /** What the rest finds, mm. */
  found: Figure;
  /** Found less known, mm. */
  deviationMm: number;
  /** The same in parts of the known length. */
  deviationShare: number;
  /** 95 % half width of the deviation: of what was found and of what was known, together. */
  plusMinusMm: number;
  /** The deviation is no larger than its ±. */
  fits: boolean;
}

/** A length that is compared and not used. */
export interface SpotCheck {
  from: PlanePick;
  to: PlanePick;
  lengthMm: number;
  /** ± of the caliper, mm; null takes `CALIPER`. */
  plusMinusMm: number | null;
  /** The turned part that both picks lie on; null or absent on a plane. */
  turned?: TurnedPart | null;
}

/** A caliper reading when the person does not say: the resolution and the touch of a workshop caliper. */
export const CALIPER = { plusMinusMm: 0.03 } as const;

/** Holds a spot check against the calibration. Null where a pick has no place on its plane. */
export function checkSpot(calibration: Calibration, spot: SpotCheck): Agreement | null {
  const { from, to, turned } = spot;
  const found = turned
    ? (betweenOnTurned(calibration, turned, from, to)?.figure ?? null)
    : figureOf(calibration, [from, to], distance);
  return found && compare(found, spot.lengthMm, spot.plusMinusMm ?? CALIPER.plusMinusMm);
}

/**
 * Each reference as all the others predict it: d / sqrt(σ²predicted + σ²own). One with many places is left in with its
 * size set free, so that its shape still counts; of forms that are square or equal the worst is told.
 * With one reference there is nothing to hold it against but the scale that a page's file states; without that the list
 * is empty.
 */
export function agreements(input: CalibrationInput): Record<ReferenceId, Agreement | null> {
  const result: Record<ReferenceId, Agreement | null> = {};
  if (input.references.length < (isScaleStated(input) ? 1 : 2)) return result;
  for (const y of input.references) result[y.id] = sizesOf(y).length ? freedSize(input, y) : predictedByRest(input, y);
  return result;
}

/** The file of a page states its scale, and that counts. */
export const isScaleStated = ({ lens, believeResolution, facts }: CalibrationInput): boolean =>
  lens === 'page' && believeResolution && facts.resolution !== null;

/** The reference without which all the others agree, where one does not; null with fewer than three. */
export function outlier(input: CalibrationInput, found: Record<ReferenceId, Agreement | null>): ReferenceId | null {
  if (input.references.length < 3) return null;
  const worst = input.references
    .map((y) => ({ y, by: Math.abs(found[y.id]?.deviationMm ?? 0) / (found[y.id]?.plusMinusMm ?? 1) }))
    .sort((p, q) => q.by - p.by)[0]!;
  if (worst.by <= 1) return null;
  const rest = agreements({ ...input, references: input.references.filter((y) => y !== worst.y) });
  return Object.values(rest).every((a) => a?.fits ?? true) ? worst.y.id : null;
}

/** Draws that are enough to tell whether one reference fits the others. */
const DRAWS = 120;

function freedSize(input: CalibrationInput, y: Reference): Agreement | null {
  const result = calibrate({ ...input, freed: y.id }, { draws: DRAWS });
  if (!result.ok) return null;
  const { parameters, covariance, draws } = result.calibration;
  const at = layOutUnknowns(input).own[y.id]!;
  const size = parameters.length;
  const all = sizesOf(y).map(({ index, perUnit, mm, plusMinusMm }) => {
    const k = at + index;
    const spread = draws
      ? halfWidth(draws.map((d) => Math.abs(d[k]! - parameters[k]!)))
      : 2 * Math.sqrt(covariance[k * size + k]!);
    return compare({ value: mm + perUnit * parameters[k]!, plusMinus: perUnit * spread }, mm, plusMinusMm);
  });
  return all.sort((p, q) => Math.abs(q.deviationMm) / q.plusMinusMm - Math.abs(p.deviationMm) / p.plusMinusMm)[0]!;
}

/** A ruler's width as all else finds it, and that held against what was measured; null where nobody measured it. */
export interface RulerWidth {
  found: Figure;
  measured: Agreement | null;
}

/**
 * The width of each ruler of which both long edges are seen, as its strokes and all other references find it: without
 * what was measured of it. A measured one that does not fit was measured elsewhere, or the edges are not those drawn.
 * Without `draws` the ± is of first order, and each costs one estimate.
 */
export function rulerWidths(input: CalibrationInput, draws = DRAWS): Record<ReferenceId, RulerWidth> {
  const result: Record<ReferenceId, RulerWidth> = {};
  for (const y of input.references) {
    const found = isRuler(y) && y.graduations.far.length > 0 ? widthFound(input, y, draws) : null;
    if (found && isRuler(y))
      result[y.id] = {
        found,
        measured: y.width ? compare(found, y.width.widthMm, 2 * rulerWidthSigmaMm(y.width)) : null,
      };
  }
  return result;
}

function widthFound(input: CalibrationInput, ruler: Ruler, count: number): Figure | null {
  const references = input.references.map((y) => (y === ruler ? { ...ruler, width: null } : y));
  const result = calibrate({ ...input, references }, { draws: count });
  if (!result.ok) return null;
  const { parameters, covariance, draws } = result.calibration;
  const at = layOutUnknowns(input).own[ruler.id]!;
  const [k, n] = [at + RULER_WIDTH.at0, at + RULER_WIDTH.taper];
  const size = parameters.length;
  const m = rulerMiddleMm(ruler);
  const wide = (p: Float64Array) => p[k]! + m * p[n]!;
  const square = covariance[k * size + k]! + 2 * m * covariance[k * size + n]! + m * m * covariance[n * size + n]!;
  const plusMinus = draws ? halfWidth(draws.map((d) => Math.abs(wide(d) - wide(parameters)))) : 2 * Math.sqrt(square);
  return { value: Math.abs(wide(parameters)), plusMinus };
}

const halfWidth = (away: number[]): number =>
  away.sort((p, q) => p - q)[Math.min(away.length - 1, Math.floor(0.95 * away.length))]!;

function predictedByRest(input: CalibrationInput, y: Reference): Agreement | null {
  const rest = calibrate({ ...input, references: input.references.filter((other) => other !== y) }, { draws: DRAWS });
  if (!rest.ok) return null;
  const on = (pick: PixelPick): PlanePick => ({ ...pick, plane: y.plane });
  if (y.kind === 'known-length') {
    const found = figureOf(rest.calibration, [on(y.from), on(y.to)], distance);
    return found && compare(found, y.lengthMm, 2 * knownLengthSigmaMm(y));
  }
  if (y.kind === 'turned-diameter') {
    const [[a, b], [c, d]] = y.silhouettes;
    const found = silhouetteDiameter(rest.calibration, {
      silhouettes: [
        [on(a), on(b)],
        [on(c), on(d)],
      ],
    });
    const { diameterMm: lengthMm, plusMinusMm } = y;
    return found && compare(found, lengthMm, 2 * knownLengthSigmaMm({ lengthMm, plusMinusMm }));
  }
  if (y.kind === 'turned-span') {
    const [[a, b], [c, d]] = y.silhouettes;
    const silhouettes = [[on(a), on(b)] as const, [on(c), on(d)] as const] as const;
    const found = betweenOnTurned(rest.calibration, { silhouettes }, on(y.from), on(y.to))?.figure;
    return found ? compare(found, y.lengthMm, 2 * knownLengthSigmaMm(y)) : null;
  }
  if (y.kind === 'square-lines' || y.kind === 'equal-lengths') {
    const spans = y.kind === 'square-lines' ? y.lines : y.lengths;
    const first = spans[0]!;
    const others = spans.slice(1);
    const all = others.flatMap((span, k) => {
      const picks = [first.from, first.to, span.from, span.to].map(on);
      const quarter = y.kind === 'square-lines' && y.lines[k + 1]!.along !== y.lines[0]!.along;
      const off = figureOf(rest.calibration, picks, y.kind === 'square-lines' ? outOfLine(quarter) : difference);
      return off ? [compare(off, 0, 0)] : [];
    });
    return (
      all.sort((p, q) => Math.abs(q.deviationMm) / q.plusMinusMm - Math.abs(p.deviationMm) / p.plusMinusMm)[0] ?? null
    );
  }
  return null;
}

/** How far the end of the second span lies off the first one's direction, or square to it, mm. */
const outOfLine =
  (quarter: boolean): Measure =>
  (p) => {
    const raw =
      Math.atan2(p[7]! - p[5]!, p[6]! - p[4]!) - Math.atan2(p[3]! - p[1]!, p[2]! - p[0]!) - (quarter ? Math.PI / 2 : 0);
    return (raw - Math.PI * Math.round(raw / Math.PI)) * Math.hypot(p[6]! - p[4]!, p[7]! - p[5]!);
  };

const difference: Measure = (p) => Math.hypot(p[6]! - p[4]!, p[7]! - p[5]!) - Math.hypot(p[2]! - p[0]!, p[3]! - p[1]!);

function compare(found: Figure, knownMm: number, knownPlusMinusMm: number): Agreement {
  const deviationMm = found.value - knownMm;
  const plusMinusMm = Math.hypot(found.plusMinus, knownPlusMinusMm);
  return {
    found,
    deviationMm,
    deviationShare: knownMm === 0 ? 0 : deviationMm / knownMm,
    plusMinusMm,
    fits: Math.abs(deviationMm) <= plusMinusMm,
  };
}
