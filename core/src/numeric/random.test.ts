import { describe, expect, it } from 'vitest';
import { normalRandom, type Random, seededRandom } from './random';

const many = (random: Random, count: number) => Array.from({ length: count }, random);
const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;

describe('seededRandom', () => {
  it('is the same for the same seed, and another for the next', () => {
    expect(many(seededRandom(5), 20)).toEqual(many(seededRandom(5), 20));
    expect(many(seededRandom(5), 20)).not.toEqual(many(seededRandom(6), 20));
  });

  it('spreads evenly over [0, 1)', () => {
    const values = many(seededRandom(11), 20_000);
    expect(Math.min(...values)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...values)).toBeLessThan(1);
    const tenths = Array.from({ length: 10 }, (_, k) => values.filter((v) => Math.floor(10 * v) === k).length);
    // χ² of nine degrees of freedom lies under 27.9 in 999 of 1,000 cases.
    expect(tenths.reduce((sum, n) => sum + (n - 2000) ** 2 / 2000, 0)).toBeLessThan(27.9);
    // One number says nothing of the next.
    const beside = values.slice(1).map((v, k) => (v - 0.5) * (values[k]! - 0.5));
    expect(Math.abs(mean(beside))).toBeLessThan(4 / 12 / Math.sqrt(values.length));
  });
});

describe('normalRandom', () => {
  const values = many(normalRandom(seededRandom(3)), 40_000);

  it('has the moments of the normal distribution', () => {
    const moment = (k: number) => mean(values.map((v) => v ** k));
    expect(Math.abs(moment(1))).toBeLessThan(0.02);
    expect(Math.abs(moment(2) - 1)).toBeLessThan(0.03);
    expect(Math.abs(moment(3))).toBeLessThan(0.06);
    expect(Math.abs(moment(4) - 3)).toBeLessThan(0.2);
  });

  it('has 95 of 100 within 1.96', () => {
    const within = values.filter((v) => Math.abs(v) < 1.96).length / values.length;
    expect(Math.abs(within - 0.95)).toBeLessThan(0.005);
  });
});
