import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { solveLeastSquares } from './leastSquares';
import { normalRandom, seededRandom } from './random';

/** y = a exp(-k x) + c, from a start far off. */
function decay(xs: number[], ys: number[], sigma: number) {
  return {
    size: 3,
    residuals(p: Float64Array, sink: { add(r: number, i: number[], d: number[]): void }) {
      xs.forEach((x, n) => {
        const e = Math.exp(-p[1]! * x);
        sink.add((p[0]! * e + p[2]! - ys[n]!) / sigma, [0, 1, 2], [e / sigma, (-p[0]! * x * e) / sigma, 1 / sigma]);
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
      rates.push(found.parameters[1]!);
      told = Math.sqrt(found.covariance[4]!);
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
        sink.add(p[0]! - 1, [0], [1]), true
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

  it('gives the closed form of any straight line, and its covariance', () => {
    const places = fc.array(fc.double({ min: -50, max: 50, noNaN: true }), { minLength: 3, maxLength: 30 });
    fc.assert(
      fc.property(
        places,
        fc.integer({ min: 1, max: 1e6 }),
        fc.double({ min: 0.01, max: 10, noNaN: true }),
        (x, seed, sigma) => {
          const n = x.length;
          const mx = x.reduce((a, b) => a + b) / n;
          const sxx = x.reduce((a, b) => a + (b - mx) ** 2, 0);
          fc.pre(sxx > 1);
          const normal = normalRandom(seededRandom(seed));
          const y = x.map((v) => 2 - 0.3 * v + sigma * normal());
          const my = y.reduce((a, b) => a + b) / n;
          const slope = x.reduce((a, v, k) => a + (v - mx) * (y[k]! - my), 0) / sxx;
          const found = solveLeastSquares(
            {
              size: 2,
              residuals(p, sink) {
                for (const [k, v] of x.entries())
                  sink.add((p[0]! + p[1]! * v - y[k]!) / sigma, [0, 1], [1 / sigma, v / sigma]);
                return true;
              },
            },
            Float64Array.of(100, -40),
          );
          if (!found.ok) throw new Error(found.reason);
          expect(found.parameters[1]).toBeCloseTo(slope, 5);
          expect(found.parameters[0]).toBeCloseTo(my - slope * mx, 5);
          expect(Math.sqrt(found.covariance[3]!)).toBeCloseTo(sigma / Math.sqrt(sxx), 6);
          expect(Math.sqrt(found.covariance[0]!)).toBeCloseTo(sigma * Math.sqrt(1 / n + mx ** 2 / sxx), 5);
        },
      ),
    );
  });

  it('follows the bent valley of Rosenbrock (1960) to its end', () => {
    const found = solveLeastSquares(
      {
        size: 2,
        residuals(p, sink) {
          sink.add(10 * (p[1]! - p[0]! * p[0]!), [0, 1], [-20 * p[0]!, 10]);
          sink.add(1 - p[0]!, [0], [-1]);
          return true;
        },
      },
      Float64Array.of(-1.2, 1),
    );
    if (!found.ok) throw new Error(found.reason);
    expect([...found.parameters]).toEqual([expect.closeTo(1, 6), expect.closeTo(1, 6)]);
    expect(found.steps).toBeLessThan(50);
  });

  it('does not go where the model has no answer', () => {
    const found = solveLeastSquares(
      {
        size: 1,
        residuals(p, sink) {
          if (p[0]! <= 0) return false;
          sink.add(Math.log(p[0]!) + 3, [0], [1 / p[0]!]);
          return true;
        },
      },
      Float64Array.of(20),
    );
    expect(found.ok && found.parameters[0]).toBeCloseTo(Math.exp(-3), 6);
  });

  it('is the same whatever the unit of a parameter', () => {
    const xs2 = Array.from({ length: 25 }, (_, n) => n / 5);
    const ys = xs2.map((x) => 3 * Math.exp(-0.8 * x) + 0.2 + 0.01 * Math.sin(19 * x));
    const inUnit = (unit: number) =>
      solveLeastSquares(
        {
          size: 3,
          residuals(p, sink) {
            return decay(xs2, ys, 0.01).residuals(Float64Array.of(p[0]!, p[1]! / unit, p[2]!), {
              add: (r, i, d) => sink.add(r, i, [d[0]!, d[1]! / unit, d[2]!]),
            });
          },
        },
        Float64Array.of(2, unit, 0),
      );
    const [plain, tiny] = [inUnit(1), inUnit(1e-6)];
    if (!plain.ok || !tiny.ok) throw new Error();
    expect(tiny.parameters[1]! / 1e-6).toBeCloseTo(plain.parameters[1]!, 6);
    expect(tiny.covariance[4]! / 1e-12).toBeCloseTo(plain.covariance[4]!, 6);
  });
});
