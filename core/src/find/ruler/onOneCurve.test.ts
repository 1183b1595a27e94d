import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../numeric';
import { onOneCurve } from './onOneCurve';

describe('places on one curve', () => {
  it('are told from heaps of others that lie on a line or a curve of their own', () => {
    fc.assert(
      fc.property(
        fc.record({
          count: fc.integer({ min: 24, max: 45 }),
          bend: fc.double({ min: -12, max: 12, noNaN: true }),
          slope: fc.double({ min: -30, max: 30, noNaN: true }),
          away: fc.double({ min: 8, max: 20, noNaN: true }),
          lean: fc.double({ min: -25, max: 25, noNaN: true }),
          seed: fc.integer({ min: 1, max: 1e6 }),
        }),
        ({ count, bend, slope, away, lean, seed }) => {
          const random = seededRandom(seed);
          const along = Array.from({ length: count }, (_, k) => k / (count - 1));
          // A third of them lie elsewhere, in one run: a strip of grain, or a shadow.
          const from = Math.floor(0.6 * count * random());
          const isOther = (k: number) => k >= from && k < from + count / 3;
          const off = along.map((t, k) => {
            const own = 100 + slope * t + bend * t * t + 0.1 * (random() - 0.5);
            return isOther(k) ? own + away + Math.abs(lean * (t - along[from]!)) : own;
          });
          const kept = onOneCurve(along, off, 0.6);
          const own = along.map((_, k) => k).filter((k) => !isOther(k));
          // Through the noise of all others a curve may be led past the one that is furthest out, or over it.
          expect(kept.filter((k) => !isOther(k)).length).toBeGreaterThan(own.length - 3);
          expect(kept.filter(isOther).length).toBeLessThan(3);
        },
      ),
      { numRuns: 200 },
    );
  });

  it('are all of them where two are given, and three', () => {
    expect(onOneCurve([0, 1], [5, 90], 0.6)).toEqual([0, 1]);
    expect(onOneCurve([0, 0.5, 1], [5, 90, 2], 0.6)).toEqual([0, 1, 2]);
  });
});
