import { describe, expect, it } from 'vitest';
import { normalRandom, seededRandom } from '../../numeric';
import type { Pixels } from '../../raster';
import { edgeCentre, lineCentre } from './centre';

const SIZE = 60;

/** A picture of light that changes across one line only, by the distance from it, with noise in levels. */
function drawn(light: (off: number) => number, angle: number, shift: number, noise: number, seed: number) {
  const normal = normalRandom(seededRandom(seed));
  const data = new Uint8ClampedArray(SIZE * SIZE * 4).fill(255);
  const [nx, ny] = [Math.cos(angle), Math.sin(angle)];
  for (let y = 0; y < SIZE; y++)
    for (let x = 0; x < SIZE; x++) {
      const l = light((x + 0.5 - SIZE / 2) * nx + (y + 0.5 - SIZE / 2) * ny - shift);
      const s = l <= 0.0031308 ? 12.92 * l : 1.055 * l ** (1 / 2.4) - 0.055;
      data.fill(Math.round(255 * s + noise * normal()), (y * SIZE + x) * 4, (y * SIZE + x) * 4 + 3);
    }
  const pixels: Pixels = { width: SIZE, height: SIZE, data };
  return { pixels, nx, ny };
}

const graduation = (depth: number) => (off: number) => 0.5 - depth * Math.exp(-0.5 * (off / 1.3) ** 2);
const step = (rise: number) => (off: number) => 0.3 + rise / (1 + Math.exp(-off / 0.6));

/** Errors of many looks, each at another angle, phase and place beside the line. */
function looked(kind: 'line' | 'edge', light: (off: number) => number, noise: number) {
  const random = seededRandom(17);
  return Array.from({ length: 120 }, (_, n) => {
    const [angle, shift] = [2 * Math.PI * random(), random() - 0.5];
    const { pixels, nx, ny } = drawn(light, angle, shift, noise, n);
    const beside = 2 * random() - 1;
    const [x, y] = [SIZE / 2 + beside * nx, SIZE / 2 + beside * ny];
    const options = { reachPx: 7, halfLengthPx: 8 };
    const found = (kind === 'line' ? lineCentre : edgeCentre)(pixels, x, y, nx, ny, options);
    if (!found) throw new Error(`nothing at ${angle}`);
    return { off: beside + found.offPx - shift, sigma: found.sigmaPx, contrast: found.contrast };
  });
}

const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;

describe.each([
  ['a dark stroke', 'line', graduation(0.3), -1],
  ['a light stroke', 'line', graduation(-0.3), 1],
  ['a step into the light', 'edge', step(0.25), 1],
  ['a step into the dark', 'edge', step(-0.2), -1],
] as const)('the centre of %s', (_, kind, light, sign) => {
  it('is where it is without noise, at any angle and phase', () => {
    const found = looked(kind, light, 0);
    expect(Math.abs(mean(found.map((f) => f.off)))).toBeLessThan(0.01);
    for (const { off, contrast } of found) {
      expect(Math.abs(off)).toBeLessThan(0.06);
      expect(Math.sign(contrast)).toBe(sign);
    }
  });

  it('scatters with noise as it says', () => {
    const found = looked(kind, light, 4);
    expect(Math.abs(mean(found.map((f) => f.off)))).toBeLessThan(0.03);
    const held = found.filter((f) => Math.abs(f.off) < 2 * f.sigma).length / found.length;
    expect(held).toBeGreaterThan(0.85);
    expect(mean(found.map((f) => f.sigma))).toBeLessThan(0.15);
  });
});

describe('where there is no centre', () => {
  it('says so: outside of the picture, and on even ground', () => {
    const { pixels } = drawn(graduation(0.3), 0, 0, 0, 1);
    const options = { reachPx: 7, halfLengthPx: 8 };
    expect(lineCentre(pixels, 3, 30, 1, 0, options)).toBeNull();
    expect(edgeCentre(pixels, 30, 58, 1, 0, options)).toBeNull();
    const even = drawn(() => 0.4, 0, 0, 0, 1).pixels;
    expect(lineCentre(even, 30, 30, 1, 0, options)).toBeNull();
    expect(edgeCentre(even, 30, 30, 1, 0, options)).toBeNull();
  });
});
