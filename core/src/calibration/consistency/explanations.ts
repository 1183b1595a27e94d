import { medianOf } from '../../numeric';
import { type Calibration, calibrate } from '../estimate/calibrate';
import type { CalibrationInput } from '../estimate/calibrationInput';
import { estimate } from '../estimate/estimate';
import { layOutUnknowns } from '../estimate/layOutUnknowns';
import { posedProblem } from '../estimate/posedProblem';
import type { KnownLength, PlaneId, Reference, ReferenceId } from '../reference/reference';
import { sizesOf } from '../reference/sizes';
import type { Figure } from '../uncertainty/figure';
import { CALIPER, checkSpot, type SpotCheck } from './agreement';

/** One thing that would explain all deviations of the spot checks together. */
export type Explanation =
  /** A reference is wrong, and the rest fits without it. */
  | { kind: 'leave-out'; reference: ReferenceId }
  /** One spot check is wrong, and all others fit. */
  | { kind: 'spot'; spot: number }
  /** A plane lies at another height, mm. */
  | { kind: 'height'; plane: PlaneId; heightMm: Figure }
  /** A reference has another size than was said, mm. */
  | { kind: 'size'; reference: ReferenceId; sizeMm: Figure }
  /** The lens is another than the file says: its camera constant as a share of that. */
  | { kind: 'lens'; share: Figure }
  /** Nothing explains it, but one factor on all lengths would. */
  | { kind: 'factor'; factor: Figure };

/** σ of a height that is not known at all, mm. */
const ANY_HEIGHT_MM = 40;
/** Places further off than this many of their own σ do not fit. */
const FITS_SIGMAS = 2.2;

/**
 * What would repair the deviations of spot checks: each single thing that, were it otherwise, would make all of them fit
 * together with the references. All that fit are told, since the checks alone cannot choose between them; the factor
 * comes last, for it explains nothing. Empty where all fit already, or nothing explanations them.
 */
export function findExplanations(input: CalibrationInput, spots: readonly SpotCheck[]): Explanation[] {
  const plain = calibrate(input, { draws: DRAWS });
  if (!plain.ok || spots.length === 0) return [];
  if (spots.every((s) => checkSpot(plain.calibration, s)?.fits)) return [];
  // What stands on a turned part is no length on a plane: it tells nothing of what would make it fit.
  const known = { ...input, references: [...input.references, ...spots.filter((s) => !s.turned).map(asLength)] };
  const lens = input.lens === 'photo' ? otherLens(known) : null;
  const factor = oneFactor(plain.calibration, spots);
  return [
    ...leftOut(input, spots),
    ...misread(plain.calibration, spots),
    ...otherHeights(input, known, spots),
    ...input.references.flatMap((y) => otherSize(y, known) ?? []),
    ...(lens ? [lens] : []),
    ...(factor ? [factor] : []),
  ];
}

/** References without which all fits. */
function leftOut(input: CalibrationInput, spots: readonly SpotCheck[]): Explanation[] {
  return input.references.flatMap((y): Explanation[] => {
    const without = calibrate(
      { ...input, references: input.references.filter((other) => other !== y) },
      { draws: DRAWS },
    );
    if (!without.ok || Math.max(...without.calibration.tiltUnseen) >= MOST_UNSEEN) return [];
    const fits = spots.every((s) => checkSpot(without.calibration, s)?.fits);
    return fits ? [{ kind: 'leave-out', reference: y.id }] : [];
  });
}

/** Spot checks without which all fits. */
function misread(plain: Calibration, spots: readonly SpotCheck[]): Explanation[] {
  if (spots.length < 2) return [];
  const fits = spots.map((s) => checkSpot(plain, s)?.fits ?? false);
  return fits.flatMap((_, k): Explanation[] =>
    fits.every((fit, j) => fit || j === k) ? [{ kind: 'spot', spot: k }] : [],
  );
}

/** Planes that something stands on, at a height where all fits. */
function otherHeights(input: CalibrationInput, known: CalibrationInput, spots: readonly SpotCheck[]): Explanation[] {
  if (input.lens !== 'photo') return [];
  const stand = new Set([...input.references.map((y) => y.plane), ...spots.map((s) => s.from.plane)]);
  return input.planes.flatMap((plane): Explanation[] => {
    if (!stand.has(plane.id)) return [];
    const planes = input.planes.map((p) => (p === plane ? { ...p, plusMinusMm: 2 * ANY_HEIGHT_MM } : p));
    const found = solved({ ...known, planes });
    const index = found?.unknowns.heights[plane.id];
    if (!found || index === undefined) return [];
    const heightMm = figureAt(found, index, 1, 0);
    const isOther = Math.abs(heightMm.value - plane.heightMm) > plane.plusMinusMm;
    return isOther && heightMm.plusMinus < ANY_HEIGHT_MM ? [{ kind: 'height', plane: plane.id, heightMm }] : [];
  });
}

/** A reference at a size with which all fits; null where it is the size that was said, or hardly known. */
function otherSize(y: Reference, known: CalibrationInput): Explanation | null {
  const own = y.kind === 'known-length' && !y.graduations ? undefined : sizesOf(y)[0];
  if (y.kind === 'known-length' && !own) return otherLength(y, known);
  const found = own && solved({ ...known, freed: y.id });
  if (!found) return null;
  const sizeMm = figureAt(found, layOutUnknowns(known).own[y.id]! + own.index, own.perUnit, own.mm);
  const isOther = Math.abs(sizeMm.value - own.mm) > sizeMm.plusMinus;
  return isOther && sizeMm.plusMinus < MOST_VAGUE * own.mm ? { kind: 'size', reference: y.id, sizeMm } : null;
}

/** A lone length has no unknown of its own: the others and the checks tell what it is. */
function otherLength(y: KnownLength, known: CalibrationInput): Explanation | null {
  const rest = { ...known, references: known.references.filter((other) => other !== y) };
  const found = solved(rest) && calibrate(rest, { draws: DRAWS });
  const on = { from: { ...y.from, plane: y.plane }, to: { ...y.to, plane: y.plane } };
  const size = found?.ok ? checkSpot(found.calibration, { ...on, lengthMm: y.lengthMm, plusMinusMm: 0 }) : null;
  return size && !size.fits && size.plusMinusMm < MOST_VAGUE * y.lengthMm
    ? { kind: 'size', reference: y.id, sizeMm: size.found }
    : null;
}

const DRAWS = 150;
/** A tilt that its prior alone knows is no explanation: anything would fit. */
const MOST_UNSEEN = 0.7;
/** A size found this vaguely explains nothing, as a share. */
const MOST_VAGUE = 0.05;

/** A spot check as a reference of its own. */
const asLength = ({ from, to, lengthMm, plusMinusMm }: SpotCheck, k: number): KnownLength => ({
  id: `spot check ${k}`,
  kind: 'known-length',
  plane: from.plane,
  from,
  to,
  lengthMm,
  plusMinusMm: plusMinusMm ?? CALIPER.plusMinusMm,
});

/** The estimate of it all, where every lone length and the middle of every reference's places fit; else null. */
function solved(input: CalibrationInput): Extract<ReturnType<typeof estimate>, { ok: true }> | null {
  const found = estimate(input);
  if (!found.ok) return null;
  const off = new Map<string, number[]>();
  posedProblem(input, found.prior, found.unknowns, null, (id, _, __, sigmas) => {
    off.set(id, [...(off.get(id) ?? []), Math.abs(sigmas)]);
  }).residuals(found.solutions[0]!.parameters, { add() {} });
  for (const list of off.values()) {
    if (medianOf(list) > FITS_SIGMAS) return null;
  }
  return found;
}

function figureAt(found: NonNullable<ReturnType<typeof solved>>, index: number, perUnit: number, from: number): Figure {
  const { parameters, covariance } = found.solutions[0]!;
  return {
    value: from + perUnit * parameters[index]!,
    plusMinus: 2 * Math.abs(perUnit) * Math.sqrt(covariance[index * (parameters.length + 1)]!),
  };
}

/** How much broader the lens is taken than the file says it. */
const ANY_LENS_SIGMA = 0.35;

function otherLens(known: CalibrationInput): Explanation | null {
  const strict = estimate(known);
  const loose = { ...known, saved: null, facts: { ...known.facts, focal35Mm: null } };
  const found = solved(loose);
  if (!found || !strict.ok) return null;
  const expected = strict.prior.mean[0]!;
  const { parameters, covariance } = found.solutions[0]!;
  const ln = parameters[0]! - expected;
  const spread = 2 * Math.sqrt(covariance[0]!);
  if (Math.abs(ln) < 2 * strict.prior.sigma[0]! || spread > ANY_LENS_SIGMA) return null;
  return { kind: 'lens', share: { value: Math.exp(ln), plusMinus: Math.exp(ln) * spread } };
}

/** One factor that brings every check within its ±, with its own; null where none does. */
function oneFactor(calibration: Calibration, spots: readonly SpotCheck[]): Explanation | null {
  const all = spots.map((s) => ({ s, found: checkSpot(calibration, s) }));
  let [weights, sum] = [0, 0];
  for (const { s, found } of all) {
    if (!found) return null;
    const sigma = found.plusMinusMm / 2 / s.lengthMm;
    weights += 1 / sigma ** 2;
    sum += s.lengthMm / found.found.value / sigma ** 2;
  }
  const value = sum / weights;
  const fits = all.every(
    ({ s, found }) => found && Math.abs(found.found.value * value - s.lengthMm) <= found.plusMinusMm,
  );
  return fits ? { kind: 'factor', factor: { value, plusMinus: 2 / Math.sqrt(weights) } } : null;
}
