import type { Vec2 } from '../geometry';
import type { Pixels } from '../raster';
import type { Pick, PicturePoint, Strokes } from '../truing';
import { lineCentre } from './centre';
import { type Family, tellFamily } from './family';
import { greenAt, unit } from './greenAt';
import { detrended, repeats } from './repeat';
import { type StrokeSeat, strokeEnds, takeStrokes } from './strokeRow';

export type RulerFault =
  /** No row of even strokes near the click. */
  | 'no-strokes'
  /** Nearer to one another than they can be told apart. */
  | 'too-fine'
  /** Too few of them to be a yardstick. */
  | 'too-few'
  /** So many are hidden that their count is in doubt. */
  | 'hidden';

export type RulerResult =
  | {
      ok: true;
      /** The first and the last stroke found. */
      from: Pick;
      to: Pick;
      /** Spacings between both. */
      count: number;
      seen: number;
      /** What the long and the short strokes say of the spacing; null where they do not tell. */
      family: Family | null;
      strokes: Omit<Strokes, 'spacingMm'>;
      /** The row of strokes goes on out of the picture, at either end. */
      runsOut: boolean;
    }
  | { ok: false; reason: RulerFault };

/** Strokes nearer than this cannot be located one by one, px. */
const LEAST_PERIOD_PX = 5;
/** Furthest period looked for, px: a centimetre scale seen close. */
const MOST_PERIOD_PX = 90;
/** A row of strokes repeats itself at least so well. */
const LEAST_REPEAT = 0.45;
const FEWEST_STROKES = 8;
/** Strokes in a row that may be missing before the ruler is taken to have ended. */
const LONGEST_GAP = 12;
/** Share of strokes that may be hidden before the count is not believed. */
const MOST_HIDDEN = 0.3;
/** A stroke lies this near to where the ones before it foretell it, in periods. */
const IN_STEP = 0.28;

/**
 * Finds a ruler from one click on or beside its graduations: the way in which the picture repeats itself there, then
 * stroke after stroke both ways, each foretold by those before it, so that a gap does not shift the count.
 * In: the picture and a place, px. Out: both ends, each stroke as a line by its number, and what spacing the long and
 * the short strokes tell of.
 */
export function findRuler(pixels: Pixels, click: PicturePoint): RulerResult {
  const seeds = findRows(pixels, { x: click.uPx, y: click.vPx });
  if (seeds.length === 0) return { ok: false, reason: 'no-strokes' };
  if (seeds.every((seed) => seed.period < LEAST_PERIOD_PX)) return { ok: false, reason: 'too-fine' };
  let row: { seats: FollowedSeat[]; dark: boolean } = { seats: [], dark: true };
  for (const seed of seeds) {
    if (seed.period < LEAST_PERIOD_PX) continue;
    // Nearly every ruler has dark strokes on light ground, and strokes are narrower than what is between them; the other
    // way round is tried where that leads nowhere.
    const likely = seed.skew < LIGHT_SKEW;
    for (const dark of [likely, !likely]) {
      const { seats } = followRow(pixels, seed, dark);
      if (seats.length > row.seats.length) row = { seats, dark };
      if (seats.length >= FEWEST_STROKES) break;
    }
  }
  const { dark } = row;
  if (row.seats.length < FEWEST_STROKES) return { ok: false, reason: 'too-few' };
  const seats = numbered(row.seats);
  if (!seats) return { ok: false, reason: 'hidden' };
  const last = seats[seats.length - 1];
  const count = last.n;
  if (seats.length < (1 - MOST_HIDDEN) * (count + 1)) return { ok: false, reason: 'hidden' };
  const period = Math.hypot(last.at.x - seats[0].at.x, last.at.y - seats[0].at.y) / count;
  const taken = takeStrokes(pixels, seats, period, dark);
  if (taken.strokes.length < FEWEST_STROKES) return { ok: false, reason: 'too-few' };
  const pick = ({ at, sigmaPx }: FollowedSeat): Pick => ({ uPx: at.x, vPx: at.y, sigmaPx });
  return {
    ok: true,
    from: pick(seats[0]),
    to: pick(last),
    count,
    seen: seats.length,
    family: tellFamily(seats.map(({ n, length }) => ({ n, length }))),
    strokes: taken,
    runsOut: [seats[0], last].some(({ at }) => isAtRim(pixels, at, 2 * period)),
  };
}

const isAtRim = ({ width, height }: Pixels, { x, y }: Vec2, near: number): boolean =>
  Math.min(x, y, width - x, height - y) < near;

interface Row {
  at: Vec2;
  /** From stroke to stroke, a unit vector; strokes run across it. */
  way: Vec2;
  period: number;
  /** Of the brightness along it: below zero where the dark parts are the narrow ones. */
  skew: number;
}

/** From this skew on the strokes are taken to be light on dark ground. */
const LIGHT_SKEW = 0.4;

/** Steps and reach of the search about the click, px. */
const SEARCH = { step: 24, reach: 220 } as const;

/** The rows of strokes about a click, the likeliest first; figures and wood repeat themselves as well. */
function findRows(pixels: Pixels, click: Vec2): Row[] {
  const found: { row: Row; merit: number }[] = [];
  for (let dy = -SEARCH.reach; dy <= SEARCH.reach; dy += SEARCH.step)
    for (let dx = -SEARCH.reach; dx <= SEARCH.reach; dx += SEARCH.step) {
      const away = Math.hypot(dx, dy);
      const row = away <= SEARCH.reach ? repeatsAt(pixels, { x: click.x + dx, y: click.y + dy }) : null;
      // Near the click counts; a row a ruler's width off must repeat much better to be meant.
      if (row) found.push({ row, merit: row.repeat * (1 - 0.5 * (away / SEARCH.reach)) });
    }
  found.sort((p, q) => q.merit - p.merit);
  const kept: Row[] = [];
  for (const { row } of found) {
    if (kept.length === MOST_ROWS) break;
    if (kept.every((k) => Math.hypot(k.at.x - row.at.x, k.at.y - row.at.y) > ROWS_APART_PX)) kept.push(row);
  }
  return kept.map((row) => shortestStrokes(pixels, row));
}

const MOST_ROWS = 5;
const ROWS_APART_PX = 70;

/** The way and the period in which the picture repeats itself about a place. */
function repeatsAt(pixels: Pixels, at: Vec2): (Row & { repeat: number }) | null {
  const way = acrossStrokes(pixels, at);
  return way && repeatsAlong(pixels, at, way);
}

const PATCH_PX = 34;

/** Across the strokes: the main direction of the brightness's change. Null where none stands out. */
function acrossStrokes(pixels: Pixels, { x, y }: Vec2): Vec2 | null {
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
    for (const s of [-3, 0, 3]) sum += greenAt(pixels, at.x + t * way.x - s * way.y, at.y + t * way.y + s * way.x);
    raw[k] = sum / 3;
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
    dipped ||= matches[lag] < 0.2;
    if (!dipped || matches[lag] < LEAST_REPEAT || matches[lag] < matches[lag - 1] || matches[lag] <= matches[lag + 1])
      continue;
    const [a, b, c] = [matches[lag - 1], matches[lag], matches[lag + 1]];
    const bend = a - 2 * b + c;
    return { at, way, period: lag + (bend < 0 ? (a - c) / (2 * bend) : 0), skew, repeat: b };
  }
  return null;
}

/** Mean square of levels below which there is nothing but noise. */
const LEAST_ENERGY = 12;

/** Slides along the strokes to where the shortest of them are: there the period is least. */
function shortestStrokes(pixels: Pixels, row: Row): Row {
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
  return piece[piece.length >> 1];
}

interface FollowedSeat extends StrokeSeat {
  /** Across it. */
  sigmaPx: number;
  /** In periods; 0 where its ends are not seen. */
  length: number;
  /** Its ends along `down` from `at`, px. */
  ends: [number, number] | null;
}

/** Stroke after stroke from a seed, both ways. */
function followRow(pixels: Pixels, seed: Row, dark: boolean): { seats: FollowedSeat[] } {
  const down = { x: -seed.way.y, y: seed.way.x };
  // From the middle of what is between two strokes neither is seen: half a period to either side one is.
  const begin = (share: number) => {
    const at = { x: seed.at.x + share * seed.period * seed.way.x, y: seed.at.y + share * seed.period * seed.way.y };
    return locate(pixels, at, down, seed.period, seed.period * 0.75, dark);
  };
  const start = begin(0) ?? begin(0.5) ?? begin(-0.5);
  if (!start) return { seats: [] };
  const first: FollowedSeat = { ...start, n: 0, down };
  const bothWays = (most: number, foot: Foot | null) => {
    const forth = walk(pixels, first, seed.way, seed.period, 1, dark, start.contrast, most, foot);
    const back = walk(pixels, first, seed.way, seed.period, -1, dark, start.contrast, most, foot);
    return [...back.reverse(), first, ...forth];
  };
  // A few strokes tell which end of theirs stands on the edge; the row is then followed along that.
  return { seats: trimmed(bothWays(MOST_STROKES, footOf(bothWays(FIRST_LOOK, null)))) };
}

/** Strokes looked at to tell on which side they stand. */
const FIRST_LOOK = 12;

/**
 * Numbers strokes from the first on. What a gap hides is told by the periods on both of its sides: their mean is right
 * to second order, however the ruler is seen. Null where it might be one more or less.
 */
function numbered(seats: readonly FollowedSeat[]): FollowedSeat[] | null {
  const strides = seats.slice(1).map((s, k) => {
    const before = seats[k];
    return { steps: s.n - before.n, length: Math.hypot(s.at.x - before.at.x, s.at.y - before.at.y) };
  });
  const periodNear = (from: number, to: number): number | null => {
    const near = strides.slice(Math.max(0, from), to).filter((s) => s.steps === 1);
    return near.length ? near.reduce((sum, s) => sum + s.length, 0) / near.length : null;
  };
  let n = 0;
  const out = [{ ...seats[0], n }];
  for (const [k, { steps, length }] of strides.entries()) {
    let hidden = steps;
    if (steps > 1) {
      const sides = [periodNear(k - 8, k), periodNear(k + 1, k + 9)].filter((p): p is number => p !== null);
      const exact = length / (sides.reduce((a, b) => a + b, 0) / sides.length);
      hidden = Math.round(exact);
      if (!sides.length || Math.abs(exact - hidden) > MOST_DOUBT) return null;
    }
    n += hidden;
    out.push({ ...seats[k + 1], n });
  }
  return out;
}

/** A gap this far from a whole number of periods leaves the count in doubt. */
const MOST_DOUBT = 0.3;

/** Which end of the strokes stands on the ruler's edge, and how far inside it all of them still are, periods. */
interface Foot {
  end: 0 | 1;
  inside: number;
}

function footOf(seats: readonly FollowedSeat[]): Foot | null {
  const seen = seats.filter((s) => s.ends);
  if (seen.length < 6) return null;
  const scatter = ([0, 1] as const).map((end) => {
    // Against the line through the seats, which may run askew.
    const values = seen.map((s) => (s.ends as [number, number])[end]);
    const steps = values.slice(1).map((v, k) => Math.abs(v - values[k]));
    return steps.reduce((sum, v) => sum + v, 0);
  });
  const end = scatter[0] <= scatter[1] ? 0 : 1;
  const lengths = seen.map((s) => s.length).sort((p, q) => p - q);
  return { end, inside: 0.5 * lengths[Math.floor(0.2 * lengths.length)] };
}

/** Without lone finds beyond a gap at either end: the end of the ruler itself, a figure, a scratch. */
function trimmed(seats: FollowedSeat[]): FollowedSeat[] {
  const ends = (list: FollowedSeat[]): FollowedSeat[] => {
    for (let k = Math.min(LONE, list.length - 2); k >= 0; k--)
      if (Math.abs(list[k + 1].n - list[k].n) > LONE_GAP) return list.slice(k + 1);
    return list;
  };
  return ends([...ends(seats)].reverse()).reverse();
}

const LONE = 4;
const LONE_GAP = 2;

/** Strokes whose contrast and place foretell the next one. */
const MEMORY = 8;

function walk(
  pixels: Pixels,
  first: FollowedSeat,
  way: Vec2,
  period: number,
  sense: 1 | -1,
  dark: boolean,
  contrast: number,
  most: number,
  foot: Foot | null,
): FollowedSeat[] {
  const found: FollowedSeat[] = [];
  let stride = { x: sense * way.x * period, y: sense * way.y * period };
  let growth = 1;
  let down = first.down;
  let last = first;
  let usual = contrast;
  let missed = 0;
  while (missed < LONGEST_GAP && found.length < most) {
    const steps = missed + 1;
    let reach = 0;
    for (let k = 0, g = growth; k < steps; k++, g *= growth) reach += g;
    const guess = { x: last.at.x + reach * stride.x, y: last.at.y + reach * stride.y };
    if (guess.x < 3 || guess.y < 3 || guess.x > pixels.width - 3 || guess.y > pixels.height - 3) break;
    const size = Math.hypot(stride.x, stride.y);
    const stroke = locate(pixels, guess, down, size, Math.min(0.45, IN_STEP * Math.sqrt(steps)) * size, dark);
    if (!stroke || stroke.contrast < 0.35 * usual) {
      missed += 1;
      continue;
    }
    const moved = { x: (stroke.at.x - last.at.x) / steps, y: (stroke.at.y - last.at.y) / steps };
    const grown = Math.hypot(moved.x, moved.y) / size;
    growth = Math.min(1.02, Math.max(0.98, growth + 0.1 * (grown ** (1 / steps) - growth)));
    stride = { x: 0.7 * stride.x + 0.3 * moved.x, y: 0.7 * stride.y + 0.3 * moved.y };
    usual += (stroke.contrast - usual) / MEMORY;
    down = unit({ x: 0.85 * down.x + 0.15 * stroke.down.x, y: 0.85 * down.y + 0.15 * stroke.down.y });
    let at = stroke.at;
    const edge = foot && stroke.ends?.[foot.end];
    if (foot && typeof edge === 'number') {
      // Steered back to where all strokes are, slowly, since one stroke's end may be hidden.
      const off = edge + (foot.end === 0 ? 1 : -1) * foot.inside * size;
      const turn = Math.min(MOST_STEER * size, Math.max(-MOST_STEER * size, 0.3 * off));
      at = { x: at.x + turn * stroke.down.x, y: at.y + turn * stroke.down.y };
    }
    last = { ...stroke, n: last.n + sense * steps, at, down };
    found.push(last);
    missed = 0;
  }
  return found;
}

/** A stroke steers the row by no more than this, periods. */
const MOST_STEER = 0.08;
/** More strokes than any ruler has in one picture. */
const MOST_STROKES = 2500;

/** The stroke nearest to a guess: its middle there, its own direction, and how long it is. */
function locate(pixels: Pixels, guess: Vec2, down: Vec2, period: number, within: number, dark: boolean) {
  const [nx, ny] = [-down.y, down.x];
  const look = (x: number, y: number, reach: number) => {
    const line = lineCentre(pixels, x, y, nx, ny, { reachPx: reach, halfLengthPx: 3.5 });
    return line && line.contrast < 0 === dark && Math.abs(line.offPx) < within
      ? { x: x + line.offPx * nx, y: y + line.offPx * ny, contrast: Math.abs(line.contrast), sigmaPx: line.sigmaPx }
      : null;
  };
  const reach = Math.max(3, 0.62 * period);
  const at = look(guess.x, guess.y, reach);
  if (!at) return null;
  const lean = 0.35 * period;
  const [up, low] = [-lean, lean].map((t) => look(at.x + t * down.x, at.y + t * down.y, reach));
  const own = up && low ? unit({ x: low.x - up.x, y: low.y - up.y }) : down;
  const ends = strokeEnds(pixels, at, down, period, dark);
  const along = (p: Vec2) => (p.x - at.x) * down.x + (p.y - at.y) * down.y;
  const reached: [number, number] | null = ends && [along(ends[0]), along(ends[1])];
  const length = reached ? (reached[1] - reached[0]) / period : 0;
  const { x, y, contrast, sigmaPx } = at;
  return { at: { x, y }, down: own, contrast, sigmaPx, length, ends: reached };
}
