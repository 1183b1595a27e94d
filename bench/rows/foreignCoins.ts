import { existsSync, readdirSync, readFileSync } from 'node:fs';
import sharp from 'sharp';
import { calibrate, type Disc, distance, figureOf, type PlanePick } from '../../core/src/calibration';
import { findDisc } from '../../core/src/find';

/** Where pictures that another renderer drew lie beside the project, with their truth; they belong to no repository. */
const FOLDER = new URL('../../../shared/coins/', import.meta.url);
/** Clicks, from the middle, in radii. */
const CLICKS = [
  [0.05, 0.03],
  [0.5, 0],
  [-0.25, 0.43],
  [-0.3, -0.5],
  [0.8, 0.1],
  [-0.1, -0.7],
] as const;
const RIGHT_SHARE = 0.03;

interface Truth {
  picture: string;
  focal_35mm_equivalent_mm: number;
  part_top_mm: number;
  coins: {
    diameter_mm: number;
    thickness_mm: number;
    upper_rim: { centre_px: [number, number]; semi_axes_px: [number, number]; ellipse_z_mm: number };
  }[];
  checks: { plane: string; a_px: [number, number]; b_px: [number, number]; mm: number }[];
}

export interface ForeignRow {
  clicks: number;
  right: number;
  lengths: number;
  held: number;
  /** Median of what is told, and the largest error, as shares. */
  told: number;
  worst: number;
  slowestMs: number;
}

/** Lengths by one coin alone, from several clicks on each; null where the pictures are not there. */
export async function measureForeignCoins(): Promise<ForeignRow | null> {
  if (!existsSync(FOLDER)) return null;
  const row = { clicks: 0, right: 0, lengths: 0, held: 0, told: 0, worst: 0, slowestMs: 0 };
  const told: number[] = [];
  for (const file of readdirSync(FOLDER).filter((f) => f.endsWith('.truth.json'))) {
    const truth = JSON.parse(readFileSync(new URL(file, FOLDER), 'utf8')) as Truth;
    const bytes = readFileSync(new URL(truth.picture, FOLDER));
    const { data, info } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    const pixels = { width: info.width, height: info.height, data: new Uint8ClampedArray(data) };
    const focal35Mm = truth.focal_35mm_equivalent_mm;
    for (const coin of truth.coins) {
      const { centre_px: middle, semi_axes_px: axes } = coin.upper_rim;
      const radius = Math.sqrt(axes[0] * axes[1]);
      for (const [dx, dy] of CLICKS) {
        const began = performance.now();
        const hints = { cPx: (focal35Mm / 43.27) * Math.hypot(info.width, info.height) };
        const found = findDisc(pixels, { uPx: middle[0] + dx * radius, vPx: middle[1] + dy * radius }, hints);
        row.slowestMs = Math.max(row.slowestMs, performance.now() - began);
        row.clicks += 1;
        if (!found.ok) continue;
        const share = Math.sqrt(found.ellipse.a * found.ellipse.b) / radius;
        if (Math.abs(share - 1) < RIGHT_SHARE) row.right += 1;
        const disc: Disc = {
          id: 'coin',
          kind: 'disc',
          plane: 'table',
          rim: found.rim,
          foot: found.foot ?? null,
          diameterMm: coin.diameter_mm,
          plusMinusMm: 0.05,
          thicknessMm: coin.thickness_mm,
        };
        const result = calibrate({
          facts: { widthPx: info.width, heightPx: info.height, focal35Mm, focalMm: null, doubts: [], resolution: null },
          lens: 'photo',
          believeResolution: false,
          hold: 'free',
          planes: [
            { id: 'table', heightMm: 0, plusMinusMm: 0 },
            { id: 'top', heightMm: truth.part_top_mm, plusMinusMm: 0.05 },
            { id: 'rim', heightMm: coin.upper_rim.ellipse_z_mm, plusMinusMm: 0.05 },
          ],
          references: [disc],
        });
        for (const { plane, a_px, b_px, mm } of truth.checks) {
          const on = plane === 'part_top' ? 'top' : 'rim';
          const ends = [a_px, b_px].map(([uPx, vPx]): PlanePick => ({ uPx, vPx, sigmaPx: 0, plane: on }));
          const figure = result.ok ? figureOf(result.calibration, ends, distance) : null;
          const off = figure ? Math.abs(figure.value / mm - 1) : 1;
          const own = figure ? figure.plusMinus / mm : 0;
          row.lengths += 1;
          if (off <= own) row.held += 1;
          row.worst = Math.max(row.worst, off);
          told.push(own);
        }
      }
    }
  }
  return { ...row, told: told.sort((a, b) => a - b)[told.length >> 1]! };
}
