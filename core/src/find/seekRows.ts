import type { Vec2 } from '../geometry';
import type { Pixels } from '../raster';
import { greenAt } from './greenAt';
import { detrended, repeats } from './repeat';

/** Where strokes stand in a row, as the picture repeats itself there. */
export interface Row {
  at: Vec2;
  /** From stroke to stroke, a unit vector; strokes run across it. */
  way: Vec2;
  period: number;
  /** Of the brightness along it: below zero where the dark parts are the narrow ones. */
  skew: number;
  /** It shows only when averaged along the strokes. */
  isFaint: boolean;
}

/** Furthest period looked for, px: a centimetre scale seen close. */
const MOST_PERIOD_PX = 90;
/** A row of strokes repeats itself at least so well. */
const LEAST_REPEAT = 0.45;

/** How much of the picture is averaged for one look. */
interface Look {
  /** Rows beside one another of a profile, px along the strokes. */
  rows: readonly number[];
  /** Half the side of the square whose mean is one level of a gradient, px. */
  half: 0 | 1;
  /** Mean square of levels below which there is nothing but noise. */
  leastEnergy: number;
  /** Steps and reach of the search about the click, px. */
  step: number;
  reach: number;
}
const CLEAR: Look = { rows: [-3, 0, 3], half: 0, leastEnergy: 12, step: 24, reach: 220 };
/** Strokes a few levels deep drown in a phone's noise on three rows; along their whole length they do not. */
const FAINT: Look = { rows: [-7, -5, -3, -1, 1, 3, 5, 7], half: 1, leastEnergy: 0.8, step: 10, reach: 100 };

/**
 * The rows of strokes about a click, the likeliest first; figures and wood repeat themselves as well. Where none is
 * clear, those that only show when averaged along the strokes.
 */
export function findRows(pixels: Pixels, click: Vec2): Row[] {
  const clear = rowsSeen(pixels, click, CLEAR);
  return clear.length ? clear : rowsSeen(pixels, click, FAINT);
}

function rowsSeen(pixels: Pixels, click: Vec2, look: Look): Row[] {
  const found: { row: Row; merit: number }[] = [];
  for (let dy = -look.reach; dy <= look.reach; dy += look.step)
    for (let dx = -look.reach; dx <= look.reach; dx += look.step) {
      const away = Math.hypot(dx, dy);
      const row = away <= look.reach ? rowAt(pixels, { x: click.x + dx, y: click.y + dy }, look) : null;
      // Near the click counts; a row a ruler's width off must repeat much better to be meant.
      if (row) found.push({ row, merit: row.repeat * (1 - 0.5 * (away / look.reach)) });
    }
  found.sort((p, q) => q.merit - p.merit);
  const kept: Row[] = [];
  for (const { row } of found) {
    if (kept.length === MOST_ROWS) break;
    if (kept.every((k) => Math.hypot(k.at.x - row.at.x, k.at.y - row.at.y) > ROWS_APART_PX)) kept.push(row);
  }
  return kept.map((row) => shortestGraduations(pixels, row, look));
}

const MOST_ROWS = 5;
const ROWS_APART_PX = 70;

/** The way and the period in which the picture repeats itself about a place. */
export function rowAt(pixels: Pixels, at: Vec2, look: Look = CLEAR): (Row & { repeat: number }) | null {
  const way = acrossGraduations(pixels, at, look);
  return way && repeatsAlong(pixels, at, way, look);
}

const PATCH_PX = 34;

/** Across the strokes: the main direction of the brightness's change. Null where none stands out. */
function acrossGraduations(pixels: Pixels, { x, y }: Vec2, { half }: Look): Vec2 | null {
  const level = (u: number, v: number): number => {
    if (half === 0) return greenAt(pixels, u, v);
    let sum = 0;
    for (let dv = -half; dv <= half; dv++)
      for (let du = -half; du <= half; du++) sum += greenAt(pixels, u + du, v + dv);
    return sum / (2 * half + 1) ** 2;
  };
  let [xx, xy, yy] = [0, 0, 0];
  for (let v = y - PATCH_PX; v <= y + PATCH_PX; v += 3)
    for (let u = x - PATCH_PX; u <= x + PATCH_PX; u += 3) {
      const gx = level(u + 1, v) - level(u - 1, v);
      const gy = level(u, v + 1) - level(u, v - 1);
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
function repeatsAlong(pixels: Pixels, at: Vec2, way: Vec2, look: Look): (Row & { repeat: number }) | null {
  const { rows, leastEnergy } = look;
  const count = 2 * PROFILE_PX;
  const raw = new Float64Array(count);
  for (let k = 0; k < count; k++) {
    const t = k - PROFILE_PX;
    let sum = 0;
    for (const s of rows) sum += greenAt(pixels, at.x + t * way.x - s * way.y, at.y + t * way.y + s * way.x);
    raw[k] = sum / rows.length;
  }
  // Slow changes of light are no strokes.
  const profile = detrended(raw, 40);
  const energy = profile.reduce((s, v) => s + v * v, 0) / count;
  if (energy < leastEnergy) return null;
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
    return { at, way, period: lag + (bend < 0 ? (a - c) / (2 * bend) : 0), skew, repeat: b, isFaint: look === FAINT };
  }
  return null;
}

/** Slides along the strokes to where the shortest of them are: there the period is least. */
function shortestGraduations(pixels: Pixels, row: Row, look: Look): Row {
  const down = { x: -row.way.y, y: row.way.x };
  const all: (Row & { t: number })[] = [];
  for (let t = -160; t <= 160; t += 4) {
    const found = repeatsAlong(pixels, { x: row.at.x + t * down.x, y: row.at.y + t * down.y }, row.way, look);
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
