import { erf } from './erf';

/** Light across an edge, averaged along it: evenly spaced from the first offset on, px; linear light. */
export interface MeanLight {
  firstPx: number;
  spacingPx: number;
  light: Float64Array;
  /** σ of a value. */
  noise: number;
}

/** What may lie darker close to an edge: nothing, the ground before it or the ground behind it, as offsets rise. */
export type Shaded = 'none' | 'before' | 'behind';

export interface ThroughShade {
  /** Where the edge lies, and σ of it by what shade may hide, px. */
  offsetPx: number;
  sigmaPx: number;
  /** How likely each is. */
  likely: Record<Shaded, number>;
}

/** Places tried about zero, px. */
const TRIED_PX = { most: 2.5, step: 0.2 } as const;
const BLURS_PX = Array.from({ length: 9 }, (_, k) => 0.5 * 1.2 ** k);
/**
 * The lens's blur was read from edges that may be shaded themselves, and that makes most of them softer: σ of its
 * logarithm towards sharper and towards softer.
 */
const BLUR_KNOWN = { sharper: 0.7, softer: 0.35 } as const;
const LEAST_LIKELY_BLUR = -3;
/**
 * How shade falls off the edge, and how far it reaches, px: to 1/e where a thing takes the sky's light from its foot, to
 * nothing where it casts a soft shadow, or as deep throughout where it casts a hard one.
 */
const SHADES: readonly { kind: 'fading' | 'soft' | 'hard'; reachPx: number }[] = [
  ...[0.5, 1, 2, 4].map((reachPx) => ({ kind: 'fading' as const, reachPx })),
  ...[2, 4].map((reachPx) => ({ kind: 'soft' as const, reachPx })),
  ...[2, 4].map((reachPx) => ({ kind: 'hard' as const, reachPx })),
];
/** Shade takes so much of the ground's light at most. */
const MOST_SHADE = 0.7;
/** What no shape here holds, linear light: a share of the light's whole range, and a little. */
const MISFIT = { share: 0.015, plus: 0.001 } as const;
/** A phone sharpens over about so many px; by such shares of a step, each as likely as that. */
const SHARPENED_PX = 1.5;
const SHARPENED = [
  { share: 0, likely: 0.7 },
  { share: 0.3, likely: 0.3 },
] as const;
/** What leaves more of the light unexplained, as a share of its range, is no single edge. */
const MOST_MISFIT = 0.04;
const FEWEST = 12;

const TABLE = { mostPx: 14, stepPx: 0.05 } as const;
const TABLE_SIZE = 2 * Math.round(TABLE.mostPx / TABLE.stepPx) + 1;

interface Shapes {
  blurPx: number;
  step: Float64Array;
  /** What sharpening adds to a step. */
  halo: Float64Array;
  /** Shade behind an edge, a table for each kind. */
  shades: Float64Array[];
}

let shapes: Shapes[] | null = null;

/** Worked out once for all edges. */
const shapesOfAll = (): Shapes[] => {
  shapes ??= BLURS_PX.map((blurPx) => ({
    blurPx,
    step: table((t) => bellUpTo(t / blurPx)),
    halo: table((t) => bellUpTo(t / blurPx) - bellUpTo(t / Math.hypot(blurPx, SHARPENED_PX))),
    shades: SHADES.map(({ kind, reachPx }) => table((t) => SHADE_AT[kind](t, reachPx, blurPx))),
  }));
  return shapes;
};

const table = (of: (t: number) => number): Float64Array =>
  Float64Array.from({ length: TABLE_SIZE }, (_, k) => of(k * TABLE.stepPx - TABLE.mostPx));

const bellUpTo = (z: number): number => (1 + erf(z * Math.SQRT1_2)) / 2;

/** From zero on exp(−t / reach), or 1 − t / reach, or 1 up to the reach, each blurred by a bell of σ `blur`. */
const SHADE_AT = {
  fading(t: number, reach: number, blur: number): number {
    const z = t / blur - blur / reach;
    return z < -5 ? 0 : Math.exp(Math.min(50, blur ** 2 / (2 * reach ** 2) - t / reach)) * bellUpTo(z);
  },
  soft: (t: number, reach: number, blur: number): number =>
    bellUpTo(t / blur) - (rampUpTo(t, blur) - rampUpTo(t - reach, blur)) / reach,
  hard: (t: number, reach: number, blur: number): number => bellUpTo(t / blur) - bellUpTo((t - reach) / blur),
};

/** max(0, t) blurred by a bell of σ `blur`. */
const rampUpTo = (t: number, blur: number): number =>
  t * bellUpTo(t / blur) + (blur / Math.sqrt(2 * Math.PI)) * Math.exp(-0.5 * (t / blur) ** 2);

function read(values: Float64Array, t: number): number {
  const x = Math.min(TABLE_SIZE - 1.001, Math.max(0, (t + TABLE.mostPx) / TABLE.stepPx));
  const k = x | 0;
  return values[k]! + (x - k) * (values[k + 1]! - values[k]!);
}

interface Trial {
  atPx: number;
  shaded: Shaded;
  log: number;
}

/**
 * Where an edge lies whose ground may be darker close to it. A thing that stands on its ground takes light from it, most
 * at its foot: within a blur or two of the edge nobody can see how much of the step is that. So all places, blurs and
 * reaches of shade are tried, each weighed by how well it explains the light and by how likely it was before.
 *
 * In: the mean light about the edge, the lens's blur, px, or null where it is not known, and how likely each kind was
 * before; out: the weighed mean and its σ, px: where a dark thing and a shaded ground explain the light alike, σ says so.
 * Degenerate: too few values, no step at all, and light that no single edge explains, give null.
 */
export function throughShade(
  mean: MeanLight,
  lensPx: number | null,
  before: Readonly<Record<Shaded, number>>,
): ThroughShade | null {
  const trials = tryAll(mean, lensPx, before);
  if (!trials) return null;
  const likely = { none: 0, before: 0, behind: 0 };
  let most = Number.NEGATIVE_INFINITY;
  for (const { log } of trials) most = Math.max(most, log);
  let [sum, first, second] = [0, 0, 0];
  for (const { atPx, shaded, log } of trials) {
    const weight = Math.exp(log - most);
    sum += weight;
    first += weight * atPx;
    second += weight * atPx * atPx;
    likely[shaded] += weight;
  }
  for (const kind of KINDS) likely[kind] /= sum;
  const offsetPx = first / sum;
  return { offsetPx, sigmaPx: Math.sqrt(Math.max(0, second / sum - offsetPx ** 2)), likely };
}

const KINDS = ['none', 'before', 'behind'] as const;

function tryAll(
  { firstPx, spacingPx, light, noise }: MeanLight,
  lensPx: number | null,
  before: Readonly<Record<Shaded, number>>,
): Trial[] | null {
  const count = light.length;
  const range = Math.max(...light) - Math.min(...light);
  if (count < FEWEST || !(range > 0)) return null;
  const columns = new Columns(light);
  const trials: (Trial & { squares: number })[] = [];
  let fewest = Number.POSITIVE_INFINITY;
  for (const { blurPx, step, halo, shades } of shapesOfAll()) {
    const beyond = lensPx ? Math.log(blurPx / lensPx) : 0;
    const byBlur = -0.5 * (beyond / (beyond < 0 ? BLUR_KNOWN.sharper : BLUR_KNOWN.softer)) ** 2;
    if (byBlur < LEAST_LIKELY_BLUR) continue;
    for (const sharpened of SHARPENED) {
      const add = (atPx: number, shaded: Shaded, prior: number, squares: number) => {
        fewest = Math.min(fewest, squares);
        trials.push({ atPx, shaded, log: Math.log(prior * sharpened.likely) + byBlur, squares });
      };
      for (let atPx = -TRIED_PX.most; atPx < TRIED_PX.most + 1e-9; atPx += TRIED_PX.step) {
        columns.setStep((k) => {
          const t = firstPx + k * spacingPx - atPx;
          return read(step, t) + sharpened.share * read(halo, t);
        });
        if (before.none > 0) add(atPx, 'none', before.none, columns.misfit(null));
        for (const [side, shaded] of SIDES) {
          if (!(before[shaded] > 0)) continue;
          for (const shade of shades) {
            columns.setShade((k) => read(shade, side * (firstPx + k * spacingPx - atPx)));
            add(atPx, shaded, before[shaded] / shades.length, columns.misfit(shaded));
          }
        }
      }
    }
  }
  if (Math.sqrt(fewest / count) > MOST_MISFIT * range) return null;
  // Neighbours closer together than a pixel err alike; and nothing is told closer than the best of all explains it.
  const free = Math.max(1, count * Math.min(1, spacingPx));
  const variance = Math.max(noise ** 2 + (MISFIT.share * range + MISFIT.plus) ** 2, fewest / count);
  for (const trial of trials) trial.log -= (0.5 * trial.squares * (free / count)) / variance;
  return trials;
}

const SIDES = [
  [-1, 'before'],
  [1, 'behind'],
] as const;

/** What is linear: the levels on both sides, and what shade takes, between nothing and the most there is. */
class Columns {
  private readonly all: Float64Array[];
  private readonly held: Float64Array;
  private readonly found = new Float64Array(3);
  private readonly normal = new Float64Array(12);

  constructor(private readonly light: Float64Array) {
    this.all = Array.from({ length: 3 }, () => new Float64Array(light.length));
    this.held = new Float64Array(light.length);
  }

  setStep(of: (k: number) => number): void {
    const [low, high] = this.all as [Float64Array, Float64Array];
    for (let k = 0; k < this.light.length; k++) {
      high[k] = of(k);
      low[k] = 1 - high[k]!;
    }
  }

  setShade(of: (k: number) => number): void {
    const shade = this.all[2]!;
    for (let k = 0; k < this.light.length; k++) shade[k] = -of(k);
  }

  /** Sum of squares that is left of the light. */
  misfit(shaded: Shaded | null): number {
    const { all, found, held } = this;
    if (!shaded) return this.solve(all, 2);
    const ground = shaded === 'before' ? 0 : 1;
    const left = this.solve(all, 3);
    const share = found[2]! / found[ground]!;
    if (share >= 0 && share <= MOST_SHADE) return left;
    if (!(share > 0)) return this.solve(all, 2);
    // Held at its bound it is a share of the ground's own column.
    for (let k = 0; k < held.length; k++) held[k] = all[ground]![k]! + MOST_SHADE * all[2]![k]!;
    return this.solve(ground ? [all[0]!, held] : [held, all[1]!], 2);
  }

  /** Least squares by the normal equations, which are well told: the columns are few and unlike. Out: what is left. */
  private solve(columns: readonly Float64Array[], size: number): number {
    const { normal, found, light } = this;
    const wide = size + 1;
    for (let i = 0; i < size; i++) {
      const a = columns[i]!;
      for (let j = i; j <= size; j++) {
        const b = j < size ? columns[j]! : light;
        let sum = 0;
        for (let k = 0; k < a.length; k++) sum += a[k]! * b[k]!;
        normal[i * wide + j] = sum;
        if (j < size) normal[j * wide + i] = sum;
      }
      normal[i * wide + i]! += 1e-9;
    }
    for (let i = 0; i < size; i++)
      for (let r = i + 1; r < size; r++) {
        const by = normal[r * wide + i]! / normal[i * wide + i]!;
        for (let c = i; c <= size; c++) normal[r * wide + c]! -= by * normal[i * wide + c]!;
      }
    for (let i = size - 1; i >= 0; i--) {
      let value = normal[i * wide + size]!;
      for (let c = i + 1; c < size; c++) value -= normal[i * wide + c]! * found[c]!;
      found[i] = value / normal[i * wide + i]!;
    }
    let sum = 0;
    for (let k = 0; k < light.length; k++) {
      let value = light[k]!;
      for (let c = 0; c < size; c++) value -= found[c]! * columns[c]![k]!;
      sum += value * value;
    }
    return sum;
  }
}
