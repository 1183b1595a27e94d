import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Form } from '../../geometry';
import type { FlatProfile } from '../profile/flatProfile';
import { planTiles, type Tiling, writeTiledPdf } from '.';

export const line = (x1: number, y1: number, x2: number, y2: number): Form => ({
  kind: 'chain',
  closed: false,
  segments: [{ kind: 'line', from: { x: x1, y: y1 }, to: { x: x2, y: y2 } }],
});
export const profileOf = (forms: Form[]): FlatProfile => ({
  title: 'Long',
  date: '2026-03-01',
  unit: 'mm',
  notes: true,
  forms: forms.map((form) => ({ form, role: 'cut', name: 'line', layer: null })),
});
export const TILING: Tiling = { paper: 'A4', marginMm: 8, overlapMm: 12 };
/** Kept free round the part, mm: the drawing's corner lies that far off it. */
const RIM_MM = 2;

export const hasPoppler = (() => {
  try {
    execFileSync('pdftoppm', ['-v'], { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
})();

/** Pages as another reader prints them, 10 px to the millimetre: how dark a place is, mm from the upper left corner. */
export function printed(pdf: Uint8Array): { count: number; shade(page: number, x: number, y: number): number } {
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

/** Where upright lines stand that are printed over pages and measured there, mm. */
export const TILED_XS = [0, 150, 300, 450, 600] as const;

/** Prints lines over pages, lays the pages together again, and tells where each line is found, once a page, mm. */
export async function measureTiles() {
  const xs = TILED_XS;
  const profile = profileOf([...xs.map((x) => line(x, 0, x, 400)), line(0, 400, 600, 400), line(0, 0, 600, 0)]);
  const plan = planTiles(600 + 2 * RIM_MM, 400 + 2 * RIM_MM, TILING)!;
  const { count, shade } = printed((await writeTiledPdf(profile, TILING))!);
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
  return { count, plan, seen };
}
