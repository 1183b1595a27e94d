import type { Pick } from '../calibration';
import { fitParabola } from '../edge';
import type { Vec2 } from '../geometry';
import type { Pixels } from '../raster';
import { edgeCentre } from './centre';
import { greenAt } from './greenAt';

/** Both ends of a stroke, against its `down` and along it, px. */
export type GraduationEnds = readonly [Vec2, Vec2];

/** A stroke as it was seen in a row. */
export interface SeenGraduation {
  at: Vec2;
  /** Along it, a unit vector. */
  down: Vec2;
  ends: GraduationEnds;
  /** How far along the row it stands, 0 to 1. */
  share: number;
}

/** Places along the other long edge that are enough. */
const PLACES = 40;
/** The other edge lies beyond the tips of the strokes by this many periods at least, and no further than so many. */
const NEAREST_PERIODS = 2;
const FURTHEST_PERIODS = 64;
const MOST_REACH_PX = 1400;
/** Share of the places at which an edge must be seen. */
const LEAST_SEEN = 0.6;
/** A step that can be an edge, levels of 255. */
const LEAST_STEP = 6;
/** Both long edges are parallel: pictured, the width at one end is at most so many times that at the other. */
const MOST_TAPER = 1.35;
/** Steps of the search, px. */
const COARSE_PX = 2;
/** Of lines nearly as clear the inner one is meant: what lies beyond is no longer the ruler. */
const NEARLY_AS_CLEAR = 0.5;
/** Light beyond the edge is taken this far out, px: a line printed along the ruler has its own ground there again. */
const BEYOND_PX = { from: 5, to: 14 } as const;

/**
 * The other long edge of a ruler: a line beyond the tips of its strokes, parallel to the edge that they stand on, at
 * which the ruler's own ground ends.
 * In: the picture, strokes in order with both their ends, which of the ends stands on the graduated edge, and the
 * period, px. Out: places along the other edge; none where it is hidden, out of the picture, or in doubt.
 */
export function findFarEdge(
  pixels: Pixels,
  graduations: readonly SeenGraduation[],
  foot: 0 | 1,
  period: number,
): Pick[] {
  const every = Math.max(1, Math.floor(graduations.length / PLACES));
  const rays = graduations.filter((_, k) => k % every === 0).map((graduation) => rayOf(graduation, foot, period));
  if (rays.length < FEWEST_RAYS) return [];
  const longest = Math.max(...rays.map((r) => r.tip));
  const least = Math.round(longest + NEAREST_PERIODS * period);
  const most = Math.round(Math.min(FURTHEST_PERIODS * period, MOST_REACH_PX));
  if (most <= least) return [];
  const seen = rays.map((ray) => stepsAlong(pixels, ray, most + 16));
  for (const line of clearest(rays, seen, least, most)) {
    const places = placesOn(pixels, rays, line, period);
    if (places.length >= LEAST_SEEN * rays.length && endsGround(rays, seen, line)) return places;
  }
  return [];
}

const FEWEST_RAYS = 8;

/** A way from the graduated edge across the ruler, between two strokes. */
interface Ray {
  at: Vec2;
  /** Away from the graduated edge. */
  way: Vec2;
  /** How far off the tip of its stroke is, px. */
  tip: number;
  /** How far along the row it stands, 0 to 1. */
  share: number;
}

function rayOf({ down, ends, share }: SeenGraduation, foot: 0 | 1, period: number): Ray {
  const sign = foot === 0 ? 1 : -1;
  const at = { x: ends[foot].x - 0.5 * period * down.y, y: ends[foot].y + 0.5 * period * down.x };
  const tip = Math.hypot(ends[1].x - ends[0].x, ends[1].y - ends[0].y);
  return { at, way: { x: sign * down.x, y: sign * down.y }, tip, share };
}

/** Light along a ray and how it rises there, by px from the graduated edge; NaN outside of the picture. */
interface Steps {
  light: Float64Array;
  rise: Float64Array;
}

function stepsAlong(pixels: Pixels, { at, way }: Ray, count: number): Steps {
  const light = new Float64Array(count);
  for (let t = 0; t < count; t++) {
    let sum = 0;
    for (const s of [-2, 0, 2]) {
      const [x, y] = [at.x + t * way.x - s * way.y, at.y + t * way.y + s * way.x];
      sum += x < 2 || y < 2 || x > pixels.width - 2 || y > pixels.height - 2 ? Number.NaN : greenAt(pixels, x, y) / 3;
    }
    light[t] = sum;
  }
  const rise = new Float64Array(count);
  for (let t = 3; t < count - 3; t++)
    rise[t] = (light[t + 1]! + light[t + 2]! + light[t + 3]! - light[t - 1]! - light[t - 2]! - light[t - 3]!) / 3;
  return { light, rise };
}

/** A line over the rays: how far off it lies at the first and at the last, px; and whether it is light beyond it. */
interface Across {
  first: number;
  last: number;
  sign: 1 | -1;
  score: number;
}

const offAt = ({ first, last }: Across, share: number): number => first + share * (last - first);

/** Lines along which many rays step the same way, those first that are the inner ones of the clear. */
function clearest(rays: readonly Ray[], seen: readonly Steps[], least: number, most: number): Across[] {
  const found: Across[] = [];
  for (const sign of [1, -1] as const) {
    // The lens bends lines: a step a little off counts as well, and none counts more than a clear one.
    const near = seen.map(({ rise }) => widened(rise, sign));
    for (let first = least; first < most; first += COARSE_PX)
      for (
        let last = Math.max(least, Math.round(first / MOST_TAPER));
        last < Math.min(most, first * MOST_TAPER);
        last += COARSE_PX
      ) {
        let score = 0;
        for (let k = 0; k < rays.length; k++) score += near[k]![Math.round(first + rays[k]!.share * (last - first))]!;
        if (score > LEAST_SEEN * rays.length * LEAST_STEP) found.push({ first, last, sign, score });
      }
  }
  found.sort((p, q) => q.score - p.score);
  const kept: Across[] = [];
  for (const line of found) {
    if (line.score < NEARLY_AS_CLEAR * found[0]!.score || kept.length === MOST_LINES) break;
    if (kept.every((k) => isApart(k, line))) kept.push(line);
  }
  return kept.sort((p, q) => p.first + p.last - q.first - q.last);
}

/** Lines that meet or cross, or nearly, are one and the same a little turned. */
const isApart = (a: Across, b: Across): boolean =>
  (a.first - b.first) * (a.last - b.last) > 0 &&
  Math.min(Math.abs(a.first - b.first), Math.abs(a.last - b.last)) > SAME_PX;

const SAME_PX = 12;
const MOST_LINES = 6;
const CLEAR_STEP = 40;

function widened(rise: Float64Array, sign: 1 | -1): Float64Array {
  return rise.map((_, t) => {
    let top = 0;
    for (let k = Math.max(0, t - 2); k <= Math.min(rise.length - 1, t + 2); k++) {
      const step = sign * rise[k]!;
      if (step > top) top = step;
    }
    return Math.min(top, CLEAR_STEP);
  });
}

/** First about where the line was seen, then closely about the curve that the places lie on. */
const REACHES_PX = [7, 4] as const;
/** A place further off the curve of all is a scratch, a figure or a shadow, px. */
const STRAY_PX = { first: 2.5, last: 0.6 } as const;

/** The line's places to a fraction of a pixel, without strays. */
function placesOn(pixels: Pixels, rays: readonly Ray[], line: Across, period: number): Pick[] {
  let curve = (share: number) => offAt(line, share);
  let places: (Pick & { share: number; off: number })[] = [];
  for (const [round, reachPx] of REACHES_PX.entries()) {
    places = rays.flatMap(({ at, way, share }) => {
      const t = curve(share);
      const [x, y] = [at.x + t * way.x, at.y + t * way.y];
      const edge = edgeCentre(pixels, x, y, way.x, way.y, { reachPx, halfLengthPx: Math.max(2.5, 0.3 * period) });
      if (!edge || Math.sign(edge.contrast) !== line.sign) return [];
      const off = t + edge.offPx;
      return [{ share, off, uPx: at.x + off * way.x, vPx: at.y + off * way.y, sigmaPx: edge.sigmaPx }];
    });
    for (const stray of round === 0 ? [STRAY_PX.first, STRAY_PX.last] : [STRAY_PX.last]) {
      if (places.length < FEWEST_RAYS) return [];
      const bent = fitParabola(
        places.map((p) => p.share),
        places.map((p) => p.off),
      );
      const offs = places.map((p) => Math.abs(p.off - bent.at(p.share)));
      const usual = [...offs].sort((p, q) => p - q)[offs.length >> 1]!;
      places = places.filter((_, k) => offs[k]! < Math.max(stray, STRAY_TIMES * usual));
      curve = bent.at;
    }
  }
  return places.map(({ uPx, vPx, sigmaPx }) => ({ uPx, vPx, sigmaPx }));
}

/** Off by more than so many times what is usual. */
const STRAY_TIMES = 3;

/** The light that is the ruler's own up to the line is another one beyond it. */
function endsGround(rays: readonly Ray[], seen: readonly Steps[], line: Across): boolean {
  const mean = (light: Float64Array, from: number, to: number): number => {
    let sum = 0;
    for (let t = from; t < to; t++) sum += light[t]!;
    return sum / (to - from);
  };
  const ends = rays.filter(({ share }, k) => {
    const t = Math.round(offAt(line, share));
    const { light } = seen[k]!;
    const inside = mean(light, t - BEYOND_PX.to, t - BEYOND_PX.from);
    const beyond = mean(light, t + BEYOND_PX.from, Math.min(light.length, t + BEYOND_PX.to));
    return line.sign * (beyond - inside) > LEAST_STEP;
  });
  return ends.length >= LEAST_SEEN * rays.length;
}
