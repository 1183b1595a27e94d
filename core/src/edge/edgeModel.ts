import type { NormalEquations, SummedProblem } from '../numeric';
import { erfFrom } from './erf';

/** Samples of the rows of a band: offset along the normal and along the tangent, px, and linear light. */
export interface Samples {
  across: Float64Array;
  along: Float64Array;
  light: Float64Array;
  /** Where each row begins among them; all samples of a row lie equally far along. */
  rowStarts: readonly number[];
}

export type BandKind = 'edge' | 'line';

/** Where each parameter of a band stands; those of each further step behind them: offset, height, log blur. */
export const START = { offset: 0, slope: 1, bend: 2, logBlur: 3, level: 4, height: 5, tilt: 6 } as const;
export const OWN = 7;
export const EACH = 3;

/** Blur and width stay within what a picture can show at all, px. */
const LEAST_BLUR_PX = 0.25;
const MOST_BLUR_PX = 8;
/** Edges side by side are in the same focus: their blurs are alike within this σ of their logarithm. */
const ALIKE_BLUR = 0.3;
/** Scatter of one sample that this prior is weighed against, linear light: residuals are in light, of unit weight. */
const LIGHT_SIGMA = 0.01;
const WEIGHT_OF_BLUR = ALIKE_BLUR / LIGHT_SIGMA;
/** d/dz of erf(z / √2). */
const ERF_SLOPE = Math.sqrt(2 / Math.PI);

/** The parameters that are free: an edge has level ground, a straight band no bend. */
export const freeOf = (kind: BandKind, size: number, bent: boolean): number[] =>
  Array.from({ length: size }, (_, k) => k).filter(
    (k) => (k !== START.bend || bent) && (k !== START.tilt || kind === 'line'),
  );

/** Whether a blur is one that a picture can show. */
export const isShown = (blurPx: number): boolean => blurPx >= LEAST_BLUR_PX && blurPx <= MOST_BLUR_PX;

/**
 * A blurred step through all rows, with the steps beside it. The derivatives by slope and bend are those by the
 * offsets, together, times t and t²: so all samples of a row are summed by what is left, and each row's sums are weighed
 * by the powers of its t. That is a third of the work.
 *
 * In: the samples, how many parameters there are, which of them are free; those that are not stay zero.
 */
export function edgeModel(samples: Samples, size: number, free: readonly number[]): SummedProblem {
  const { across, along, light, rowStarts } = samples;
  const count = light.length;
  /** Summed for each sample: all free ones but slope and bend. */
  const plain = free.filter((k) => k !== START.slope && k !== START.bend);
  const wide = plain.length;
  const isOffset = plain.map((k) => k === START.offset || (k >= OWN && (k - OWN) % EACH === 0));
  const column = (parameter: number) => plain.indexOf(parameter);
  const longest = rowStarts.reduce((most, from, r) => Math.max(most, (rowStarts[r + 1] ?? count) - from), 0);
  const [blurAt, heightAt] = [column(START.logBlur) * longest, column(START.height) * longest];
  const others = Array.from({ length: (size - OWN) / EACH }, (_, k) => OWN + EACH * k);
  const widths = new Float64Array(others.length);
  /** Derivatives of a row's samples, one parameter after the other, and their residuals. */
  const g = new Float64Array(wide * longest);
  g.fill(1, column(START.level) * longest, (column(START.level) + 1) * longest);
  const residuals = new Float64Array(longest);
  /** Sums of rows weighed by t to the power of 0 to 4, and of their gradients by 0 to 2. */
  const moments = Array.from({ length: 5 }, () => new Float64Array(wide * wide));
  const gradients = Array.from({ length: 3 }, () => new Float64Array(wide));
  const p = new Float64Array(size);

  function addRow(from: number, to: number): number {
    let cost = 0;
    const t = along[from]!;
    const curve = t * (p[START.slope]! + t * p[START.bend]!);
    const blur = Math.exp(p[START.logBlur]!);
    const height = p[START.height]!;
    for (let n = 0; n < others.length; n++) widths[n] = Math.exp(p[others[n]! + 2]!);
    for (let k = from; k < to; k++) {
      const x = across[k]!;
      const d = x - curve;
      const z = (d - p[START.offset]!) / blur;
      const bell = Math.exp(-0.5 * z * z);
      const shape = erfFrom(z * Math.SQRT1_2, bell);
      const byZ = height * ERF_SLOPE * bell;
      let residual = p[START.level]! + height * shape - light[k]!;
      const s = k - from;
      g[s] = -byZ / blur;
      g[blurAt + s] = -byZ * z;
      g[heightAt + s] = shape;
      for (let n = 0; n < others.length; n++) {
        const at = others[n]!;
        const width = widths[n]!;
        const far = (d - p[at]!) / width;
        const bellFar = Math.exp(-0.5 * far * far);
        const rise = erfFrom(far * Math.SQRT1_2, bellFar);
        const byFar = p[at + 1]! * ERF_SLOPE * bellFar;
        residual += p[at + 1]! * rise;
        const c = (wide - EACH * (others.length - n)) * longest + s;
        g[c] = -byFar / width;
        g[c + longest] = rise;
        g[c + 2 * longest] = -byFar * far;
      }
      residuals[s] = residual;
      cost += 0.5 * residual * residual;
    }
    addProducts(to - from, t);
    return cost;
  }

  /** Pair by pair over all samples of the row: each sum stays in a register. */
  function addProducts(samplesOfRow: number, t: number): void {
    for (let i = 0; i < wide; i++) {
      const a = i * longest;
      for (let j = 0; j <= i; j++) {
        const b = j * longest;
        let sum = 0;
        for (let s = 0; s < samplesOfRow; s++) sum += g[a + s]! * g[b + s]!;
        const at = i * wide + j;
        for (let m = 0; m < 5; m++, sum *= t) moments[m]![at]! += sum;
      }
      let slope = 0;
      for (let s = 0; s < samplesOfRow; s++) slope += g[a + s]! * residuals[s]!;
      for (let m = 0; m < 3; m++, slope *= t) gradients[m]![i]! += slope;
    }
  }

  /** One entry of the matrix: parameters as the columns they are summed from, times t to some power. */
  const sources = free.map((parameter) => {
    const power = parameter === START.slope ? 1 : parameter === START.bend ? 2 : 0;
    return { power, columns: power ? plain.flatMap((_, c) => (isOffset[c] ? [c] : [])) : [column(parameter)] };
  });

  function expand({ matrix, gradient }: NormalEquations): void {
    for (let i = 0; i < free.length; i++) {
      const a = sources[i]!;
      let slope = 0;
      for (const c of a.columns) slope += gradients[a.power]![c]!;
      gradient[i] = slope;
      for (let j = 0; j <= i; j++) {
        const b = sources[j]!;
        const moment = moments[a.power + b.power]!;
        let sum = 0;
        for (const c of a.columns) for (const e of b.columns) sum += moment[c > e ? c * wide + e : e * wide + c]!;
        matrix[i * free.length + j] = sum;
      }
    }
  }

  return {
    size: free.length,
    sum(parameters, into) {
      for (let k = 0; k < free.length; k++) p[free[k]!] = parameters[k]!;
      for (const at of [START.logBlur, ...others.map((n) => n + 2)]) if (!isShown(Math.exp(p[at]!))) return false;
      for (const moment of moments) moment.fill(0);
      for (const gradient of gradients) gradient.fill(0);
      let cost = 0;
      for (let r = 0; r < rowStarts.length; r++) cost += addRow(rowStarts[r]!, rowStarts[r + 1] ?? count);
      expand(into);
      const own = free.indexOf(START.logBlur);
      for (const n of others) {
        const at = free.indexOf(n + 2);
        const residual = (p[n + 2]! - p[START.logBlur]!) / WEIGHT_OF_BLUR;
        cost += 0.5 * residual * residual;
        into.gradient[at]! += residual / WEIGHT_OF_BLUR;
        into.gradient[own]! -= residual / WEIGHT_OF_BLUR;
        into.matrix[at * free.length + at]! += WEIGHT_OF_BLUR ** -2;
        into.matrix[own * free.length + own]! += WEIGHT_OF_BLUR ** -2;
        into.matrix[at * free.length + own]! -= WEIGHT_OF_BLUR ** -2;
      }
      into.cost = cost;
      return true;
    },
  };
}
