import { locateEdge, locateLine } from '../edge';
import type { Vec2 } from '../geometry';
import type { Pixels } from '../raster';
import type { Pick, PicturePoint, Stroke, Strokes } from '../truing';

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
      strokes: Strokes /** Spacings between both readings. */;
      count: number;
      /** Strokes seen of the `count + 1` there are. */
      seen: number;
    }
  | { ok: false; reason: CountFault /** Spacings counted, where they were. */; count?: number };

/** Spacings of graduations on rulers, mm: millimetres, halves, fives and tens; sixteenths of an inch and their kin. */
const SPACINGS_MM = [1, 0.5, 5, 10, 2, 25.4, 12.7, 6.35, 3.175, 1.5875, 0.79375, 0.396875, 2.54, 1.27, 0.508, 0.254];
/** A typed length may stray this much from a whole number of spacings. */
const SAME_SPACING = 0.004;

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
/** Strokes taken as lines, of all that are counted: each costs two looks, and more make the ± hardly smaller. */
const MOST_TAKEN = 70;
/** Far enough along the stroke that it has ended, in periods. */
const LONGEST_PERIODS = 12;

/**
 * Counts the graduations between two readings and takes each as a line, at two places along it, with places along the
 * edge that they stand on.
 * In: the picture, two picks on strokes, px, and what lies between them, mm. Out: strokes by their number from the
 * first reading on. A smudge or a gap is stepped over: numbers come from where a stroke stands, not from counting on.
 */
export function countStrokes(pixels: Pixels, from: PicturePoint, to: PicturePoint, lengthMm: number): CountResult {
  const ends = [from, to].map((p) => locateLine(pixels, p.uPx, p.vPx, { searchPx: END_SEARCH_PX }));
  const [first, last] = ends;
  if (!first?.dark || !last?.dark) return { ok: false, reason: 'not-on-strokes' };
  const length = Math.hypot(last.uPx - first.uPx, last.vPx - first.vPx);
  const way = { x: (last.uPx - first.uPx) / length, y: (last.vPx - first.vPx) / length };
  // Along the strokes, the same way at both ends.
  const downs = [first, last].map(({ normal }) => facing({ x: -Math.sin(normal), y: Math.cos(normal) }, way));
  const downAt = (t: number): Vec2 =>
    unit({ x: downs[0].x + t * (downs[1].x - downs[0].x), y: downs[0].y + t * (downs[1].y - downs[0].y) });
  const at = (d: number): Vec2 => ({ x: first.uPx + d * way.x, y: first.vPx + d * way.y });

  const dips = findDips(pixels, length, at, (d) => downAt(d / length));
  const numbered = numberDips(dips);
  if (typeof numbered === 'string') return { ok: false, reason: numbered };
  const { count, places } = numbered;
  if (length / count < LEAST_PERIOD_PX) return { ok: false, reason: 'too-fine' };
  const spacingMm = SPACINGS_MM.find((s) => Math.abs(lengthMm / count / s - 1) < SAME_SPACING);
  if (!spacingMm) return { ok: false, reason: 'another-length', count };

  const strokes: Stroke[] = [];
  const tops: { down: Vec2; ends: [Vec2, Vec2] }[] = [];
  const every = Math.ceil(places.length / MOST_TAKEN);
  for (const { n, d } of places.filter((_, k) => k % every === 0 || k === places.length - 1)) {
    const down = downAt(d / length);
    const period = length / count;
    const ends = strokeEnds(pixels, at(d), down, period);
    const found = ends && halves(pixels, ends, down, period);
    if (!found) continue;
    strokes.push({ n, places: found });
    tops.push({ down, ends });
  }
  if (strokes.length < 3) return { ok: false, reason: 'not-even' };
  return {
    ok: true,
    count,
    seen: places.length,
    strokes: { spacingMm, strokes, edge: findRim(pixels, tops, way, length / count) },
  };
}

const END_SEARCH_PX = 6;

const unit = ({ x, y }: Vec2): Vec2 => {
  const size = Math.hypot(x, y) || 1;
  return { x: x / size, y: y / size };
};

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
    for (let b = -BAND_PX; b <= BAND_PX; b++) sum += brightness(pixels, p.x + b * down.x, p.y + b * down.y);
    light[k] = sum / (2 * BAND_PX + 1);
  }
  // What is bright round about, so that light that falls off does not count as a dip.
  const reach = Math.round(12 / STEP);
  const depth = light.map((v, k) => {
    let most = v;
    for (let j = Math.max(0, k - reach); j <= Math.min(count - 1, k + reach); j++) most = Math.max(most, light[j]);
    return most - v;
  });
  const clear = [...depth].sort((a, b) => a - b)[Math.floor(0.95 * count)];
  const dips: number[] = [];
  for (let k = 1; k < count - 1; k++) {
    if (depth[k] < CLEAR_SHARE * clear || depth[k] < depth[k - 1] || depth[k] <= depth[k + 1]) continue;
    const bend = depth[k - 1] - 2 * depth[k] + depth[k + 1];
    const off = bend < 0 ? (depth[k - 1] - depth[k + 1]) / (2 * bend) : 0;
    dips.push((k + off) * STEP - MARGIN);
  }
  return dips;
}

function brightness({ width, height, data }: Pixels, x: number, y: number): number {
  const u = Math.min(Math.max(x - 0.5, 0), width - 1.001);
  const v = Math.min(Math.max(y - 0.5, 0), height - 1.001);
  const [i, j] = [Math.floor(u), Math.floor(v)];
  const [fx, fy] = [u - i, v - j];
  const g = (k: number, l: number) => data[(l * width + k) * 4 + 1];
  return (g(i, j) * (1 - fx) + g(i + 1, j) * fx) * (1 - fy) + (g(i, j + 1) * (1 - fx) + g(i + 1, j + 1) * fx) * fy;
}

/**
 * Numbers dips by how many of their neighbourhood's periods lie between them: the period goes over slowly as the ruler
 * is seen askew and bent by the lens, so that a gap of several strokes still tells how many it hides.
 */
function numberDips(dips: readonly number[]): { count: number; places: { n: number; d: number }[] } | CountFault {
  if (dips.length < 4) return 'not-even';
  const gaps = dips.slice(1).map((d, k) => d - dips[k]);
  const places = [{ n: 0, d: dips[0] }];
  let before = dips[0];
  let strays = 0;
  for (let k = 0; k < gaps.length; k++) {
    const near = gaps.slice(Math.max(0, k - NEAR), k + NEAR + 1).sort((p, q) => p - q);
    const period = near[near.length >> 1];
    const steps = (dips[k + 1] - before) / period;
    const whole = Math.round(steps);
    if (whole < 1 || Math.abs(steps - whole) > IN_STEP * Math.sqrt(whole)) {
      strays += 1;
      continue;
    }
    before = dips[k + 1];
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

/** Both ends of a stroke through a place: where its darkness has gone by half. */
function strokeEnds(pixels: Pixels, p: Vec2, down: Vec2, period: number): [Vec2, Vec2] | null {
  const side = { x: -down.y, y: down.x };
  /** How much darker than its ground half a period to both sides. */
  const depth = (t: number): number => {
    const [x, y] = [p.x + t * down.x, p.y + t * down.y];
    const ground = [-0.5, 0.5].map((s) => brightness(pixels, x + s * period * side.x, y + s * period * side.y));
    return Math.min(...ground) - Math.min(...[-1, 0, 1].map((s) => brightness(pixels, x + s * side.x, y + s * side.y)));
  };
  const own = depth(0);
  if (own <= 0) return null;
  const walk = (way: 1 | -1): number => {
    let gone = 0;
    for (let t = 1; t < LONGEST_PERIODS * period; t++) {
      gone = depth(way * t) < 0.5 * own ? gone + 1 : 0;
      if (gone >= 3) return way * (t - 3);
    }
    return way * LONGEST_PERIODS * period;
  };
  const [a, b] = [walk(-1), walk(1)];
  if (b - a < LEAST_STROKE_PX) return null;
  return [
    { x: p.x + a * down.x, y: p.y + a * down.y },
    { x: p.x + b * down.x, y: p.y + b * down.y },
  ];
}

const LEAST_STROKE_PX = 14;
/** The tip of a stroke is rounded and blurred: so much of it is left out at each end, px. */
const TIP_PX = 3;
const MOST_HALF_PX = 22;

/** A stroke's two halves, each located across it. */
function halves(pixels: Pixels, [a, b]: [Vec2, Vec2], down: Vec2, period: number): Pick[] | null {
  const length = Math.hypot(b.x - a.x, b.y - a.y) - 2 * TIP_PX;
  const half = Math.min(MOST_HALF_PX, length / 4);
  const found: Pick[] = [];
  for (const share of [0.25, 0.75]) {
    const t = TIP_PX + share * length;
    const seat = { x: a.x + t * down.x, y: a.y + t * down.y };
    const line = locateLine(pixels, seat.x, seat.y, {
      searchPx: Math.min(4, 0.3 * period),
      halfLengthPx: Math.max(4, half),
      reachPx: Math.min(6, Math.max(2.5, 0.42 * period)),
    });
    const turned = line && Math.abs(Math.cos(line.normal) * down.x + Math.sin(line.normal) * down.y);
    if (!line?.dark || turned === null || turned > MOST_TURNED) return null;
    found.push({ uPx: line.uPx, vPx: line.vPx, sigmaPx: line.sigmaPx });
  }
  return found;
}

/** Sine of the angle by which a located line may differ from the strokes. */
const MOST_TURNED = 0.12;
const RIM_PLACES = 40;
const FEWEST_RIM = 8;
const RIM_SEARCH_PX = 9;

/** Places along the edge that the strokes stand on: beyond those ends of theirs where one is found everywhere. */
function findRim(
  pixels: Pixels,
  tops: readonly { down: Vec2; ends: [Vec2, Vec2] }[],
  way: Vec2,
  period: number,
): Pick[] {
  const every = Math.max(1, Math.floor(tops.length / RIM_PLACES));
  const sides = ([0, 1] as const).map((side) =>
    tops.flatMap(({ down, ends }, k): Pick[] => {
      if (k % every) return [];
      // Between two strokes, so that none of them bends the edge.
      const p = { x: ends[side].x + 0.5 * period * way.x, y: ends[side].y + 0.5 * period * way.y };
      const edge = locateEdge(pixels, p.x, p.y, { searchPx: RIM_SEARCH_PX, halfLengthPx: Math.max(4, 0.3 * period) });
      const across = edge && Math.abs(Math.cos(edge.normal) * down.x + Math.sin(edge.normal) * down.y);
      return edge && across !== null && across > 0.97 ? [{ uPx: edge.uPx, vPx: edge.vPx, sigmaPx: edge.sigmaPx }] : [];
    }),
  );
  const rim = sides[0].length >= sides[1].length ? sides[0] : sides[1];
  return straight(rim);
}

const STRAY_RIM_PX = 1.5;

/** Those of the places that lie along one smooth line: the rest are scratches and shadows. */
function straight(rim: Pick[]): Pick[] {
  if (rim.length < FEWEST_RIM) return [];
  const [a, b] = [rim[0], rim[rim.length - 1]];
  const length = Math.hypot(b.uPx - a.uPx, b.vPx - a.vPx) || 1;
  const off = rim.map((p) => ((b.uPx - a.uPx) * (p.vPx - a.vPx) - (b.vPx - a.vPx) * (p.uPx - a.uPx)) / length);
  // Neighbours tell where the line is, bent by the lens as it may be.
  const kept = rim.filter((_, k) => {
    const near = off.slice(Math.max(0, k - 3), k + 4).sort((p, q) => p - q);
    return Math.abs(off[k] - near[near.length >> 1]) < STRAY_RIM_PX;
  });
  return kept.length >= FEWEST_RIM ? kept : [];
}
