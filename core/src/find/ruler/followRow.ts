import type { Vec2 } from '../../geometry';
import { medianOf } from '../../numeric';
import type { Pixels } from '../../raster';
import { lineCentre } from '../shared/centre';
import { unit } from '../shared/greenAt';
import { type GraduationPlace, graduationEnds } from './graduationRow';
import type { Row } from './seekRows';

/** Strokes in a row that may be missing before the ruler is taken to have ended. */
const LONGEST_GAP = 12;
/** A stroke lies this near to where the ones before it foretell it, in periods. */
const IN_STEP = 0.28;

/** A stroke of a row that was followed. */
export interface FollowedStroke extends GraduationPlace {
  /** Across it. */
  sigmaPx: number;
  /** In periods; 0 where its ends are not seen. */
  length: number;
  /** Its ends along `down` from `at`, px. */
  ends: [number, number] | null;
  /** Against its ground. */
  contrast: number;
}

/** Stroke after stroke from a seed, both ways. */
export function followRow(pixels: Pixels, seed: Row, dark: boolean): { strokes: FollowedStroke[] } {
  const down = { x: -seed.way.y, y: seed.way.x };
  // From the middle of what is between two strokes neither is seen: half a period to either side one is.
  const begin = (share: number) => {
    const at = { x: seed.at.x + share * seed.period * seed.way.x, y: seed.at.y + share * seed.period * seed.way.y };
    return locate(pixels, at, down, seed.period, seed.period * 0.75, dark);
  };
  const start = begin(0) ?? begin(0.5) ?? begin(-0.5);
  if (!start) return { strokes: [] };
  const first: FollowedStroke = { ...start, n: 0, down };
  const bothWays = (most: number, foot: Foot | null) => {
    const forth = walk(pixels, first, seed.way, seed.period, 1, dark, start.contrast, most, foot);
    const back = walk(pixels, first, seed.way, seed.period, -1, dark, start.contrast, most, foot);
    return [...back.reverse(), first, ...forth];
  };
  // A few strokes tell which end of theirs stands on the edge; the row is then followed along that.
  return { strokes: trimmed(bothWays(MOST_GRADUATIONS, footOf(bothWays(FIRST_LOOK, null)))) };
}

/** Strokes looked at to tell on which side they stand. */
const FIRST_LOOK = 12;

/**
 * Numbers strokes from the first on. What a gap hides is told by the periods on both of its sides: their mean is right
 * to second order, however the ruler is seen. Null where it might be one more or less.
 */
export function numbered(strokes: readonly FollowedStroke[]): FollowedStroke[] | null {
  const strides = strokes.slice(1).map((s, k) => {
    const before = strokes[k]!;
    return { steps: s.n - before.n, length: Math.hypot(s.at.x - before.at.x, s.at.y - before.at.y) };
  });
  const periodNear = (from: number, to: number): number | null => {
    const near = strides.slice(Math.max(0, from), to).filter((s) => s.steps === 1);
    return near.length ? near.reduce((sum, s) => sum + s.length, 0) / near.length : null;
  };
  let n = 0;
  const out = [{ ...strokes[0]!, n }];
  for (const [k, { steps, length }] of strides.entries()) {
    let hidden = steps;
    if (steps > 1) {
      const sides = [periodNear(k - 8, k), periodNear(k + 1, k + 9)].filter((p): p is number => p !== null);
      const exact = length / (sides.reduce((a, b) => a + b, 0) / sides.length);
      hidden = Math.round(exact);
      if (!sides.length || Math.abs(exact - hidden) > MOST_DOUBT) return null;
    }
    n += hidden;
    out.push({ ...strokes[k + 1]!, n });
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

function footOf(strokes: readonly FollowedStroke[]): Foot | null {
  const seen = strokes.filter((s) => s.ends);
  if (seen.length < 6) return null;
  const scatter = ([0, 1] as const).map((end) => {
    // Against the line through the strokes, which may run askew.
    const values = seen.map((s) => (s.ends as [number, number])[end]);
    const steps = values.slice(1).map((v, k) => Math.abs(v - values[k]!));
    return steps.reduce((sum, v) => sum + v, 0);
  });
  const end = scatter[0]! <= scatter[1]! ? 0 : 1;
  const lengths = seen.map((s) => s.length).sort((p, q) => p - q);
  return { end, inside: 0.5 * lengths[Math.floor(0.2 * lengths.length)]! };
}

/**
 * Without lone finds beyond a gap at either end (the end of the ruler itself, a figure, a scratch), and without those
 * that are hardly there: beside the end of a row the first look may have met nothing but noise.
 */
function trimmed(all: FollowedStroke[]): FollowedStroke[] {
  const usual = medianOf(all.map((s) => s.contrast));
  const strokes = all.filter((s) => s.contrast >= LEAST_CONTRAST_SHARE * usual);
  const ends = (list: FollowedStroke[]): FollowedStroke[] => {
    for (let k = Math.min(LONE, list.length - 2); k >= 0; k--)
      if (Math.abs(list[k + 1]!.n - list[k]!.n) > LONE_GAP) return list.slice(k + 1);
    return list;
  };
  return ends([...ends(strokes)].reverse()).reverse();
}

const LONE = 4;
const LONE_GAP = 2;

/** A stroke is no weaker than this share of what is usual about it. */
const LEAST_CONTRAST_SHARE = 0.35;
/** Strokes whose contrast and place foretell the next one. */
const MEMORY = 8;

function walk(
  pixels: Pixels,
  first: FollowedStroke,
  way: Vec2,
  period: number,
  sense: 1 | -1,
  dark: boolean,
  contrast: number,
  most: number,
  foot: Foot | null,
): FollowedStroke[] {
  const found: FollowedStroke[] = [];
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
    const graduation = locate(pixels, guess, down, size, Math.min(0.45, IN_STEP * Math.sqrt(steps)) * size, dark);
    if (!graduation || graduation.contrast < LEAST_CONTRAST_SHARE * usual) {
      missed += 1;
      continue;
    }
    const moved = { x: (graduation.at.x - last.at.x) / steps, y: (graduation.at.y - last.at.y) / steps };
    const grown = Math.hypot(moved.x, moved.y) / size;
    growth = Math.min(1.02, Math.max(0.98, growth + 0.1 * (grown ** (1 / steps) - growth)));
    stride = { x: 0.7 * stride.x + 0.3 * moved.x, y: 0.7 * stride.y + 0.3 * moved.y };
    usual += (graduation.contrast - usual) / MEMORY;
    down = unit({ x: 0.85 * down.x + 0.15 * graduation.down.x, y: 0.85 * down.y + 0.15 * graduation.down.y });
    let at = graduation.at;
    const edge = foot && graduation.ends?.[foot.end];
    if (foot && typeof edge === 'number') {
      // Steered back to where all strokes are, slowly, since one stroke's end may be hidden.
      const off = edge + (foot.end === 0 ? 1 : -1) * foot.inside * size;
      const turn = Math.min(MOST_STEER * size, Math.max(-MOST_STEER * size, 0.3 * off));
      at = { x: at.x + turn * graduation.down.x, y: at.y + turn * graduation.down.y };
    }
    last = { ...graduation, n: last.n + sense * steps, at, down };
    found.push(last);
    missed = 0;
  }
  return found;
}

/** A stroke whose place is known roughly: located by itself where it is seen, else as it is foretold. */
export function strokeAt(
  pixels: Pixels,
  at: Vec2,
  down: Vec2,
  period: number,
  dark: boolean,
  n: number,
): FollowedStroke {
  const own = locate(pixels, at, down, period, FORETOLD * period, dark);
  if (own) return { ...own, n, down };
  return { n, at, down, sigmaPx: FORETOLD * period, length: 0, ends: null, contrast: 0 };
}

/** A place that all strokes about it foretell is right to this, periods. */
const FORETOLD = 0.2;
/** A stroke steers the row by no more than this, periods. */
const MOST_STEER = 0.08;
/** More strokes than any ruler has in one picture. */
const MOST_GRADUATIONS = 2500;

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
  const ends = graduationEnds(pixels, at, down, period, dark);
  const along = (p: Vec2) => (p.x - at.x) * down.x + (p.y - at.y) * down.y;
  const reached: [number, number] | null = ends && [along(ends[0]), along(ends[1])];
  const length = reached ? (reached[1] - reached[0]) / period : 0;
  const { x, y, contrast, sigmaPx } = at;
  return { at: { x, y }, down: own, contrast, sigmaPx, length, ends: reached };
}
