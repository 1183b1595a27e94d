import { describe, expect, it } from 'vitest';
import { solveLeastSquares } from './leastSquares';
import { normalRandom, seededRandom } from './random';

/** y = a exp(-k x) + c, from a start far off. */
function decay(xs: number[], ys: number[], sigma: number) {
  return {
    size: 3,
    residuals(p: Float64Array, sink: { add(r: number, i: number[], d: number[]): void }) {
      xs.forEach((x, n) => {
        const e = Math.exp(-p[1] * x);
        sink.add((p[0] * e + p[2] - ys[n]) / sigma, [0, 1, 2], [e / sigma, (-p[0] * x * e) / sigma, 1 / sigma]);
      });
      return true;
    },
  };
}

describe('solveLeastSquares', () => {
  const xs = Array.from({ length: 40 }, (_, n) => n / 8);

  it('finds an exponential from a poor start', () => {
    const ys = xs.map((x) => 3 * Math.exp(-1.7 * x) + 0.4);
    const found = solveLeastSquares(decay(xs, ys, 1), Float64Array.of(1, 1, 1));
    if (!found.ok) throw new Error(found.reason);
    expect([...found.parameters]).toEqual([3, 1.7, 0.4].map((v) => expect.closeTo(v, 6)));
  });

  it('gives a covariance that the scatter of repeated estimates confirms', () => {
    const normal = normalRandom(seededRandom(7));
    const rates: number[] = [];
    let told = 0;
    for (let n = 0; n < 400; n++) {
      const ys = xs.map((x) => 3 * Math.exp(-1.7 * x) + 0.4 + 0.02 * normal());
      const found = solveLeastSquares(decay(xs, ys, 0.02), Float64Array.of(2.5, 1.5, 0.5));
      if (!found.ok) throw new Error(found.reason);
      rates.push(found.parameters[1]);
      told = Math.sqrt(found.covariance[4]);
    }
    const mean = rates.reduce((a, b) => a + b) / rates.length;
    const seen = Math.sqrt(rates.reduce((a, b) => a + (b - mean) ** 2, 0) / (rates.length - 1));
    expect(seen / told).toBeGreaterThan(0.9);
    expect(seen / told).toBeLessThan(1.1);
  });

  it('says so when a parameter is seen by nothing', () => {
    const blind = {
      size: 2,
      residuals: (p: Float64Array, sink: { add(r: number, i: number[], d: number[]): void }) => (
        sink.add(p[0] - 1, [0], [1]), true
      ),
    };
    expect(solveLeastSquares(blind, Float64Array.of(0, 0))).toEqual({ ok: false, reason: 'singular' });
  });

  it('says so when the model has no answer at the start', () => {
    expect(solveLeastSquares({ size: 1, residuals: () => false }, Float64Array.of(0))).toEqual({
      ok: false,
      reason: 'no-model',
    });
  });
});
