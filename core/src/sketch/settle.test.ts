import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Bound, boundPoints, newSketch, settleDistances } from '.';
import { putPath, seen } from './traced.test-data';

const coordinate = fc.double({ min: -50, max: 50, noNaN: true });
/** A chain of points with a weight each, and how much each piece is to grow. */
const chain = fc
  .array(
    fc.record({
      x: coordinate,
      y: coordinate,
      weight: fc.double({ min: 0.1, max: 100, noNaN: true }),
      grow: fc.double({ min: 0.97, max: 1.03, noNaN: true }),
    }),
    { minLength: 2, maxLength: 8 },
  )
  .filter((all) => all.every((p, k) => k === 0 || Math.hypot(p.x - all[k - 1]!.x, p.y - all[k - 1]!.y) > 5));

const away = (at: ArrayLike<number>, a: number, b: number) =>
  Math.hypot(at[2 * b]! - at[2 * a]!, at[2 * b + 1]! - at[2 * a + 1]!);

describe('decided distances', () => {
  it('are what was decided, with as little moved as any other way of moving would need', () => {
    fc.assert(
      fc.property(chain, coordinate, (all, nudge) => {
        const seen = Float64Array.from(all.flatMap((p) => [p.x, p.y]));
        const distances = all.slice(1).map((p, k) => ({ a: k, b: k + 1, mm: away(seen, k, k + 1) * p.grow }));
        const bound: Bound = { points: all.map((_, k) => String(k)), weights: all.map((p) => p.weight), distances };
        const at = settleDistances(bound, seen);
        if (!at) throw new Error('a chain can always be settled');
        for (const { a, b, mm } of distances) expect(away(at, a, b)).toBeCloseTo(mm, 8);
        // Turning the whole by a little keeps every distance: it must not be nearer to what was seen.
        const cost = (p: ArrayLike<number>) =>
          all.reduce(
            (sum, { weight }, k) =>
              sum + weight * ((p[2 * k]! - seen[2 * k]!) ** 2 + (p[2 * k + 1]! - seen[2 * k + 1]!) ** 2),
            0,
          );
        const angle = nudge * 1e-5;
        const turned = Float64Array.from(at, (_, k) => {
          const [x, y] = [at[k - (k % 2)]!, at[k - (k % 2) + 1]!];
          return k % 2 ? x * Math.sin(angle) + y * Math.cos(angle) : x * Math.cos(angle) - y * Math.sin(angle);
        });
        expect(cost(at)).toBeLessThanOrEqual(cost(turned) * (1 + 1e-9) + 1e-9);
      }),
      { numRuns: 60 },
    );
  });

  it('move most what was seen worst', () => {
    const bound: Bound = { points: ['a', 'b'], weights: [1, 99], distances: [{ a: 0, b: 1, mm: 11 }] };
    const at = settleDistances(bound, [0, 0, 10, 0]);
    expect(at?.[0]).toBeCloseTo(-0.99, 9);
    expect(at?.[2]).toBeCloseTo(10.01, 9);
  });

  it('that cannot be together are given up', () => {
    const triangle = (mm: number): Bound => ({
      points: ['a', 'b', 'c'],
      weights: [1, 1, 1],
      distances: [
        { a: 0, b: 1, mm: 10 },
        { a: 1, b: 2, mm: 10 },
        { a: 0, b: 2, mm },
      ],
    });
    expect(settleDistances(triangle(30), [0, 0, 10, 0, 10, 8])).toBeNull();
    expect(settleDistances(triangle(12), [0, 0, 10, 0, 10, 8])).not.toBeNull();
    // The same said twice is no contradiction.
    const twice: Bound = {
      ...triangle(12),
      distances: [
        { a: 0, b: 1, mm: 9 },
        { a: 1, b: 0, mm: 9 },
      ],
    };
    expect(away(settleDistances(twice, [0, 0, 10, 0, 10, 8]) ?? [], 0, 1)).toBeCloseTo(9, 6);
  });

  it('bind the points that they are said of, and no others; a text that is no length binds nothing', () => {
    const sketch = newSketch('s', 'S', null);
    const ids = ['a', 'b', 'c', 'd', 'e'];
    putPath(sketch, Object.fromEntries(ids.map((id, k) => [id, seen(100 * k, 0)])), { points: ids });
    const size = (id: string, from: string, to: string, text: string) => {
      const refs = [from, to].map((point) => ({ sketch: 's', id: point }));
      return { id, kind: 'distance' as const, refs, origin: 'decided' as const, value: { text, unit: 'mm' as const } };
    };
    const dimensions = {
      x: size('x', 'a', 'b', '10'),
      y: size('y', 'c', 'd', '1/2 in'),
      z: size('z', 'd', 'e', 'long'),
    };
    const bound = boundPoints({ ...sketch, dimensions });
    expect([...bound.keys()].sort()).toEqual(['a', 'b', 'c', 'd']);
    expect(bound.get('c')?.distances).toEqual([{ a: 0, b: 1, mm: 12.7 }]);
    const joined = boundPoints({ ...sketch, dimensions: { ...dimensions, w: size('w', 'b', 'c', '9') } });
    expect(new Set(joined.values()).size).toBe(1);
  });
});
