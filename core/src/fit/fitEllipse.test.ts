import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { normalRandom, seededRandom } from '../numeric';
import { fitEllipse, offEllipse } from './fitEllipse';

const on = ({ x, y, a, b, turn }: { x: number; y: number; a: number; b: number; turn: number }, t: number, out = 0) => {
  const [p, q] = [(a + out) * Math.cos(t), (b + out) * Math.sin(t)];
  return { x: x + Math.cos(turn) * p - Math.sin(turn) * q, y: y + Math.sin(turn) * p + Math.cos(turn) * q };
};

describe('fitEllipse', () => {
  it('finds any exact ellipse', () => {
    fc.assert(
      fc.property(
        fc.record({
          x: fc.double({ min: -3000, max: 3000, noNaN: true }),
          y: fc.double({ min: -3000, max: 3000, noNaN: true }),
          a: fc.double({ min: 50, max: 800, noNaN: true }),
          ratio: fc.double({ min: 0.4, max: 0.97, noNaN: true }),
          turn: fc.double({ min: -1.5, max: 1.5, noNaN: true }),
        }),
        ({ ratio, ...rest }) => {
          const truth = { ...rest, b: ratio * rest.a };
          const found = fitEllipse(Array.from({ length: 40 }, (_, k) => on(truth, (2 * Math.PI * k) / 40)));
          if (!found) throw new Error('none');
          expect(Math.hypot(found.x - truth.x, found.y - truth.y)).toBeLessThan(1e-4);
          expect(Math.abs(found.a - truth.a)).toBeLessThan(1e-4);
          expect(Math.abs(found.b - truth.b)).toBeLessThan(1e-4);
          expect(Math.abs(Math.sin(found.turn - truth.turn))).toBeLessThan(1e-4);
        },
      ),
    );
  });

  it('holds with noise on half a rim, and tells how far off a point is', () => {
    const truth = { x: 400, y: 300, a: 120, b: 100, turn: 0.4 };
    const normal = normalRandom(seededRandom(3));
    const found = fitEllipse(Array.from({ length: 80 }, (_, k) => on(truth, (Math.PI * k) / 60, 0.1 * normal())));
    expect(Math.abs((found?.a ?? 0) - 120)).toBeLessThan(1);
    expect(offEllipse(truth, { x: 400, y: 300 })).toBeLessThan(-90);
    expect(offEllipse(truth, on(truth, 0, 2))).toBeCloseTo(2, 1);
    expect(offEllipse(truth, on(truth, Math.PI / 2, -3))).toBeCloseTo(-3, 0);
  });

  it('has no answer for too few points, or points on a line', () => {
    expect(fitEllipse([])).toBeNull();
    expect(fitEllipse(Array.from({ length: 20 }, (_, k) => ({ x: k, y: 2 * k })))).toBeNull();
  });
});
