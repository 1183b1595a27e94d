import type { PixelPick } from '../../calibration';
import { fitParabola } from '../../edge';
import type { Vec2 } from '../../geometry';
import { medianOf } from '../../numeric';
import type { Pixels } from '../../raster';
import { addColour, type Rgb } from '../shared/addColour';
import { colourEdges } from '../shared/colourEdges';
import { type GroundAndTable, groundAndTable } from './groundAndTable';
import { onOneCurve } from './onOneCurve';

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
const FEWEST_RAYS = 8;
/** The other edge lies beyond the tips of the strokes by this many periods at least, and no further than so many. */
const NEAREST_PERIODS = 2;
const FURTHEST_PERIODS = 64;
const MOST_REACH_PX = 1400;
/** Share of the places at which an edge must be seen. */
const LEAST_SEEN = 0.6;
/** Both long edges are parallel: pictured, the width at one end is at most so many times that at the other. */
const MOST_TAPER = 1.35;
/** Steps of the search, px. */
const COARSE_PX = 2;
/** The table is looked at up to so far before the graduated edge and beyond the other, px. */
const BEFORE_PX = 24;
const BEYOND_PX = 36;

/**
 * The other long edge of a ruler: a line beyond the tips of its strokes, parallel to the edge that they stand on, at
 * which the ruler's own ground gives way to what lies before that edge, the table. Which is which is told in that
 * direction of color in which a shadow on the table changes nothing, where there is one.
 *
 * In: the picture, strokes in order with both their ends, which of the ends stands on the graduated edge, and the
 * period, px. Out: places along the other edge; none where it is hidden, out of the picture, or in doubt.
 */
export function findFarEdge(
  pixels: Pixels,
  graduations: readonly SeenGraduation[],
  foot: 0 | 1,
  period: number,
): PixelPick[] {
  const every = Math.max(1, Math.floor(graduations.length / PLACES));
  const rays = onOneEdge(graduations.filter((_, k) => k % every === 0).map((g) => rayOf(g, foot, period)));
  if (rays.length < FEWEST_RAYS) return [];
  const longest = Math.max(...rays.map((r) => r.tip));
  const least = Math.round(longest + NEAREST_PERIODS * period);
  const most = Math.round(Math.min(FURTHEST_PERIODS * period, MOST_REACH_PX));
  if (most <= least) return [];
  const colours = rays.map((ray) => coloursAlong(pixels, ray, most + BEYOND_PX));
  const told = groundAndTable(colours, BEFORE_PX, longest, least);
  if (!told) return [];
  const line = clearest(rays, told, least, most).find((across) => endsGround(rays, told, across));
  if (!line) return [];
  const places = placesOn(pixels, rays, line, period, told.across);
  return places.length >= LEAST_SEEN * rays.length ? places : [];
}

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

/** A foot further off the curve of all is none of the edge, px. */
const FOOT_STRAY_PX = 2;

/** Rays that begin on one smooth curve, the edge that the strokes stand on; strays left out. */
function onOneEdge(rays: readonly Ray[]): Ray[] {
  let kept = [...rays];
  for (let round = 0; round < 3 && kept.length >= FEWEST_RAYS; round++) {
    const { at, way } = kept[0]!;
    const off = (r: Ray) => (r.at.x - at.x) * way.x + (r.at.y - at.y) * way.y;
    const curve = fitParabola(
      kept.map((r) => r.share),
      kept.map(off),
    );
    const near = kept.map((r) => Math.abs(off(r) - curve.at(r.share)));
    const usual = medianOf(near);
    kept = kept.filter((_, k) => near[k]! < Math.max(FOOT_STRAY_PX, STRAY_TIMES * usual));
  }
  return kept;
}

/** Linear colours along a ray, three numbers a px, from before the graduated edge; NaN outside of the picture. */
function coloursAlong(pixels: Pixels, { at, way }: Ray, reach: number): Float64Array {
  const count = BEFORE_PX + reach;
  const out = new Float64Array(3 * count);
  for (let k = 0; k < count; k++) {
    const t = k - BEFORE_PX;
    for (const s of [-2, 0, 2])
      if (!addColour(pixels, at.x + t * way.x - s * way.y, at.y + t * way.y + s * way.x, out, 3 * k))
        out.fill(Number.NaN, 3 * k, 3 * k + 3);
    for (let c = 0; c < 3; c++) out[3 * k + c]! /= 3;
  }
  return out;
}

/** A line over the rays: how far off it lies at the first and at the last, px. */
interface Across {
  first: number;
  last: number;
}

const offAt = ({ first, last }: Across, share: number): number => first + share * (last - first);

/** Lines along which the likeness to the ground falls over most rays, the clearest first. */
function clearest(rays: readonly Ray[], { likeGround }: GroundAndTable, least: number, most: number): Across[] {
  // The lens bends lines: a step a little off counts as well, and none counts more than from the one to the other.
  const falls = likeGround.map((like) => widened(fallOf(like)));
  const found: (Across & { sum: number })[] = [];
  for (let first = least; first < most; first += COARSE_PX)
    for (
      let last = Math.max(least, Math.round(first / MOST_TAPER));
      last < Math.min(most, first * MOST_TAPER);
      last += COARSE_PX
    ) {
      let sum = 0;
      for (let k = 0; k < rays.length; k++)
        sum += falls[k]![BEFORE_PX + Math.round(first + rays[k]!.share * (last - first))]!;
      if (sum > LEAST_FALL * rays.length) found.push({ first, last, sum });
    }
  const kept: Across[] = [];
  for (const line of found.sort((p, q) => q.sum - p.sum))
    if (kept.length < MOST_LINES && kept.every((k) => isApart(k, line))) kept.push(line);
  return kept;
}

/** Lines that meet or cross, or nearly, are one and the same a little turned. */
const isApart = (a: Across, b: Across): boolean =>
  (a.first - b.first) * (a.last - b.last) > 0 &&
  Math.min(Math.abs(a.first - b.first), Math.abs(a.last - b.last)) > SAME_PX;

const SAME_PX = 6;
const MOST_LINES = 6;
/** Of the whole change from ground to table so much at least is seen, on average. */
const LEAST_FALL = 0.35;

/** By how much the likeness to the ground falls at each px of a ray; nothing where it is not known. */
function fallOf(like: Float64Array): Float64Array {
  return like.map((_, t) => {
    const fall = (like[t - 1]! + like[t - 2]! + like[t - 3]! - like[t + 1]! - like[t + 2]! - like[t + 3]!) / 3;
    return fall > 0 ? Math.min(1, fall) : 0;
  });
}

const widened = (values: Float64Array): Float64Array =>
  values.map((v, t) => Math.max(v, values[t - 1] ?? 0, values[t - 2] ?? 0, values[t + 1] ?? 0, values[t + 2] ?? 0));

/** Means over these stretches beside the line tell on which side the ruler lies, px from it; the last may be out of sight. */
const BESIDE = { before: [-14, -5], behind: [5, 14], beyond: [18, BEYOND_PX - 2] } as const;
const HALF = 0.5;
/** A step this strong within so many px of the line is another edge beside it: a shadow's, or the ruler's own. */
const BESIDE_PX = 14;
const ANOTHER = 0.3;

/** Whether the ruler's ground goes as far as the line, and the table begins there. */
function endsGround(rays: readonly Ray[], { likeGround, isShadowFree }: GroundAndTable, line: Across): boolean {
  const seen = ([from, to]: readonly [number, number]): number[] =>
    rays.map(({ share }, k) => {
      const t = BEFORE_PX + Math.round(offAt(line, share));
      const part = likeGround[k]!.subarray(t + from, t + to);
      return part.reduce((sum, v) => sum + v, 0) / part.length;
    });
  const share = (values: number[], isRight: (v: number) => boolean): number => {
    const known = values.filter((v) => !Number.isNaN(v));
    return known.length ? known.filter(isRight).length / known.length : 1;
  };
  if (share(seen(BESIDE.before), (v) => v > HALF) < LEAST_SEEN) return false;
  if (share(seen(BESIDE.behind), (v) => v < HALF) < LEAST_SEEN) return false;
  if (share(seen(BESIDE.beyond), (v) => Math.abs(v) < HALF) < LEAST_SEEN) return false;
  return isShadowFree || !hasAnother(rays, likeGround, line);
}

/** Whether another step goes along beside the line, taken together over all rays. */
function hasAnother(rays: readonly Ray[], likeGround: readonly Float64Array[], line: Across): boolean {
  const mean = (d: number): number => {
    const values = rays.flatMap(({ share }, k) => {
      const v = likeGround[k]![BEFORE_PX + Math.round(offAt(line, share)) + d]!;
      return Number.isNaN(v) ? [] : [v];
    });
    return medianOf(values);
  };
  for (let d = -BESIDE_PX; d < -4; d++) if (Math.abs(mean(d - 2) - mean(d + 2)) > ANOTHER) return true;
  return false;
}

/** First about where the line was seen, then closely about the curve that the places lie on. */
const REACHES_PX = [7, 1.5] as const;
/** A place further off the curve of all is a scratch, a figure or a shadow, px. */
const STRAY_PX = { first: 2.5, last: 0.6 } as const;

/**
 * The line's places to a fraction of a pixel, without strays: which edge it is by the change from ground to table, where
 * exactly by all of the change there, since colour is blurred more than light.
 */
function placesOn(pixels: Pixels, rays: readonly Ray[], line: Across, period: number, along: Rgb): PixelPick[] {
  let curve = (share: number) => offAt(line, share);
  let places: (PixelPick & { share: number; off: number })[] = [];
  for (const [round, reach] of REACHES_PX.entries()) {
    places = rays.flatMap(({ at, way, share }) => {
      const t = curve(share);
      const edges = colourEdges(pixels, at.x + t * way.x, at.y + t * way.y, way.x, way.y, {
        reachPx: reach + 4,
        halfLengthPx: Math.max(4, 0.5 * period),
        sharpWithinPx: 5,
        ...(round === 0 && { along }),
      }).filter((e) => Math.abs(e.offPx) < reach);
      if (!edges.length) return [];
      const { offPx, sigmaPx } = edges.reduce((p, q) =>
        (round === 0 ? q.contrast > p.contrast : Math.abs(q.offPx) < Math.abs(p.offPx)) ? q : p,
      );
      const off = t + offPx;
      return [{ share, off, uPx: at.x + off * way.x, vPx: at.y + off * way.y, sigmaPx }];
    });
    for (const stray of round === 0 ? [STRAY_PX.first, STRAY_PX.last] : [STRAY_PX.last]) {
      const on = onOneCurve(
        places.map((p) => p.share),
        places.map((p) => p.off),
        stray,
      );
      places = on.map((k) => places[k]!);
      if (places.length < FEWEST_RAYS) return [];
      curve = fitParabola(
        places.map((p) => p.share),
        places.map((p) => p.off),
      ).at;
    }
  }
  // Where one place errs by a shadow or a bevel its own band tells nothing of it; its like do.
  const scatter = SIGMAS_OF_MEDIAN * medianOf(places.map((p) => Math.abs(p.off - curve(p.share))));
  return places.map(({ uPx, vPx, sigmaPx }) => ({ uPx, vPx, sigmaPx: Math.max(sigmaPx, scatter) }));
}

/** Off by more than so many times what is usual. */
const STRAY_TIMES = 3;
/** σ of what scatters evenly, by the median of how far it is off. */
const SIGMAS_OF_MEDIAN = 1.48;
