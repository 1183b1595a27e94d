import type { Patch } from './patch';

/** Second derivatives of light smoothed by a Gaussian, on a patch's own pixels; the outer rim is zero. */
export interface SecondDerivatives {
  byXX: Float32Array;
  byXY: Float32Array;
  byYY: Float32Array;
  /** Pixels at the rim without a value. */
  rim: number;
}

/** Second derivatives at the scale σ px, by separable kernels: each is one pass along x and one along y. */
export function secondDerivatives({ light, width, height }: Patch, sigmaPx: number): SecondDerivatives {
  const rim = Math.ceil(3 * sigmaPx);
  const smooth = kernel(rim, (t) => Math.exp((-t * t) / (2 * sigmaPx ** 2)));
  const total = smooth.reduce((a, b) => a + b);
  for (let k = 0; k < smooth.length; k++) smooth[k]! /= total;
  const first = kernel(rim, (t) => (t / sigmaPx ** 2) * smooth[t + rim]!);
  const second = kernel(rim, (t) => ((t * t - sigmaPx ** 2) / sigmaPx ** 4) * smooth[t + rim]!);
  const along = (x: Float64Array, y: Float64Array) =>
    convolveY(convolveX(light, width, height, x, rim), width, height, y, rim);
  return { byXX: along(second, smooth), byXY: along(first, first), byYY: along(smooth, second), rim };
}

/** Derivatives of light smoothed at the scale σ px at one pixel of a patch; null too near its rim. */
export function derivativesAt({ width, height, light }: Patch, x: number, y: number, sigmaPx: number) {
  const rim = Math.ceil(3 * sigmaPx);
  if (x < rim || y < rim || x >= width - rim || y >= height - rim) return null;
  const smooth = kernel(rim, (t) => Math.exp((-t * t) / (2 * sigmaPx ** 2)));
  const total = smooth.reduce((a, b) => a + b);
  const out = { byX: 0, byY: 0, byXX: 0, byXY: 0, byYY: 0 };
  const first = (t: number) => t / sigmaPx ** 2;
  const second = (t: number) => (t * t - sigmaPx ** 2) / sigmaPx ** 4;
  for (let j = -rim; j <= rim; j++)
    for (let i = -rim; i <= rim; i++) {
      const own = ((smooth[i + rim]! * smooth[j + rim]!) / total ** 2) * light[(y + j) * width + x + i]!;
      out.byX += first(i) * own;
      out.byY += first(j) * own;
      out.byXX += second(i) * own;
      out.byXY += first(i) * first(j) * own;
      out.byYY += second(j) * own;
    }
  return out;
}

function kernel(rim: number, value: (t: number) => number): Float64Array {
  return Float64Array.from({ length: 2 * rim + 1 }, (_, k) => value(k - rim));
}

function convolveX(from: Float32Array, width: number, height: number, k: Float64Array, rim: number): Float32Array {
  const out = new Float32Array(from.length);
  for (let y = 0; y < height; y++)
    for (let x = rim; x < width - rim; x++) {
      let sum = 0;
      const at = y * width + x - rim;
      for (let n = 0; n < k.length; n++) sum += k[n]! * from[at + n]!;
      out[y * width + x] = sum;
    }
  return out;
}

function convolveY(from: Float32Array, width: number, height: number, k: Float64Array, rim: number): Float32Array {
  const out = new Float32Array(from.length);
  // A sum of its own, rather than one that is put back among the singles at each step: twice as quick.
  for (let y = rim; y < height - rim; y++)
    for (let x = rim; x < width - rim; x++) {
      let sum = 0;
      for (let n = 0, at = (y - rim) * width + x; n < k.length; n++, at += width) sum += k[n]! * from[at]!;
      out[y * width + x] = sum;
    }
  return out;
}
