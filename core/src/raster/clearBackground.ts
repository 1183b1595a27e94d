/** A background to be taken away by its colour. */
export interface ClearSetting {
  /** As the file has it, 0 to 255. */
  colour: readonly [number, number, number];
  /** How unlike a colour may be and still be cleared, 0 to 1. */
  tolerance: number;
}

/** Share of a difference in lightness that counts: a shadow on the background is still background. */
const LIGHTNESS_WEIGHT = 0.45;
/** Likeness over which the cut runs from clear to whole: a pixel of the rim keeps its share, and no more. */
const RAMP = 0.02;
/** Differences between colours reach about this; the tolerance is a share of it. */
const MOST_UNLIKE = 0.5;
/** Bits of each colour that the table goes by: steps of 4 of 255, finer than any noise. */
const BITS = 6;

/** How much of each colour stays, worked out once for a setting: one look-up a pixel afterwards. */
export interface ClearTable {
  readonly stays: Uint8Array;
}

/**
 * Works out what stays of each colour. Likeness is told in OKLab, lightness counting less.
 * Source of the colour space: Ottosson (2020), A perceptual color space for image processing.
 */
export function buildClearTable({ colour, tolerance }: ClearSetting): ClearTable {
  const steps = 1 << BITS;
  const linear = Float64Array.from({ length: 256 }, (_, k) => toLinear(k / 255));
  const own = new Float64Array(3);
  const other = new Float64Array(3);
  toLab(linear[colour[0]]!, linear[colour[1]]!, linear[colour[2]]!, own);
  const bound = tolerance * MOST_UNLIKE;
  const stays = new Uint8Array(steps ** 3);
  const middle = (k: number) => linear[Math.round((k * 255) / (steps - 1))]!;
  for (let r = 0; r < steps; r++)
    for (let g = 0; g < steps; g++)
      for (let b = 0; b < steps; b++) {
        toLab(middle(r), middle(g), middle(b), other);
        const light = LIGHTNESS_WEIGHT * (other[0]! - own[0]!);
        const unlike = Math.hypot(light, other[1]! - own[1]!, other[2]! - own[2]!);
        stays[(r << (2 * BITS)) | (g << BITS) | b] = 255 * Math.min(1, Math.max(0, (unlike - bound) / RAMP));
      }
  return { stays };
}

/** Takes the background out of pixels, RGBA, in place: only their opacity changes. */
export function clearBackground(data: Uint8ClampedArray, { stays }: ClearTable): void {
  for (let k = 0; k < data.length; k += 4) {
    if (data[k + 3] === 0) continue;
    const at = ((data[k]! >> 2) << (2 * BITS)) | ((data[k + 1]! >> 2) << BITS) | (data[k + 2]! >> 2);
    data[k + 3] = Math.min(data[k + 3]!, stays[at]!);
  }
}

const toLinear = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);

function toLab(r: number, g: number, b: number, out: Float64Array): void {
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  out[0] = 0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s;
  out[1] = 1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s;
  out[2] = 0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s;
}
