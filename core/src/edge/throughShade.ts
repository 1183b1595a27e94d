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
/** The most of the ground's light that shade takes, as a share. */
const MOST_SHADE = 0.7;
/** What no shape here holds, linear light: a share of the light's whole range, and a little. */
const MISFIT = { share: 0.015, plus: 0.001 } as const;
/** Over how many px a phone sharpens, and by which shares of a step, with how likely each of them is. */
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
  /** Before the edge, behind it, and the shade. */
  private readonly low: Float64Array;
  private readonly high: Float64Array;
  private readonly shade: Float64Array;
  /** Products of each with each, and with the light: those of the step are the same for all shades. */
  private readonly products = new Float64Array(9);
  private readonly byLight = new Float64Array(3);
  private readonly squares: number;

  constructor(private readonly light: Float64Array) {
    this.low = new Float64Array(light.length);
    this.high = new Float64Array(light.length);
    this.shade = new Float64Array(light.length);
    this.squares = product(light, light);
  }

  setStep(of: (k: number) => number): void {
    const { low, high, light, products, byLight } = this;
    for (let k = 0; k < light.length; k++) {
      high[k] = of(k);
      low[k] = 1 - high[k]!;
    }
    products[0] = product(low, low) + RIDGE;
    products[1] = products[3] = product(low, high);
    products[4] = product(high, high) + RIDGE;
    byLight[0] = product(low, light);
    byLight[1] = product(high, light);
  }

  setShade(of: (k: number) => number): void {
    const { low, high, shade, light, products, byLight } = this;
    for (let k = 0; k < light.length; k++) shade[k] = -of(k);
    products[2] = products[6] = product(low, shade);
    products[5] = products[7] = product(high, shade);
    products[8] = product(shade, shade) + RIDGE;
    byLight[2] = product(shade, light);
  }

  /** Sum of squares that is left of the light. */
  misfit(shaded: Shaded | null): number {
    const { products: p, byLight: b } = this;
    if (!shaded) return this.ofTwo(p[0]!, p[1]!, p[4]!, b[0]!, b[1]!);
    const ground = shaded === 'before' ? 0 : 1;
    // By elimination: ground's column first, then the other, then the shade, which is well told: they are few and unlike.
    const other = 1 - ground;
    const [gg, go, gs] = [p[4 * ground]!, p[1]!, p[3 * ground + 2]!];
    const [oo, os, ss] = [p[4 * other]!, p[3 * other + 2]!, p[8]!];
    const oo1 = oo - (go * go) / gg;
    const os1 = os - (go * gs) / gg;
    const bo1 = b[other]! - (go * b[ground]!) / gg;
    const shade = (b[2]! - (gs * b[ground]!) / gg - (os1 * bo1) / oo1) / (ss - (gs * gs) / gg - (os1 * os1) / oo1);
    const level = (bo1 - os1 * shade) / oo1;
    const own = (b[ground]! - go * level - gs * shade) / gg;
    const share = shade / own;
    if (share >= 0 && share <= MOST_SHADE) return this.squares - own * b[ground]! - level * b[other]! - shade * b[2]!;
    if (!(share > 0)) return this.ofTwo(p[0]!, p[1]!, p[4]!, b[0]!, b[1]!);
    // Held at its bound it is a share of the ground's own column.
    const m = MOST_SHADE;
    return this.ofTwo(gg + 2 * m * gs + m * m * ss, go + m * os, oo, b[ground]! + m * b[2]!, b[other]!);
  }

  /** What two columns leave: their products with themselves and each other, and with the light. */
  private ofTwo(aa: number, ab: number, bb: number, aLight: number, bLight: number): number {
    const det = aa * bb - ab * ab;
    const a = (aLight * bb - bLight * ab) / det;
    const b = (bLight * aa - aLight * ab) / det;
    return this.squares - a * aLight - b * bLight;
  }
}

/** Keeps columns that are nearly alike apart. */
const RIDGE = 1e-9;

function product(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let k = 0; k < a.length; k++) sum += a[k]! * b[k]!;
  return sum;
}
