import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Form } from '../../geometry';
import type { FlatProfile } from '../profile/flatProfile';
import { marksOn, PAPERS, planTiles, type Tiling, writeTiledPdf } from '.';

const line = (x1: number, y1: number, x2: number, y2: number): Form => ({
  kind: 'chain',
  closed: false,
  segments: [{ kind: 'line', from: { x: x1, y: y1 }, to: { x: x2, y: y2 } }],
});
const profileOf = (forms: Form[]): FlatProfile => ({
  title: 'Long',
  date: '2026-03-01',
  unit: 'mm',
  notes: true,
  forms: forms.map((form) => ({ form, role: 'cut', name: 'line', layer: null })),
});
const TILING: Tiling = { paper: 'A4', marginMm: 8, overlapMm: 12 };
/** Kept free round the part, mm: the drawing's corner lies that far off it. */
const RIM_MM = 2;

const hasPoppler = (() => {
  try {
    execFileSync('pdftoppm', ['-v'], { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
})();

/** Pages as another reader prints them, 10 px to the millimetre: how dark a place is, mm from the upper left corner. */
function printed(pdf: Uint8Array): { count: number; shade(page: number, x: number, y: number): number } {
  const folder = mkdtempSync(join(tmpdir(), 'tiles-'));
  writeFileSync(join(folder, 'tiles.pdf'), pdf);
  execFileSync('pdftoppm', ['-r', '254', '-gray', join(folder, 'tiles.pdf'), join(folder, 'page')]);
  const names = execFileSync('ls', [folder])
    .toString()
    .split('\n')
    .filter((n) => n.endsWith('.pgm'))
    .sort();
  const pages = names.map((name) => {
    const bytes = readFileSync(join(folder, name));
    const header = /^P5\s+(\d+)\s+(\d+)\s+255\s/.exec(bytes.subarray(0, 40).toString('latin1'))!;
    return { bytes, head: header[0].length, width: Number(header[1]) };
  });
  return {
    count: pages.length,
    shade(page, x, y) {
      const { bytes, head, width } = pages[page]!;
      return 255 - (bytes[head + Math.floor(y * 10) * width + Math.floor(x * 10)] ?? 255);
    },
  };
}

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
    const xs = [0, 150, 300, 450, 600];
    const profile = profileOf([...xs.map((x) => line(x, 0, x, 400)), line(0, 400, 600, 400), line(0, 0, 600, 0)]);
    const plan = planTiles(600 + 2 * RIM_MM, 400 + 2 * RIM_MM, TILING)!;
    const { count, shade } = printed((await writeTiledPdf(profile, TILING))!);
    expect(count).toBe(1 + plan.columns * plan.rows);
    const left = TILING.marginMm + 9;
    const seen = new Map<number, number[]>();
    for (let row = 0; row < plan.rows; row++)
      for (let column = 0; column < plan.columns; column++) {
        const page = 1 + row * plan.columns + column;
        for (const x of xs) {
          const onPage = left + RIM_MM + x - column * plan.step.xMm;
          if (onPage < left + 1.8 || onPage > left + plan.tile.widthMm - 1.8) continue;
          // Away from marks and frames: the middle of what is dark about the place, by its weight.
          const y = TILING.marginMm + plan.tile.heightMm * 0.6;
          let [sum, moment] = [0, 0];
          for (let k = -15; k <= 15; k++) {
            const s = shade(page, onPage + k / 10, y);
            sum += s;
            moment += s * (Math.floor((onPage + k / 10) * 10) / 10 + 0.05);
          }
          if (sum > 100) seen.set(x, [...(seen.get(x) ?? []), moment / sum + column * plan.step.xMm - left - RIM_MM]);
        }
      }
    expect([...seen.keys()].sort((a, b) => a - b)).toEqual(xs);
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
