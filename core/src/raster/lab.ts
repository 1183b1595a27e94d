/** Bits of each colour that the table goes by: steps of 4 of 255, finer than any noise. */
export const LAB_BITS = 6;

let table: Float32Array | null = null;

/**
 * L, a and b of every colour of six bits a channel, three numbers each, in the order of `labIndex`: one look-up a pixel
 * instead of three cube roots. Made when first asked for.
 * Source of the colour space: Ottosson (2020), A perceptual color space for image processing.
 */
export function labTable(): Float32Array {
  if (table) return table;
  const steps = 1 << LAB_BITS;
  const linear = Float64Array.from({ length: steps }, (_, k) => toLinear(k / (steps - 1)));
  const out = new Float64Array(3);
  table = new Float32Array(3 * steps ** 3);
  for (let r = 0, at = 0; r < steps; r++)
    for (let g = 0; g < steps; g++)
      for (let b = 0; b < steps; b++, at += 3) {
        linearToLab(linear[r]!, linear[g]!, linear[b]!, out);
        table.set(out, at);
      }
  return table;
}

/** Where a colour of 0 to 255 stands in a table of six bits a channel. */
export const labIndex = (r: number, g: number, b: number): number =>
  ((r >> 2) << (2 * LAB_BITS)) | ((g >> 2) << LAB_BITS) | (b >> 2);

/** L, a and b of a colour of 0 to 255, into `out`. */
export function toLab(r: number, g: number, b: number, out: Float64Array): void {
  linearToLab(toLinear(r / 255), toLinear(g / 255), toLinear(b / 255), out);
}

const toLinear = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);

function linearToLab(r: number, g: number, b: number, out: Float64Array): void {
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  out[0] = 0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s;
  out[1] = 1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s;
  out[2] = 0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s;
}
