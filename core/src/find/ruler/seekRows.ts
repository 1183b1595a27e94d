import type { Vec2 } from '../../geometry';
import type { Pixels } from '../../raster';
import { greenAt } from '../shared/greenAt';
import { detrended, repeats } from '../shared/repeat';

/** Where strokes stand in a row, as the picture repeats itself there. */
export interface Row {
  at: Vec2;
  /** From stroke to stroke, a unit vector; strokes run across it. */
  way: Vec2;
  period: number;
  /** Of the brightness along it: below zero where the dark parts are the narrow ones. */
  skew: number;
}

/** Furthest period looked for, px: a centimetre scale seen close. */
const MOST_PERIOD_PX = 90;
/** A row of strokes repeats itself at least so well. */
const LEAST_REPEAT = 0.45;

/** Rows beside one another of a profile, px along the strokes. */
const ROWS_PX = [-3, 0, 3] as const;
/** Mean square of levels below which there is nothing but noise. */
const LEAST_ENERGY = 12;
/** Steps and reach of the search about the click, px. */
const SEARCH_PX = { step: 24, reach: 220 } as const;

/** The rows of strokes about a click, the likeliest first; figures and wood repeat themselves as well. */
export function findRows(pixels: Pixels, click: Vec2): Row[] {
  const found: { row: Row; merit: number }[] = [];
  const { step, reach } = SEARCH_PX;
  for (let dy = -reach; dy <= reach; dy += step)
    for (let dx = -reach; dx <= reach; dx += step) {
      const away = Math.hypot(dx, dy);
      const row = away <= reach ? rowAt(pixels, { x: click.x + dx, y: click.y + dy }) : null;
      // Near the click counts; a row a ruler's width off must repeat much better to be meant.
      if (row) found.push({ row, merit: row.repeat * (1 - 0.5 * (away / reach)) });
    }
  found.sort((p, q) => q.merit - p.merit);
  const kept: Row[] = [];
  for (const { row } of found) {
    if (kept.length === MOST_ROWS) break;
    if (kept.every((k) => Math.hypot(k.at.x - row.at.x, k.at.y - row.at.y) > ROWS_APART_PX)) kept.push(row);
  }
  return kept.map((row) => shortestGraduations(pixels, row));
}

const MOST_ROWS = 5;
const ROWS_APART_PX = 70;

/** The way and the period in which the picture repeats itself about a place. */
export function rowAt(pixels: Pixels, at: Vec2): (Row & { repeat: number }) | null {
  const way = acrossGraduations(pixels, at);
  return way && repeatsAlong(pixels, at, way);
}

const PATCH_PX = 34;

/** Across the strokes: the main direction of the brightness's change. Null where none stands out. */
function acrossGraduations(pixels: Pixels, { x, y }: Vec2): Vec2 | null {
  let [xx, xy, yy] = [0, 0, 0];
  for (let v = y - PATCH_PX; v <= y + PATCH_PX; v += 3)
    for (let u = x - PATCH_PX; u <= x + PATCH_PX; u += 3) {
      const gx = greenAt(pixels, u + 1, v) - greenAt(pixels, u - 1, v);
      const gy = greenAt(pixels, u, v + 1) - greenAt(pixels, u, v - 1);
      xx += gx * gx;
      xy += gx * gy;
      yy += gy * gy;
    }
  const spread = Math.hypot(xx - yy, 2 * xy);
  if (spread < LEAST_COHERENCE * (xx + yy) || xx + yy === 0) return null;
  const angle = 0.5 * Math.atan2(2 * xy, xx - yy);
  return { x: Math.cos(angle), y: Math.sin(angle) };
}

const LEAST_COHERENCE = 0.35;
const PROFILE_PX = 150;

/** How well, and at which period, a profile through a place repeats itself. */
function repeatsAlong(pixels: Pixels, at: Vec2, way: Vec2): (Row & { repeat: number }) | null {
  const count = 2 * PROFILE_PX;
  const raw = new Float64Array(count);
  for (let k = 0; k < count; k++) {
    const t = k - PROFILE_PX;
    let sum = 0;
    for (const s of ROWS_PX) sum += greenAt(pixels, at.x + t * way.x - s * way.y, at.y + t * way.y + s * way.x);
    raw[k] = sum / ROWS_PX.length;
  }
  // Slow changes of light are no strokes.
  const profile = detrended(raw, 40);
  const energy = profile.reduce((s, v) => s + v * v, 0) / count;
  if (energy < LEAST_ENERGY) return null;
  const skew = profile.reduce((s, v) => s + v ** 3, 0) / count / energy ** 1.5;
  const most = Math.min(MOST_PERIOD_PX, count >> 1);
  const matches = repeats(profile, 3, most);
  let dipped = false;
  for (let lag = 3; lag <= most; lag++) {
    dipped ||= matches[lag]! < 0.2;
    if (
      !dipped ||
      matches[lag]! < LEAST_REPEAT ||
      matches[lag]! < matches[lag - 1]! ||
      matches[lag]! <= matches[lag + 1]!
    )
      continue;
    const [a, b, c] = [matches[lag - 1]!, matches[lag]!, matches[lag + 1]!];
    const bend = a - 2 * b + c;
    return { at, way, period: lag + (bend < 0 ? (a - c) / (2 * bend) : 0), skew, repeat: b };
  }
  return null;
}

/** Slides along the strokes to where the shortest of them are: there the period is least. */
function shortestGraduations(pixels: Pixels, row: Row): Row {
  const down = { x: -row.way.y, y: row.way.x };
  const all: (Row & { t: number })[] = [];
  for (let t = -160; t <= 160; t += 4) {
    const found = repeatsAlong(pixels, { x: row.at.x + t * down.x, y: row.at.y + t * down.y }, row.way);
    if (found) all.push({ ...found, t });
  }
  if (all.length === 0) return row;
  const least = Math.min(...all.map((f) => f.period));
  const short = all.filter((f) => f.period < 1.15 * least);
  // Of the places in one piece nearest to where the row was found, the middle one.
  const nearest = short.reduce((best, f) => (Math.abs(f.t) < Math.abs(best.t) ? f : best));
  const piece = short.filter((f) => Math.abs(f.t - nearest.t) < 40).sort((p, q) => p.t - q.t);
  return piece[piece.length >> 1]!;
}
