import { type Graduations, type PicturePoint, spacingOf } from '../../calibration';
import { locateLine } from '../../edge';
import type { Vec2 } from '../../geometry';
import type { Pixels } from '../../raster';
import { greenAt, unit } from '../shared/greenAt';
import { takeGraduations } from './graduationRow';

/** Why the strokes between two readings could not be counted. */
export type CountFault =
  /** A reading is on no stroke. */
  | 'not-on-strokes'
  /** There are no strokes in even steps between the readings. */
  | 'not-even'
  /** Nearer to one another than they can be told apart. */
  | 'too-fine'
  /** As many as were counted do not make the length that was typed. */
  | 'another-length';

export type CountResult =
  | {
      ok: true;
      graduations: Graduations /** Spacings between both readings. */;
      count: number;
      /** Strokes seen of the `count + 1` there are. */
      seen: number;
    }
  | { ok: false; reason: CountFault /** Spacings counted, where they were. */; count?: number };

/** Strokes nearer than this cannot be located one by one, px. */
const LEAST_PERIOD_PX = 5;
/** Half the width of the band along which the brightness is read, px: strokes cross it, scratches do not fill it. */
const BAND_PX = 5;
/** A dip is a stroke from this share of the depth of clear ones. */
const CLEAR_SHARE = 0.4;
/** Strokes that may be hidden, by a smudge or a finger, before the count is not believed. */
const MOST_MISSING_SHARE = 0.25;
/** A stroke stands this near to a whole number of periods after the one before. */
const IN_STEP = 0.25;
/**
 * Counts the graduations between two readings and takes each as a line, at two places along it, with places along the
 * edge that they stand on.
 * In: the picture, two picks on strokes, px, and what lies between them, mm. Out: strokes by their number from the
 * first reading on. A smudge or a gap is stepped over: numbers come from where a stroke stands, not from counting on.
 */
export function countGraduations(pixels: Pixels, from: PicturePoint, to: PicturePoint, lengthMm: number): CountResult {
  const ends = [from, to].map((p) => locateLine(pixels, p.uPx, p.vPx, { searchPx: END_SEARCH_PX }));
  const [first, last] = ends;
  if (!first?.dark || !last?.dark) return { ok: false, reason: 'not-on-strokes' };
  const length = Math.hypot(last.uPx - first.uPx, last.vPx - first.vPx);
  const way = { x: (last.uPx - first.uPx) / length, y: (last.vPx - first.vPx) / length };
  // Along the strokes, the same way at both ends.
  const downs = [first, last].map(({ normal }) => facing({ x: -Math.sin(normal), y: Math.cos(normal) }, way));
  const downAt = (t: number): Vec2 =>
    unit({ x: downs[0]!.x + t * (downs[1]!.x - downs[0]!.x), y: downs[0]!.y + t * (downs[1]!.y - downs[0]!.y) });
  const at = (d: number): Vec2 => ({ x: first.uPx + d * way.x, y: first.vPx + d * way.y });

  const dips = findDips(pixels, length, at, (d) => downAt(d / length));
  const numbered = numberDips(dips);
  if (typeof numbered === 'string') return { ok: false, reason: numbered };
  const { count, places } = numbered;
  if (length / count < LEAST_PERIOD_PX) return { ok: false, reason: 'too-fine' };
  const spacing = spacingOf(lengthMm, count);
  if (!spacing) return { ok: false, reason: 'another-length', count };

  const strokes = places.map(({ n, d }) => ({ n, at: at(d), down: downAt(d / length) }));
  const taken = takeGraduations(pixels, strokes, length / count);
  if (taken.graduations.length < 3) return { ok: false, reason: 'not-even' };
  return { ok: true, count, seen: places.length, graduations: { spacingMm: spacing.spacingMm, ...taken } };
}

const END_SEARCH_PX = 6;

/** Turned so that it lies to one side of the way along the ruler. */
const facing = (down: Vec2, way: Vec2): Vec2 =>
  way.x * down.y - way.y * down.x < 0 ? { x: -down.x, y: -down.y } : down;

/** Brightness along the line of the readings, averaged along the strokes; its clear dips, px from the first reading. */
function findDips(pixels: Pixels, length: number, at: (d: number) => Vec2, downAt: (d: number) => Vec2): number[] {
  const STEP = 0.5;
  const MARGIN = 4;
  const count = Math.floor((length + 2 * MARGIN) / STEP) + 1;
  const light = new Float64Array(count);
  for (let k = 0; k < count; k++) {
    const d = k * STEP - MARGIN;
    const p = at(d);
    const down = downAt(d);
    let sum = 0;
    for (let b = -BAND_PX; b <= BAND_PX; b++) sum += greenAt(pixels, p.x + b * down.x, p.y + b * down.y);
    light[k] = sum / (2 * BAND_PX + 1);
  }
  // What is bright round about, so that light that falls off does not count as a dip.
  const reach = Math.round(12 / STEP);
  const depth = light.map((v, k) => {
    let most = v;
    for (let j = Math.max(0, k - reach); j <= Math.min(count - 1, k + reach); j++) most = Math.max(most, light[j]!);
    return most - v;
  });
  const clear = [...depth].sort((a, b) => a - b)[Math.floor(0.95 * count)]!;
  const dips: number[] = [];
  for (let k = 1; k < count - 1; k++) {
    if (depth[k]! < CLEAR_SHARE * clear || depth[k]! < depth[k - 1]! || depth[k]! <= depth[k + 1]!) continue;
    const bend = depth[k - 1]! - 2 * depth[k]! + depth[k + 1]!;
    const off = bend < 0 ? (depth[k - 1]! - depth[k + 1]!) / (2 * bend) : 0;
    dips.push((k + off) * STEP - MARGIN);
  }
  return dips;
}

/**
 * Numbers dips by how many of their neighbourhood's periods lie between them: the period goes over slowly as the ruler
 * is seen askew and bent by the lens, so that a gap of several strokes still tells how many it hides.
 */
function numberDips(dips: readonly number[]): { count: number; places: { n: number; d: number }[] } | CountFault {
  if (dips.length < 4) return 'not-even';
  const gaps = dips.slice(1).map((d, k) => d - dips[k]!);
  const places = [{ n: 0, d: dips[0]! }];
  let before = dips[0]!;
  let strays = 0;
  for (let k = 0; k < gaps.length; k++) {
    const near = gaps.slice(Math.max(0, k - NEAR), k + NEAR + 1).sort((p, q) => p - q);
    const period = near[near.length >> 1]!;
    const steps = (dips[k + 1]! - before) / period;
    const whole = Math.round(steps);
    if (whole < 1 || Math.abs(steps - whole) > IN_STEP * Math.sqrt(whole)) {
      strays += 1;
      continue;
    }
    before = dips[k + 1]!;
    places.push({ n: (places.at(-1)?.n ?? 0) + whole, d: before });
  }
  const count = places.at(-1)?.n ?? 0;
  if (strays > MOST_STRAY_SHARE * dips.length || places.length < (1 - MOST_MISSING_SHARE) * (count + 1))
    return 'not-even';
  return { count, places };
}

/** Gaps on either side that tell the period of a place. */
const NEAR = 7;
/** Dips that are no strokes: scratches and figures. */
const MOST_STRAY_SHARE = 0.2;
