import { describe, expect, it } from 'vitest';
import { normalRandom, seededRandom } from '../numeric';
import { fitCircle } from './fitCircle';

describe('fitCircle', () => {
  const ring = (count: number, sigma: number, seed: number, sweep = 2 * Math.PI) => {
    const normal = normalRandom(seededRandom(seed));
    return Array.from({ length: count }, (_, k) => {
      const a = (sweep * k) / count;
      const r = 4.5 + sigma * normal();
      return { x: 11 + r * Math.cos(a), y: 35.5 + r * Math.sin(a) };
    });
  };

  it('finds an exact circle exactly', () => {
    const found = fitCircle(ring(24, 0, 1));
    expect(found?.radius).toBeCloseTo(4.5, 9);
    expect(found?.centre.x).toBeCloseTo(11, 9);
  });

  it('is not drawn off by points of another edge', () => {
    const points = [
      ...ring(40, 0.01, 2),
      ...Array.from({ length: 8 }, (_, k) => ({ x: 11 + 3.9 * Math.cos(k / 10), y: 35.5 + 3.9 * Math.sin(k / 10) })),
    ];
    const found = fitCircle(points);
    expect(Math.abs((found?.radius ?? 0) - 4.5)).toBeLessThan(0.01);
    expect(found?.used).toBeLessThanOrEqual(41);
  });

  it('is free of bias on a half turn', () => {
    const radii = Array.from({ length: 60 }, (_, k) => fitCircle(ring(40, 0.05, k + 10, Math.PI))?.radius ?? 0);
    const mean = radii.reduce((a, b) => a + b) / radii.length;
    expect(Math.abs(mean - 4.5)).toBeLessThan(0.01);
  });

  it('has no answer for too few points', () => {
    expect(fitCircle(ring(4, 0, 1))).toBeNull();
  });
});
