import { descend, solveLeastSquares } from '../numeric';
import { type BandKind, EACH, edgeModel, freeOf, OWN, type Samples, START } from './edgeModel';
import { erf } from './erf';
import { lineModel } from './lineModel';
import { offsetOf, type Profile } from './profile';
import type { Step } from './steps';

/** A curve along a band: offset + slope · t + bend · t², px. */
interface Curve {
  offset: number;
  slope: number;
  bend: number;
}

/** A step or a line across a band: where, how soft, how high. */
export interface FittedStep {
  offset: number;
  /** σ of the offset, px. */
  sigmaPx: number;
  /** Blur of the step, or half width of the line, px. */
  blurPx: number;
  /** Height of the step from the normal's tail to its head, or depth of the line (dark is negative); linear light. */
  contrast: number;
}

/** An edge or line through a band of rows: its centre at t is offset + slope · t + bend · t². */
export interface BandFit extends FittedStep {
  slope: number;
  bend: number;
  /** Half way between the light of both sides of an edge; that of the ground of a line. */
  level: number;
  /** How far the ground differs on both sides, in parts of the line's depth; 0 for an edge. */
  slant: number;
  /** The steps beside it that were fitted along with it, on its curve moved to their own offset. */
  beside: FittedStep[];
  /** What a misfit that is the same along the whole band may move it by, px: another edge may hide in this one. */
  structurePx: number;
  /** Sum of squares of the misfit, linear light, over the samples counted beside it. */
  squares: number;
  samples: number;
}

/** Every second sample: half a pixel apart is as dense as the picture holds. */
const STRIDE = 2;
/** Samples along the normal per pixel of the picture, times rows per pixel: they share its noise. */
export const SAMPLES_PER_PIXEL = 2;
/** Light residuals are of unit weight, so steps are small against 1 long before the centre has settled. */
const FIT = { maxSteps: 30, smallestStep: 1e-6 } as const;

const FIRST_BLUR_PX = 1.2;
const NO_STEPS: readonly Step[] = [];

/**
 * Fits one blurred step, or one blurred line on a tilted ground, to all rows of a band together, bend included: the
 * estimate of least variance, where fitting row by row first would double it. Steps beside it, parallel to it, are
 * fitted along with it: left out, each would draw it towards itself.
 * In: rows chosen and the stretch of the normal to be used, px, and the sum of squares over so many samples up to which
 * a fit is of use; out: as above, null where none fits.
 */
export function fitBand(
  profile: Profile,
  chosen: readonly number[],
  kind: BandKind,
  reachPx: number,
  start: Curve,
  steps: readonly Step[] = NO_STEPS,
  usefulSquares?: (samples: number) => number,
): BandFit | null {
  const free = solve(profile, chosen, kind, reachPx, start, steps, true, usefulSquares);
  if (!free) return null;
  const share = bentShare(free.p[START.bend]! / free.sigma(START.bend));
  if (share > SURELY_BENT) return report(free, kind, reachPx);
  const level = { offset: free.p[0]!, slope: free.p[1]!, bend: 0 };
  const straight = solve(profile, chosen, kind, reachPx, level, steps, false);
  if (!straight) return null;
  const likelier = report(share > 0.5 ? free : straight, kind, reachPx);
  // What bends is fitted along; what nobody can tell lies between both, in doubt by how far they are apart.
  const mixed = (of: (s: Solved) => number) => share * of(free) + (1 - share) * of(straight);
  const apart = free.p[START.offset]! - straight.p[START.offset]!;
  const doubt = Math.sqrt(mixed((s) => s.sigma(START.offset) ** 2) + share * (1 - share) * apart * apart);
  return {
    ...likelier,
    offset: mixed((s) => s.p[START.offset]!),
    bend: mixed((s) => s.p[START.bend]!),
    sigmaPx: Math.hypot(doubt, likelier.structurePx),
  };
}

/**
 * How likely an edge is bent at all, by its bend in σ: the odds of a normal spread of bends against none, times those
 * before anything was seen. A threshold instead would leave edges about it off by far more than their ±.
 * Source: Kass & Raftery (1995), Bayes factors.
 */
function bentShare(bendSigmas: number): number {
  const grown = BENDS_SIGMAS ** 2 / (1 + BENDS_SIGMAS ** 2);
  const factor = Math.sqrt(1 - grown) * Math.exp(0.5 * grown * bendSigmas ** 2);
  return 1 / (1 + (1 - BENT_PRIOR) / (BENT_PRIOR * factor));
}

/** From here on a straight fit would only cost time, or find nothing at all on a small circle. */
const SURELY_BENT = 0.99;
/** How far edges that bend do so, in σ of a fit; and how many of all are taken to bend. */
const BENDS_SIGMAS = 5;
const BENT_PRIOR = 0.4;

interface Solved {
  p: Float64Array;
  sigma(k: number): number;
  /** Light that the shape does not hold and that is the same along the whole band: another edge close by. */
  structure: number;
  squares: number;
  samples: number;
}

/**
 * A lasting misfit moves a step by itself over the step's slope, which is contrast / (√(2π) blur); and as much again,
 * since the fit has already bent to hide part of it.
 */
const STEP_SLOPE = 2 * Math.sqrt(2 * Math.PI);

function report(solved: Solved, kind: BandKind, reachPx: number): BandFit {
  const { p, sigma, structure, squares, samples } = solved;
  const fitted = (offset: number, height: number, logBlur: number): FittedStep => {
    const blurPx = Math.exp(p[logBlur]!);
    const contrast = (kind === 'edge' ? 2 : 1) * p[height]!;
    const structurePx = (structure * STEP_SLOPE * blurPx) / Math.abs(contrast);
    return { offset: p[offset]!, sigmaPx: Math.hypot(sigma(offset), structurePx), blurPx, contrast };
  };
  const own = fitted(START.offset, START.height, START.logBlur);
  const beside: FittedStep[] = [];
  for (let n = OWN; n < p.length; n += EACH) beside.push(fitted(n, n + 1, n + 2));
  return {
    ...own,
    slope: p[START.slope]!,
    bend: p[START.bend]!,
    level: p[START.level]!,
    slant: Math.abs((2 * reachPx * p[START.tilt]!) / p[START.height]!),
    beside,
    structurePx: (structure * STEP_SLOPE * own.blurPx) / Math.abs(own.contrast),
    squares,
    samples,
  };
}

function solve(
  profile: Profile,
  chosen: readonly number[],
  kind: BandKind,
  reachPx: number,
  start: Curve,
  steps: readonly Step[],
  bent: boolean,
  usefulSquares: (samples: number) => number = () => Number.POSITIVE_INFINITY,
): Solved | null {
  const samples = collect(profile, chosen, reachPx, start, steps);
  const count = samples.light.length;
  const size = OWN + EACH * Math.max(0, steps.length - 1);
  if (count < 3 * size) return null;
  const free = freeOf(kind, size, bent);
  const guess = firstGuess(samples, kind, start, steps, bent);
  const first = Float64Array.from(free, (k) => guess[k]!);
  const found =
    kind === 'edge'
      ? descend(edgeModel(samples, size, free), first, { ...FIT, wanted: 0.5 * usefulSquares(count) })
      : solveLeastSquares(lineModel(samples, free), first, FIT);
  if (!found.ok) return null;
  const variance = ((2 * found.cost) / Math.max(1, count - size)) * SAMPLES_PER_PIXEL;
  const p = new Float64Array(size);
  for (let k = 0; k < free.length; k++) p[free[k]!] = found.parameters[k]!;
  return {
    p,
    sigma(parameter) {
      const k = free.indexOf(parameter);
      return k < 0 ? 0 : Math.sqrt(variance * found.covariance[k * free.length + k]!);
    },
    structure: lastingMisfit(samples, p, kind),
    squares: 2 * found.cost,
    samples: count,
  };
}

/** Width of a column along the edge in which the misfit is averaged, px. */
const COLUMN_PX = 0.5;

/** Root mean square of the misfit averaged along the band, less what noise alone leaves of it; linear light. */
function lastingMisfit({ across, along, light }: Samples, p: Float64Array, kind: BandKind): number {
  const blur = Math.exp(p[START.logBlur]!);
  const columns = new Map<number, { sum: number; square: number; count: number }>();
  for (let k = 0; k < light.length; k++) {
    const d = across[k]! - p[0]! - along[k]! * (p[1]! + along[k]! * p[2]!);
    const z = d / blur;
    const shape = kind === 'edge' ? erf(z * Math.SQRT1_2) : Math.exp(-0.5 * z * z);
    let misfit = light[k]! - p[START.level]! - p[START.height]! * shape - p[START.tilt]! * across[k]!;
    for (let n = OWN; n < p.length; n += EACH)
      misfit -= p[n + 1]! * erf(((d + p[0]! - p[n]!) / Math.exp(p[n + 2]!)) * Math.SQRT1_2);
    const column = columns.get(Math.round(d / COLUMN_PX)) ?? { sum: 0, square: 0, count: 0 };
    column.sum += misfit;
    column.square += misfit * misfit;
    column.count += 1;
    columns.set(Math.round(d / COLUMN_PX), column);
  }
  let lasting = 0;
  let used = 0;
  for (const { sum, square, count } of columns.values()) {
    if (count < FEWEST_IN_COLUMN) continue;
    const mean = sum / count;
    const noise = ((square / count - mean * mean) / count) * SAMPLES_PER_PIXEL;
    lasting += mean * mean - noise;
    used += 1;
  }
  return used ? Math.sqrt(Math.max(0, lasting / used)) : 0;
}

const FEWEST_IN_COLUMN = 4;

/** Samples of the chosen rows within reach of the curve that was followed. */
function collect(
  profile: Profile,
  chosen: readonly number[],
  reachPx: number,
  start: Curve,
  steps: readonly Step[],
): Samples {
  const offsets = steps.length ? steps.map((s) => s.offsetPx) : [0];
  const from = Math.min(...offsets) - reachPx;
  const to = Math.max(...offsets) + reachPx;
  const across: number[] = [];
  const along: number[] = [];
  const light: number[] = [];
  const rowStarts: number[] = [];
  for (const r of chosen) {
    const t = profile.along[r]!;
    const first = light.length;
    const centre = start.offset + t * (start.slope + t * start.bend);
    for (let k = 0; k < profile.count; k += STRIDE) {
      const x = offsetOf(profile, k);
      if (x - centre < from || x - centre > to || Number.isNaN(profile.rows[r]![k])) continue;
      across.push(x);
      along.push(t);
      light.push(profile.rows[r]![k]!);
    }
    if (light.length > first) rowStarts.push(first);
  }
  return {
    across: Float64Array.from(across),
    along: Float64Array.from(along),
    light: Float64Array.from(light),
    rowStarts,
  };
}

function firstGuess(
  { across, along, light }: Samples,
  kind: BandKind,
  start: Curve,
  steps: readonly Step[],
  bent: boolean,
): Float64Array {
  const [own, ...others] = steps;
  const offset = start.offset + (own?.offsetPx ?? 0);
  const guess = Float64Array.of(
    ...[offset, start.slope, bent ? start.bend : 0, Math.log(FIRST_BLUR_PX), 0, 0, 0],
    ...others.flatMap((o) => [start.offset + o.offsetPx, o.rise / 2, Math.log(FIRST_BLUR_PX)]),
  );
  if (own && others.length) {
    guess[START.level] = light.reduce((a, b) => a + b, 0) / light.length;
    guess[START.height] = own.rise / 2;
    return guess;
  }
  let [tail, tails, head, heads, middle, middles] = [0, 0, 0, 0, 0, 0];
  for (let k = 0; k < light.length; k++) {
    const d = across[k]! - offset - along[k]! * (start.slope + along[k]! * start.bend);
    if (Math.abs(d) < 0.7) {
      middle += light[k]!;
      middles += 1;
    } else if (d < -1.5) {
      tail += light[k]!;
      tails += 1;
    } else if (d > 1.5) {
      head += light[k]!;
      heads += 1;
    }
  }
  const [before, after] = [tail / Math.max(1, tails), head / Math.max(1, heads)];
  guess[START.level] = (before + after) / 2;
  guess[START.height] =
    (kind === 'edge' ? (after - before) / 2 : middle / Math.max(1, middles) - guess[START.level]!) || 1e-3;
  return guess;
}
