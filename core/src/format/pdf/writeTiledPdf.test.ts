import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { marksOn, PAPERS, planTiles, writeTiledPdf } from '.';
import { hasPoppler, line, measureTiles, printed, profileOf, TILED_XS, TILING } from './tiles.test-data';

describe('pages of a drawing', () => {
  it('hold all of it, each neighbour showing the overlap again', () => {
    fc.assert(
      fc.property(
        fc.record({ w: fc.integer({ min: 5, max: 3000 }), h: fc.integer({ min: 5, max: 3000 }) }),
        fc.constantFrom(...(Object.keys(PAPERS) as (keyof typeof PAPERS)[])),
        fc.integer({ min: 3, max: 20 }),
        fc.integer({ min: 5, max: 40 }),
        ({ w, h }, paper, marginMm, overlapMm) => {
          const plan = planTiles(w, h, { paper, marginMm, overlapMm })!;
          expect((plan.columns - 1) * plan.step.xMm + plan.tile.widthMm).toBeGreaterThanOrEqual(w - 1e-6);
          expect((plan.rows - 1) * plan.step.yMm + plan.tile.heightMm).toBeGreaterThanOrEqual(h - 1e-6);
          expect(plan.tile.widthMm - plan.step.xMm).toBeCloseTo(overlapMm, 9);
        },
      ),
    );
  });

  it('share their crossing marks with their neighbours', () => {
    const plan = planTiles(900, 700, TILING)!;
    const key = (p: { x: number; y: number }) => `${p.x.toFixed(6)} ${p.y.toFixed(6)}`;
    for (let row = 0; row < plan.rows; row++)
      for (let column = 0; column + 1 < plan.columns; column++) {
        const right = new Set(marksOn(plan, column + 1, row, TILING.overlapMm).map(key));
        expect(marksOn(plan, column, row, TILING.overlapMm).filter((m) => right.has(key(m))).length).toBe(2);
      }
  });

  it('are refused where the paper leaves no room', async () => {
    expect(planTiles(100, 100, { paper: 'A4', marginMm: 90, overlapMm: 10 })).toBeNull();
    expect(await writeTiledPdf(profileOf([]), TILING)).toBeNull();
    expect(await writeTiledPdf(profileOf([line(0, 0, 1e5, 1e5)]), TILING)).toBeNull();
  });

  it.skipIf(!hasPoppler)('put together again are true to 0.05 mm over 600 mm', async () => {
    const { count, plan, seen } = await measureTiles();
    expect(count).toBe(1 + plan.columns * plan.rows);
    expect([...seen.keys()].sort((a, b) => a - b)).toEqual([...TILED_XS]);
    for (const [x, found] of seen) for (const own of found) expect(Math.abs(own - x)).toBeLessThan(0.05);
  });

  it.skipIf(!hasPoppler)('print check bars of 100 mm along X and along Y', async () => {
    const { shade } = printed((await writeTiledPdf(profileOf([line(0, 0, 300, 0)]), TILING))!);
    const plan = planTiles(304, 4, TILING)!;
    const base = TILING.marginMm + plan.tile.heightMm;
    const longest = (from: number, at: (t: number) => [number, number]) => {
      let [run, best] = [0, 0];
      for (let t = from; t < from + 1300; t++) {
        run = shade(1, ...at(t / 10)) > 100 ? run + 1 : 0;
        best = Math.max(best, run);
      }
      return best / 10;
    };
    const along = [0, 1, 2].map((k) => longest(0, (t) => [TILING.marginMm + 5 + t, base + 3.9 + k / 10]));
    const up = [0, 1, 2].map((k) => longest(0, (t) => [TILING.marginMm + 4.9 + k / 10, base - 110 + t]));
    expect(Math.abs(Math.max(...along) - 100.1)).toBeLessThan(0.35);
    expect(Math.abs(Math.max(...up) - 100.1)).toBeLessThan(0.35);
  });
});
