import { describe, expect, it } from 'vitest';
import type { Pixels } from '../raster';
import { locateInk } from './locateInk';

/** A slanting band of ink across white paper, each pixel the mean of a fine grid: half so wide on either side of its middle, px. */
function band(half: number, angle: number, ground = 245, ink = 25): Pixels {
  const size = 120;
  const FINE = 6;
  const data = new Uint8ClampedArray(size * size * 4).fill(255);
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) {
      let sum = 0;
      for (let j = 0; j < FINE; j++)
        for (let i = 0; i < FINE; i++) {
          const off = (x + (i + 0.5) / FINE - 60.3) * c + (y + (j + 0.5) / FINE - 59.8) * s;
          sum += Math.abs(off) < half ? ink : ground;
        }
      data.fill(sum / FINE ** 2, (y * size + x) * 4, (y * size + x) * 4 + 3);
    }
  return { width: size, height: size, data };
}
const off = (angle: number, at: { uPx: number; vPx: number } | null) =>
  at ? (at.uPx - 60.3) * Math.cos(angle) + (at.vPx - 59.8) * Math.sin(angle) : Number.NaN;

describe('a line of ink', () => {
  it.each([0.7, 1.5, 3, 5, 7])('of half width %d is located by its middle, wherever about it one looks', (half) => {
    for (const angle of [0, 0.4, 1.1, 2.5])
      for (const [du, dv] of [
        [0, 0],
        [2.5, -1],
        [-2, 2],
      ] as const) {
        const found = locateInk(band(half, angle), 60 + du, 60 + dv);
        expect(found?.kind).toBe('line');
        expect(Math.abs(off(angle, found))).toBeLessThan(0.15);
      }
  });

  it('is none where only one edge of an area shows, or it is light on dark', () => {
    const area = band(40, 0.4);
    const edge = locateInk(area, 60.3 + 40 * Math.cos(0.4), 59.8 + 40 * Math.sin(0.4));
    expect(edge?.kind).toBe('edge');
    expect(locateInk(band(4, 0.4, 25, 245), 60, 60)?.kind).not.toBe('line');
  });
});
