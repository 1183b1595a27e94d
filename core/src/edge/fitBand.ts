import { solveLeastSquares } from '../numeric';
import { erf } from './erf';
import { offsetOf, type Profile } from './profile';

/** An edge or line through a band of rows: its centre at t is offset + slope · t + bend · t². */
export interface BandFit {
  offset: number;
  slope: number;
  bend: number;
  /** σ of the offset, px. */
  sigmaPx: number;
  /** Blur of the step, or half width of the line, px. */
  blurPx: number;
  /** Height of the step from the normal's tail to its head, or depth of the line (dark is negative); linear light. */
  contrast: number;
  /** How far the ground differs on both sides, in parts of the line's depth; 0 for an edge. */
  slant: number;
}

export type BandKind = 'edge' | 'line';

/** Blur and width stay within what a picture can show at all, px. */
const LEAST_BLUR_PX = 0.25;
const MOST_BLUR_PX = 8;
/** Every second sample: half a pixel apart is as dense as the picture holds. */
const STRIDE = 2;
/** Samples along the normal per pixel of the picture, times rows per pixel: they share its noise. */
const SAMPLES_PER_PIXEL = 2;
/** A bend this many σ from zero is kept; below it a straight edge is assumed, and the doubt goes into the ±. */
const KEPT_BEND_SIGMAS = 2;
/** Light residuals are of unit weight, so steps are small against 1 long before the centre has settled. */
const FIT = { maxSteps: 30, smallestStep: 1e-6 } as const;

const START = { offset: 0, slope: 1, bend: 2, logBlur: 3, level: 4, height: 5, tilt: 6 } as const;
const SIZE = 7;
const INDICES = [0, 1, 2, 3, 4, 5, 6];

/**
 * Fits one blurred step, or one blurred line on a tilted ground, to all rows of a band together, bend included: the
 * estimate of least variance, where fitting row by row first would double it.
 * In: rows chosen and the stretch of the normal to be used, px; out: as above, null where none fits.
 */
export function fitBand(
  profile: Profile,
  chosen: readonly number[],
  kind: BandKind,
  reachPx: number,
  start: { offset: number; slope: number; bend: number },
): BandFit | null {
  const free = solve(profile, chosen, kind, reachPx, start, true);
  if (!free) return null;
  if (Math.abs(free.p[START.bend]) > KEPT_BEND_SIGMAS * free.sigma(START.bend)) return report(free, 0, kind, reachPx);
  const straight = solve(profile, chosen, kind, reachPx, { offset: free.p[0], slope: free.p[1], bend: 0 }, false);
  if (!straight) return null;
  const meanSquare = chosen.reduce((sum, k) => sum + profile.along[k] ** 2, 0) / chosen.length;
  return report(straight, (free.p[START.bend] * meanSquare) / 2, kind, reachPx);
}

interface Solved {
  p: Float64Array;
  sigma(k: number): number;
  /** Light that the shape does not hold and that is the same along the whole band: another edge close by. */
  structure: number;
}

/**
 * A lasting misfit moves a step by itself over the step's slope, which is contrast / (√(2π) blur); and as much again,
 * since the fit has already bent to hide part of it.
 */
const STEP_SLOPE = 2 * Math.sqrt(2 * Math.PI);

function report({ p, sigma, structure }: Solved, bendDoubtPx: number, kind: BandKind, reachPx: number): BandFit {
  const blurPx = Math.exp(p[START.logBlur]);
  const contrast = (kind === 'edge' ? 2 : 1) * p[START.height];
  const structurePx = (structure * STEP_SLOPE * blurPx) / Math.abs(contrast);
  return {
    offset: p[START.offset],
    slope: p[START.slope],
    bend: p[START.bend],
    sigmaPx: Math.hypot(sigma(START.offset), bendDoubtPx, structurePx),
    blurPx,
    contrast,
    slant: Math.abs((2 * reachPx * p[START.tilt]) / p[START.height]),
  };
}

/** Holds what is not to be estimated: a residual of this weight pins a parameter without a second solver. */
const PIN = 1e6;

function solve(
  profile: Profile,
  chosen: readonly number[],
  kind: BandKind,
  reachPx: number,
  start: { offset: number; slope: number; bend: number },
  bent: boolean,
): Solved | null {
  const samples = collect(profile, chosen, reachPx, start);
  const count = samples.light.length;
  if (count < 3 * SIZE) return null;
  const found = solveLeastSquares(
    {
      size: SIZE,
      residuals(p, sink) {
        const blur = Math.exp(p[START.logBlur]);
        if (blur < LEAST_BLUR_PX || blur > MOST_BLUR_PX) return false;
        const row = new Float64Array(SIZE);
        for (let k = 0; k < count; k++) {
          const t = samples.along[k];
          const x = samples.across[k];
          const z = (x - p[0] - t * (p[1] + t * p[2])) / blur;
          const bell = Math.exp(-0.5 * z * z);
          const shape = kind === 'edge' ? erf(z * Math.SQRT1_2) : bell;
          const byZ = p[START.height] * (kind === 'edge' ? ERF_SLOPE * bell : -z * bell);
          row[0] = -byZ / blur;
          row[1] = row[0] * t;
          row[2] = row[1] * t;
          row[3] = -byZ * z;
          row[4] = 1;
          row[5] = shape;
          row[6] = x;
          sink.add(p[START.level] + p[START.height] * shape + p[START.tilt] * x - samples.light[k], INDICES, row);
        }
        if (!bent) sink.add(PIN * p[START.bend], [START.bend], [PIN]);
        // A step has level ground on either side here: a tilt could not be told from its own blur.
        if (kind === 'edge') sink.add(PIN * p[START.tilt], [START.tilt], [PIN]);
        return true;
      },
    },
    firstGuess(samples, kind, start, bent),
    FIT,
  );
  if (!found.ok) return null;
  const variance = ((2 * found.cost) / Math.max(1, count - SIZE)) * SAMPLES_PER_PIXEL;
  return {
    p: found.parameters,
    sigma: (k) => Math.sqrt(variance * found.covariance[k * SIZE + k]),
    structure: lastingMisfit(samples, found.parameters, kind),
  };
}

/** Width of a column along the edge in which the misfit is averaged, px. */
const COLUMN_PX = 0.5;

/** Root mean square of the misfit averaged along the band, less what noise alone leaves of it; linear light. */
function lastingMisfit({ across, along, light }: Samples, p: Float64Array, kind: BandKind): number {
  const blur = Math.exp(p[START.logBlur]);
  const columns = new Map<number, { sum: number; square: number; count: number }>();
  for (let k = 0; k < light.length; k++) {
    const d = across[k] - p[0] - along[k] * (p[1] + along[k] * p[2]);
    const z = d / blur;
    const shape = kind === 'edge' ? erf(z * Math.SQRT1_2) : Math.exp(-0.5 * z * z);
    const misfit = light[k] - p[START.level] - p[START.height] * shape - p[START.tilt] * across[k];
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

/** d/dz of erf(z / √2). */
const ERF_SLOPE = Math.sqrt(2 / Math.PI);

interface Samples {
  across: Float64Array;
  along: Float64Array;
  light: Float64Array;
}

/** Samples of the chosen rows within reach of the curve that was followed. */
function collect(
  profile: Profile,
  chosen: readonly number[],
  reachPx: number,
  start: { offset: number; slope: number; bend: number },
): Samples {
  const across: number[] = [];
  const along: number[] = [];
  const light: number[] = [];
  for (const r of chosen) {
    const t = profile.along[r];
    const centre = start.offset + t * (start.slope + t * start.bend);
    for (let k = 0; k < profile.count; k += STRIDE) {
      const x = offsetOf(profile, k);
      if (Math.abs(x - centre) > reachPx) continue;
      across.push(x);
      along.push(t);
      light.push(profile.rows[r][k]);
    }
  }
  return { across: Float64Array.from(across), along: Float64Array.from(along), light: Float64Array.from(light) };
}

function firstGuess(
  { across, along, light }: Samples,
  kind: BandKind,
  start: { offset: number; slope: number; bend: number },
  bent: boolean,
): Float64Array {
  const guess = Float64Array.of(start.offset, start.slope, bent ? start.bend : 0, Math.log(1.2), 0, 0, 0);
  let [tail, tails, head, heads, middle, middles] = [0, 0, 0, 0, 0, 0];
  for (let k = 0; k < light.length; k++) {
    const d = across[k] - start.offset - along[k] * (start.slope + along[k] * start.bend);
    if (Math.abs(d) < 0.7) {
      middle += light[k];
      middles += 1;
    } else if (d < -1.5) {
      tail += light[k];
      tails += 1;
    } else if (d > 1.5) {
      head += light[k];
      heads += 1;
    }
  }
  const [before, after] = [tail / Math.max(1, tails), head / Math.max(1, heads)];
  guess[START.level] = (before + after) / 2;
  guess[START.height] =
    (kind === 'edge' ? (after - before) / 2 : middle / Math.max(1, middles) - guess[START.level]) || 1e-3;
  return guess;
}
