import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Bend, invertMap, LEAST_PAIRS, lineUp, mapThrough } from './lineUp';

const place = fc.record({
  x: fc.double({ min: 0, max: 4000, noNaN: true }),
  y: fc.double({ min: 0, max: 3000, noNaN: true }),
});
const small = (most: number) => fc.double({ min: -most, max: most, noNaN: true });

/** A map of each kind, written down by hand and not by the code under test. */
const maps: Record<Bend, fc.Arbitrary<number[]>> = {
  similar: fc
    .tuple(fc.double({ min: 0.5, max: 2, noNaN: true }), small(3), small(500), small(500))
    .map(([s, t, x, y]) => [s * Math.cos(t), -s * Math.sin(t), x, s * Math.sin(t), s * Math.cos(t), y, 0, 0, 1]),
  slanted: fc
    .tuple(small(0.3), small(0.3), small(500), small(500))
    .map(([a, b, x, y]) => [1 + a, b, x, a, 1, y, 0, 0, 1]),
  tilted: fc.tuple(small(5e-5), small(5e-5), small(500)).map(([g, h, x]) => [1, 0.1, x, -0.1, 1.05, 20, g, h, 1]),
};
const corners = [
  { x: 120, y: 80 },
  { x: 3800, y: 200 },
  { x: 3700, y: 2900 },
  { x: 300, y: 2700 },
  { x: 2000, y: 1300 },
];

describe('lineUp', () => {
  for (const bend of ['similar', 'slanted', 'tilted'] as const)
    it(`finds a ${bend} map again from exact pairs, and the way back undoes it`, () => {
      fc.assert(
        fc.property(maps[bend], place, (map, p) => {
          const pairs = corners.map((from) => ({ from, to: mapThrough(map, from.x, from.y) }));
          const found = lineUp(pairs.slice(0, LEAST_PAIRS[bend]), bend);
          if (!found) throw new Error('no map');
          expect(found.rms).toBeNull();
          const [here, there] = [mapThrough(found.onto, p.x, p.y), mapThrough(map, p.x, p.y)];
          expect(Math.hypot(here.x - there.x, here.y - there.y)).toBeLessThan(1e-4);
          const back = mapThrough(invertMap(found.onto) as number[], here.x, here.y);
          expect(Math.hypot(back.x - p.x, back.y - p.y)).toBeLessThan(1e-4);
        }),
      );
    });

  it('tells how far pairs are left apart', () => {
    const pairs = corners.map((from, k) => ({ from, to: { x: from.x + (k === 4 ? 3 : 0), y: from.y } }));
    const found = lineUp(pairs, 'similar');
    expect(found?.rms).toBeGreaterThan(0.8);
    expect(found?.apart[4]).toBeGreaterThan(2);
    // 3 px on one of five: the middle moves by 3/5, the rest is left.
    expect(Math.hypot(...(found?.apart ?? []))).toBeCloseTo(3 * Math.sqrt(4 / 5), 1);
  });

  it('says nothing from pairs in one place, on one line, or too few', () => {
    const one = { from: { x: 5, y: 5 }, to: { x: 9, y: 9 } };
    expect(lineUp([one], 'similar')).toBeNull();
    expect(lineUp([one, one], 'similar')).toBeNull();
    const line = [0, 1, 2, 3].map((k) => ({ from: { x: 100 * k, y: 100 * k }, to: { x: 90 * k, y: 80 * k } }));
    expect(lineUp(line, 'slanted')).toBeNull();
    expect(lineUp(line, 'tilted')).toBeNull();
    expect(invertMap([1, 2, 0, 2, 4, 0, 0, 0, 1])).toBeNull();
  });
});
