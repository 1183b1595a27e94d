import type { Patch } from '../raster';
import { type BandFit, type FittedStep, fitBand } from './fitBand';
import { fitEdge, SOFTEST_PX } from './fitEdge';
import { followRows } from './followRows';
import { narrowed, readProfile, type Seat } from './profile';

/** A place located in a picture to a fraction of a pixel. */
export interface Located extends Seat {
  /** Between two brightnesses, or along the middle of a thin line. */
  kind: 'edge' | 'line';
  /** One standard deviation across, px. */
  sigmaPx: number;
  /** The part of it that shade beside the edge may make, px: places along one edge have it from one cause, and share it. */
  softPx: number;
  /** Blur of the edge, or half width of the line, px. */
  blurPx: number;
  /** Height of the step or depth of the line in linear light, 0 to 1. */
  contrast: number;
  /** For a line: darker than its ground. */
  dark: boolean;
  /** Bend of the edge, 1/px: positive towards the normal. */
  bend: number;
  /** Rows along it that carried the estimate. */
  rows: number;
}

export interface LocateOptions {
  /** How far from the place asked an edge is looked for, px. */
  searchPx?: number;
  /** Half length along the edge over which it is averaged, px. */
  halfLengthPx?: number;
  /** Half length of the profile across it, px. */
  reachPx?: number;
  /** Smallest step taken for an edge, linear light. */
  leastContrast?: number;
}

export const LOCATE = { searchPx: 10, halfLengthPx: 12, reachPx: 6, leastContrast: 0.012 } as const;

/** Cameras differ in their tone curve; what that shifts an edge, and what no model here holds, px. */
const MODEL_SIGMA_PX = 0.03;
/** Further than where an edge is followed its neighbours are looked for, px. */
export const BESIDE_PX = 6;
/** Where the picture has too few clear edges to tell its lens, nothing is softer than that. */
export const NO_LENS_PX = Number.POSITIVE_INFINITY;

/** Light to settle in, and how soft the lens makes an edge, px. */
export type SeenLight = Patch & { lensPx: number };

/** A place to begin with, and how much an edge seems to bend there, 1/px. */
export interface Rough extends Seat {
  bend: number;
}

/**
 * From a seat to a fraction of a pixel: rows, their curve, then one fit to all of them. Twice, so that it centres, and
 * on until the rows reach as far along as the bend that was found allows.
 * Out: what was located, and the edges so near to it that they were fitted along with it.
 */
export function settleSeat(
  patch: SeenLight,
  rough: Rough,
  kind: Located['kind'],
  wanted: Required<LocateOptions>,
  uPx: number,
  vPx: number,
  splits = true,
  mostRounds: number = MOST_ROUNDS,
): { own: Located; beside: Located[] } | null {
  let seat = nearTo(rough, uPx, vPx);
  let { bend } = rough;
  let half = Math.min(wanted.halfLengthPx, halfLengthOf(bend));
  let result: { own: Located; beside: Located[] } | null = null;
  for (let round = 0; round < mostRounds; round++) {
    const profile = readProfile(patch, seat, wanted.reachPx + BESIDE_PX, half, wanted.reachPx);
    const curve = followRows(narrowed(profile, wanted.reachPx), kind);
    if (!curve) return null;
    const reach = fitReach(kind, result?.own ?? null, bend);
    const meant = (uPx - seat.uPx) * Math.cos(seat.normal) + (vPx - seat.vPx) * Math.sin(seat.normal);
    const fit =
      kind === 'edge'
        ? fitEdge(profile, curve.rows, reach, curve.parabola, {
            leastRise: wanted.leastContrast,
            meantPx: meant,
            splits: splits && round > 0,
          })
        : fitBand(profile, curve.rows, kind, reach, curve.parabola);
    if (!fit || Math.abs(fit.contrast) < wanted.leastContrast || Math.abs(fit.offset) > wanted.reachPx) return null;
    // The flank of an edge bends light as well; only where both sides are alike is there a line.
    if (kind === 'line' && fit.slant > MOST_SLANT) return null;
    const placed = (step: FittedStep) => place(step, fit, seat, kind, curve.rows.length, patch.lensPx);
    result = { own: placed(fit), beside: fit.beside.map(placed) };
    seat = nearTo(result.own, uPx, vPx);
    // A bend that few rows show is seen the better the further they reach: longer by steps, until it tells where to stop.
    bend = 2 * fit.bend;
    const next = Math.min(wanted.halfLengthPx, halfLengthOf(bend), MOST_GROWTH * half);
    if (round > 0 && next > LONG_ENOUGH * half && next < half / LONG_ENOUGH) break;
    half = next;
  }
  return result;
}

/** Rounds are two for most edges. */
const MOST_ROUNDS = 5;
const MOST_GROWTH = 2;
const LONG_ENOUGH = 0.75;
/**
 * Rows along an edge that bends reach no further than this share of its radius: beyond it a parabola leaves the circle,
 * and the rows, which run straight across, cut it aslant. At a half they leave it by a hundredth of the radius.
 */
const RADIUS_SHARE = 0.5;
/** Six rows are the fewest that a bend can be fitted to. */
const LEAST_HALF_PX = 2.5;

const halfLengthOf = (bend: number): number => Math.max(LEAST_HALF_PX, RADIUS_SHARE / Math.max(1e-9, Math.abs(bend)));

/** A step that was fitted in a band, as a place in the picture. */
function place(
  step: FittedStep,
  { slope, bend, level }: BandFit,
  seat: Seat,
  kind: Located['kind'],
  rows: number,
  lensPx: number,
): Located {
  // The half-level of a blurred curved edge lies s²/2R inside it: the first term of a series, and of a bell's blur only,
  // so that it may be off by as much again.
  const inside = kind === 'edge' ? step.blurPx ** 2 * bend : 0;
  const centre = step.offset - inside;
  const softPx = kind === 'edge' ? Math.hypot(softness(step.blurPx, lensPx), hiddenByShade(step.contrast, level)) : 0;
  // The normal of an edge points to the light.
  const turn = kind === 'edge' && step.contrast < 0 ? Math.PI : 0;
  return {
    kind,
    uPx: seat.uPx + centre * Math.cos(seat.normal),
    vPx: seat.vPx + centre * Math.sin(seat.normal),
    normal: seat.normal - Math.atan(slope) + turn,
    sigmaPx: Math.hypot(step.sigmaPx, MODEL_SIGMA_PX, inside, softPx),
    softPx,
    blurPx: step.blurPx,
    contrast: Math.abs(step.contrast),
    dark: kind === 'line' && step.contrast < 0,
    bend: turn ? -2 * bend : 2 * bend,
    rows,
  };
}

/**
 * Half width of what is fitted about the curve, px: several blurs of an edge, once its blur is known, since how well both
 * levels are known decides as much as the flank itself (three blurs to each side leave 1.6 times the σ of known levels,
 * five 1.25 times); a stroke's own width, leaving out the next stroke.
 */
function fitReach(kind: Located['kind'], before: Located | null, bend: number): number {
  if (kind === 'line') return LINE_REACH_PX;
  // Across a small hole no further than to its middle: beyond it the other side begins.
  const most = Math.min(EDGE_REACH_PX.most, 1 / Math.max(1e-9, Math.abs(bend)));
  const wanted = before ? EDGE_REACH_BLURS * before.blurPx : EDGE_REACH_PX.first;
  return Math.max(EDGE_REACH_PX.least, Math.min(most, wanted));
}

/**
 * What is softer than the picture's sharpest edges, or than any lens makes it, is the rim of a shadow, or a face edge and
 * its foot seen as one: the edge that is meant may lie beside it, further the softer it is.
 */
function softness(blurPx: number, lensPx: number): number {
  const beyondLens = Math.sqrt(Math.max(0, blurPx ** 2 - (SOFT_MARGIN * lensPx) ** 2));
  return Math.max(blurPx - SOFTEST_PX, SOFT_SHARE * beyondLens, 0);
}

/**
 * Two steps g apart in one make it softer by √(w(1 − w)) g, w being their shares, and move it by (1 − w) g. Walls of holes
 * 0.5 mm deep at 20 px/mm moved it by 0.6 of what they made it softer in the mean, shade at a dark rim by up to twice that;
 * nothing is told within a twentieth.
 */
const SOFT_SHARE = 0.75;
/**
 * Where a thing stands on its ground the ground is darker close to the edge. No fit of one step tells that from the step
 * itself where the step is no higher than what shade takes, a share of the ground's light: one σ, px.
 */
function hiddenByShade(contrast: number, level: number): number {
  const high = Math.abs(contrast);
  const brighter = Math.abs(level) + high / 2;
  return Math.min(MOST_HIDDEN_PX, SHADE_PX * (brighter / high) ** 2);
}

/** Chosen by 60 holes whose rims shade moved by up to 2 px, for a step as high as its brighter side is bright. */
const SHADE_PX = 0.06;
const MOST_HIDDEN_PX = 1;
const SOFT_MARGIN = 1.05;

/** Difference of the ground on both sides of a line, in parts of its depth. */
const MOST_SLANT = 0.6;
const EDGE_REACH_PX = { least: 2.5, first: 4, most: 10 } as const;
const EDGE_REACH_BLURS = 5;
const LINE_REACH_PX = 3.5;

/** Slides a seat along its tangent to the place nearest to the one asked. */
function nearTo(seat: Seat, uPx: number, vPx: number): Seat {
  const tx = -Math.sin(seat.normal);
  const ty = Math.cos(seat.normal);
  const along = (uPx - seat.uPx) * tx + (vPx - seat.vPx) * ty;
  return { uPx: seat.uPx + along * tx, vPx: seat.vPx + along * ty, normal: seat.normal };
}
