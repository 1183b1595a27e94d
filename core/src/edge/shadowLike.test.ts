import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { normalRandom, seededRandom } from '../numeric';
import type { Pixels } from '../raster';
import { isShadowLike, locateEdge } from '.';
import { erf } from './erf';

type Rgb = readonly [number, number, number];

const SIZE = 360;
const LENS_PX = 1;

const toByte = (light: number): number => {
  const v = Math.min(1, Math.max(0, light));
  return 255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055);
};

/**
 * A table in linear light with a slanting step from one colour to another, so soft; down both sides sharp squares that
 * tell how sharp the lens is. By closed form: nothing of what is tested is in it.
 */
function picture(left: Rgb, right: Rgb, softPx: number, seed: number): Pixels {
  const normal = normalRandom(seededRandom(seed));
  const data = new Uint8ClampedArray(SIZE * SIZE * 4).fill(255);
  for (let y = 0; y < SIZE; y++)
    for (let x = 0; x < SIZE; x++) {
      const across = 0.98 * (x + 0.5 - SIZE / 2) + 0.2 * (y + 0.5 - SIZE / 2);
      const share = 0.5 * (1 + erf(across / (Math.SQRT2 * softPx)));
      // Bright squares down both sides.
      const [dx, dy] = [Math.min(x, SIZE - x) - 45, (y % 90) - 45];
      const inside = 0.5 * (1 - erf((Math.max(Math.abs(dx), Math.abs(dy)) - 22) / (Math.SQRT2 * LENS_PX)));
      for (let c = 0; c < 3; c++) {
        const own = left[c]! + share * (right[c]! - left[c]!);
        data[4 * (y * SIZE + x) + c] = toByte(own + inside * (0.95 - own)) + 1.5 * normal();
      }
    }
  return { width: SIZE, height: SIZE, data };
}

const colour = fc.tuple(
  fc.double({ min: 0.25, max: 0.7, noNaN: true }),
  fc.double({ min: 0.25, max: 0.7, noNaN: true }),
  fc.double({ min: 0.25, max: 0.7, noNaN: true }),
);
const seed = fc.integer({ min: 1, max: 1e6 });
const looksLike = (pixels: Pixels): boolean | null => {
  const edge = locateEdge(pixels, SIZE / 2, SIZE / 2, { searchPx: 8 });
  return edge && isShadowLike(pixels, edge);
};

describe('the rim of a shadow', () => {
  it('is told by its softness and by one colour on both sides, bluish as shade under the sky is', () => {
    fc.assert(
      fc.property(
        colour,
        fc.double({ min: 0.35, max: 0.75, noNaN: true }),
        fc.double({ min: 0, max: 0.12, noNaN: true }),
        fc.double({ min: 2.2, max: 3.4, noNaN: true }),
        seed,
        (table, shade, blue, softPx, s) => {
          const dark: Rgb = [table[0] * shade * (1 - blue / 2), table[1] * shade, table[2] * shade * (1 + blue / 2)];
          expect(looksLike(picture(table, dark, softPx, s))).not.toBe(false);
        },
      ),
      { numRuns: 15 },
    );
  });

  it('is never seen in a sharp edge, even from gray to darker gray', () => {
    fc.assert(
      fc.property(colour, fc.double({ min: 0.3, max: 0.8, noNaN: true }), seed, (table, shade, s) => {
        const dark = table.map((v) => v * shade) as unknown as Rgb;
        expect(looksLike(picture(table, dark, LENS_PX, s))).toBe(false);
      }),
      { numRuns: 15 },
    );
  });

  it('is not seen in a soft edge between two colours', () => {
    const [oak, copper, slate]: [Rgb, Rgb, Rgb] = [
      [0.4, 0.26, 0.14],
      [0.36, 0.16, 0.1],
      [0.16, 0.2, 0.24],
    ];
    for (const [a, b] of [
      [oak, slate],
      [copper, slate],
      [oak, [0.2, 0.26, 0.07]],
    ] as const)
      expect(looksLike(picture(a, b, 2.8, 5))).toBe(false);
  });
});
