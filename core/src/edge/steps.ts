import { offsetOf, type Profile, STEP_PX } from './profile';

/** Another edge that runs along the one looked at: where on its normal, and how light rises there. */
export interface Step {
  offsetPx: number;
  /** Rise of linear light along the normal; negative where it falls. */
  rise: number;
}

/** Scale at which the mean profile is differentiated, σ px: the rows are averaged already, so little more is needed. */
const SMOOTH_PX = 0.6;
/** A step stands out of the noise of the averaged rows by this many σ, and so does the dip between two of them. */
const CLEAR_SIGMAS = 6;
const CLEAR_DIP_SIGMAS = 4;
/** Least rise beside one of 1: what is weaker is texture; sharpening draws a weak counter-step along every edge. */
const LEAST_SHARE = { same: 0.2, counter: 0.35 } as const;
/** Two steps nearer than this cannot be told from one soft one, px. */
export const LEAST_GAP_PX = 1.5;
/** Between two steps of one direction the light must flatten to this share of the weaker one's slope. */
const DIP_SHARE = 0.85;

/**
 * The steps of light along a curve that was followed, from the mean of its rows: what hangs together along all of it.
 *
 * In: rows of light across the curve, those to be used, the curve, and the least rise that counts; out: the step
 * nearest to the curve, then every one beside it, nearest first, each seen in both halves of the length.
 */
export function stepsAlong(
  profile: Profile,
  chosen: readonly number[],
  at: (t: number) => number,
  least: number,
): Step[] {
  const shift = chosen.map((k) => at(profile.along[k]!));
  const early = meanSlope(profile, chosen.slice(0, chosen.length >> 1), shift);
  const late = meanSlope(profile, chosen.slice(chosen.length >> 1), shift.slice(chosen.length >> 1));
  const slope = early.map((s, k) => (s + late[k]!) / 2);
  // Both halves differ by noise and by what changes along the edge: either way it is no step of the whole length.
  const apart = [...early.map((s, k) => (s - late[k]!) ** 2)].filter(Number.isFinite);
  const sigma = apart.length ? Math.sqrt(apart.reduce((a, b) => a + b) / apart.length) / 2 : 0;
  const steps: (Step & { k: number })[] = [];
  for (let k = 1; k < slope.length - 1; k++) {
    const here = Math.abs(slope[k]!);
    const sign = Math.sign(slope[k]!);
    if (!(here >= Math.abs(slope[k - 1]!) && here > Math.abs(slope[k + 1]!)) || here < CLEAR_SIGMAS * sigma) continue;
    if (Math.min(early[k]! * sign, late[k]! * sign) < here / 2) continue;
    steps.push({ k, offsetPx: offsetOf(profile, k), rise: slope[k]! * bellWidth(slope, k) });
  }
  steps.sort((a, b) => Math.abs(a.offsetPx) - Math.abs(b.offsetPx));
  const first = steps.find((s) => Math.abs(s.rise) >= least);
  if (!first) return [];
  const others = steps.filter((s) => {
    if (s === first || Math.abs(s.offsetPx - first.offsetPx) < LEAST_GAP_PX) return false;
    const share = s.rise * first.rise > 0 ? LEAST_SHARE.same : LEAST_SHARE.counter;
    return Math.abs(s.rise) >= Math.max(least, share * Math.abs(first.rise)) && dips(slope, first.k, s.k, sigma);
  });
  return [first, ...others].map(({ offsetPx, rise }) => ({ offsetPx, rise }));
}

/** Area of a peak over its height, px: that of a bell as wide where it has fallen to a half. */
function bellWidth(slope: Float64Array, k: number): number {
  const half = Math.abs(slope[k]!) / 2;
  let [a, b] = [k, k];
  while (a > 0 && Math.abs(slope[a]!) > half && slope[a]! * slope[k]! > 0) a--;
  while (b < slope.length - 1 && Math.abs(slope[b]!) > half && slope[b]! * slope[k]! > 0) b++;
  return (b - a) * STEP_PX * BELL_PER_WIDTH;
}

/** Area of a bell of height 1 over its width at half height: √(2π) / 2.355. */
const BELL_PER_WIDTH = 1.064;

function dips(slope: Float64Array, a: number, b: number, sigma: number): boolean {
  if (slope[a]! * slope[b]! < 0) return true;
  const weaker = Math.min(Math.abs(slope[a]!), Math.abs(slope[b]!));
  let lowest = weaker;
  for (let k = Math.min(a, b); k <= Math.max(a, b); k++) lowest = Math.min(lowest, slope[k]! * Math.sign(slope[a]!));
  return lowest <= DIP_SHARE * weaker && weaker - lowest >= CLEAR_DIP_SIGMAS * sigma;
}

/** Slope per px of the mean light of rows that are each shifted onto the curve; NaN where the rows do not reach. */
function meanSlope(profile: Profile, chosen: readonly number[], shift: readonly number[]): Float64Array {
  const { count } = profile;
  const mean = new Float64Array(count);
  chosen.forEach((row, n) => {
    const by = shift[n]! / STEP_PX;
    const light = profile.rows[row]!;
    for (let k = 0; k < count; k++) {
      const x = k + by;
      const x0 = Math.floor(x);
      mean[k]! +=
        x0 < 0 || x0 >= count - 1 ? Number.NaN : light[x0]! + (x - x0) * ((light[x0 + 1] ?? light[x0]!) - light[x0]!);
    }
  });
  const reach = Math.ceil((2.5 * SMOOTH_PX) / STEP_PX);
  const weights: number[] = [];
  let scale = 0;
  for (let n = 1; n <= reach; n++) {
    const d = n * STEP_PX;
    const w = d * Math.exp(-0.5 * (d / SMOOTH_PX) ** 2);
    weights.push(w);
    scale += 2 * d * w;
  }
  const slope = new Float64Array(count).fill(Number.NaN);
  for (let k = reach; k < count - reach; k++) {
    let sum = 0;
    for (let n = 1; n <= reach; n++) sum += weights[n - 1]! * (mean[k + n]! - mean[k - n]!);
    slope[k] = sum / scale / Math.max(1, chosen.length);
  }
  return slope;
}
