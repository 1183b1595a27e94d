import type { Calibration } from '../estimate/calibrate';
import { backProject, newPlacedPoint, type PlacedPoint, placePoint } from '../model/backProject';
import { CAMERA_SIZE } from '../model/camera';
import { type Frame, placeInFrame, slopesInWorld } from '../model/frame';
import { transformPoint } from '../model/rigidTransform';
import {
  COVERAGE,
  type Figure,
  heightIn,
  MEASURE_STEP_MM,
  type PlanePick,
  quadraticForm,
  type Stand,
  standOn,
  standsOf,
} from './figure';

/** A quantity as a function of a few places, x0, y0, x1, y1, … in mm. */
export type LocalMeasure = (places: Float64Array) => number;

/**
 * Picks placed once, for many figures that each depend on a few of them: a figure costs what its own places cost.
 * Draws, where the calibration has them, scatter each pick alike in every figure.
 */
export interface PlacedPicks {
  calibration: Calibration;
  picks: readonly PlanePick[];
  stands: readonly Stand[];
  /** The frame that their places are told in; null for that of the calibration. */
  frame: Frame | null;
  placed: readonly PlacedPoint[];
  /** Which of the allSlots each pick was taken from, and each slots's camera in each draw; null where the covariance decides. */
  slotsAt: readonly number[];
  draws: readonly (readonly Stand[])[] | null;
  /** Drawn places of a pick, x and y for each draw, NaN where it has none; worked out when first asked for. */
  drawn: (Float64Array | undefined)[];
  /** By the pick, in the frame: where it goes when more holds it than what was seen of it alone. */
  held: ReadonlyMap<number, HeldPlace> | null;
}

/** A place that follows others: at first order. */
export interface HeldPlace {
  x: number;
  y: number;
  /** Picks that it follows, and how: xx, xy, yx, yy. */
  by: readonly { pick: number; slopes: readonly [number, number, number, number] }[];
}

/** Up to so many picks keep their drawn places, 6 kB each; those of longer runs are worked out again for each figure. */
const MOST_KEPT = 5000;

/**
 * Places picks on their planes, for figures in a frame; null where one has no place (horizon, beyond the lens).
 */
export function placePicks(
  calibration: Calibration,
  picks: readonly PlanePick[],
  frame: Frame | null = null,
): PlacedPicks | null {
  const stands = standsOf(calibration, calibration.parameters, picks);
  const placed: PlacedPoint[] = [];
  for (const [k, pick] of picks.entries()) {
    const { slots, camera, move } = stands[k]!;
    const point = placePoint(camera, pick.uPx, pick.vPx, slots.planes[pick.plane]!.heightMm, newPlacedPoint());
    if (!point) return null;
    if (move) transformPoint(point, move);
    placed.push(point);
  }
  const allSlots = [...new Set(stands.map((s) => s.slots))];
  const slotsAt = stands.map((s) => allSlots.indexOf(s.slots));
  const draws = calibration.draws?.map((parameters) => allSlots.map((slots) => standOn(slots, parameters))) ?? null;
  return { calibration, picks, stands, frame, placed, slotsAt, draws, drawn: new Array(picks.length), held: null };
}

/** Where a pick lies in the frame, as it was seen. */
export function placeOfPick({ placed, frame }: PlacedPicks, k: number): [number, number] {
  const [x, y] = placed[k]!.place as ArrayLike<number> as [number, number];
  return frame ? placeInFrame(frame, x, y) : [x, y];
}

/** A figure that depends on these picks alone, named by their numbers, each once. */
export function figureAt(all: PlacedPicks, at: readonly number[], measure: LocalMeasure): Figure {
  return sumAt(all, [at], () => measure);
}

/**
 * The sum of measures, each on a few picks, as one figure: a length or an area round a run of thousands costs one
 * derivative for each of its pieces' own places.
 */
export function sumAt(
  all: PlacedPicks,
  terms: readonly (readonly number[])[],
  measureOf: (term: number) => LocalMeasure,
  finish: (sum: number) => number = (sum) => sum,
): Figure {
  const scratch = new Float64Array(2 * Math.max(...terms.map((t) => t.length), 0));
  let sum = 0;
  for (const [k, at] of terms.entries()) sum += measureOf(k)(gather(all, at, scratch));
  const value = finish(sum);
  const plusMinus = all.draws
    ? spread(all, all.draws, terms, measureOf, finish, value, scratch)
    : firstOrder(all, terms, measureOf, scratch);
  return { value, plusMinus };
}

function gather(all: PlacedPicks, at: readonly number[], scratch: Float64Array): Float64Array {
  const places = scratch.subarray(0, 2 * at.length);
  for (let j = 0; j < at.length; j++) {
    const own = all.held?.get(at[j]!);
    if (!own) {
      places.set(placeOfPick(all, at[j]!), 2 * j);
      continue;
    }
    places[2 * j] = own.x;
    places[2 * j + 1] = own.y;
  }
  return places;
}

/** Slopes by each place are added up first, so that what neighbouring pieces share counts once and with its sign. */
function firstOrder(
  all: PlacedPicks,
  terms: readonly (readonly number[])[],
  measureOf: (term: number) => LocalMeasure,
  scratch: Float64Array,
): number {
  const { calibration, picks, stands, placed } = all;
  const slopes = new Map<number, [number, number]>();
  for (const [k, at] of terms.entries()) {
    const measure = measureOf(k);
    const places = gather(all, at, scratch);
    for (let j = 0; j < at.length; j++) {
      const own = slopes.get(at[j]!) ?? [0, 0];
      own[0] += slope(measure, places, 2 * j);
      own[1] += slope(measure, places, 2 * j + 1);
      slopes.set(at[j]!, own);
    }
  }
  const byParameters = new Float64Array(calibration.parameters.length);
  let ownVariance = 0;
  for (const [k, inFrame] of throughHeld(all, slopes)) {
    const [gx, gy] = all.frame ? slopesInWorld(all.frame, ...inFrame) : inFrame;
    const { byCamera, byHeight, byPicture, place } = placed[k]!;
    const { slots, move } = stands[k]!;
    for (let j = 0; j < CAMERA_SIZE; j++)
      byParameters[slots.cameraAt + j]! += gx * byCamera[j]! + gy * byCamera[CAMERA_SIZE + j]!;
    const { index } = slots.planes[picks[k]!.plane]!;
    if (index !== null) byParameters[index]! += gx * byHeight[0]! + gy * byHeight[1]!;
    if (move) {
      byParameters[move.at]! += gy * (place[0]! - move.x) - gx * (place[1]! - move.y);
      byParameters[move.at + 1]! += gx;
      byParameters[move.at + 2]! += gy;
    }
    const byU = gx * byPicture[0]! + gy * byPicture[2]!;
    const byV = gx * byPicture[1]! + gy * byPicture[3]!;
    ownVariance += (byU * byU + byV * byV) * picks[k]!.sigmaPx * picks[k]!.sigmaPx;
  }
  return 2 * Math.sqrt(quadraticForm(calibration.covariance, byParameters) + ownVariance);
}

/** Slopes by where picks are, as slopes by where they were seen. */
function throughHeld(
  { held }: PlacedPicks,
  slopes: ReadonlyMap<number, [number, number]>,
): ReadonlyMap<number, [number, number]> {
  if (!held) return slopes;
  const through = new Map<number, [number, number]>();
  const add = (k: number, gx: number, gy: number) => {
    const own = through.get(k) ?? [0, 0];
    through.set(k, [own[0] + gx, own[1] + gy]);
  };
  for (const [k, [gx, gy]] of slopes) {
    const own = held.get(k);
    if (!own) add(k, gx, gy);
    else for (const { pick, slopes: s } of own.by) add(pick, gx * s[0] + gy * s[2], gx * s[1] + gy * s[3]);
  }
  return through;
}

function slope(measure: LocalMeasure, places: Float64Array, at: number): number {
  const kept = places[at]!;
  places[at] = kept + MEASURE_STEP_MM;
  const plus = measure(places);
  places[at] = kept - MEASURE_STEP_MM;
  const minus = measure(places);
  places[at] = kept;
  return (plus - minus) / (2 * MEASURE_STEP_MM);
}

function spread(
  all: PlacedPicks,
  draws: readonly (readonly Stand[])[],
  terms: readonly (readonly number[])[],
  measureOf: (term: number) => LocalMeasure,
  finish: (sum: number) => number,
  value: number,
  scratch: Float64Array,
): number {
  const sums = new Float64Array(draws.length);
  for (const [k, at] of terms.entries()) {
    const measure = measureOf(k);
    const drawn = at.map((pick) => drawnHeld(all, draws, pick));
    const places = scratch.subarray(0, 2 * at.length);
    for (let d = 0; d < draws.length; d++) {
      for (let j = 0; j < at.length; j++) {
        places[2 * j] = drawn[j]![2 * d]!;
        places[2 * j + 1] = drawn[j]![2 * d + 1]!;
      }
      sums[d]! += measure(places);
    }
  }
  const away = sums.map((sum) => {
    const off = Math.abs(finish(sum) - value);
    // A draw in which something has no place counts as endlessly far.
    return Number.isNaN(off) ? Number.POSITIVE_INFINITY : off;
  });
  away.sort();
  return away[Math.min(away.length - 1, Math.ceil(COVERAGE * (away.length + 1)) - 1)]!;
}

/** Drawn places of a pick, where others hold it too. */
function drawnHeld(all: PlacedPicks, draws: readonly (readonly Stand[])[], k: number): Float64Array {
  const own = all.held?.get(k);
  if (!own) return drawnPlaces(all, draws, k);
  const out = new Float64Array(2 * draws.length);
  for (let d = 0; d < draws.length; d++) {
    out[2 * d] = own.x;
    out[2 * d + 1] = own.y;
  }
  for (const { pick, slopes } of own.by) {
    const drawn = drawnPlaces(all, draws, pick);
    const [x, y] = placeOfPick(all, pick);
    for (let d = 0; d < draws.length; d++) {
      const [dx, dy] = [drawn[2 * d]! - x, drawn[2 * d + 1]! - y];
      out[2 * d]! += slopes[0] * dx + slopes[1] * dy;
      out[2 * d + 1]! += slopes[2] * dx + slopes[3] * dy;
    }
  }
  return out;
}

function drawnPlaces(all: PlacedPicks, draws: readonly (readonly Stand[])[], k: number): Float64Array {
  const known = all.drawn[k];
  if (known) return known;
  const { calibration, picks } = all;
  const { uPx, vPx, sigmaPx, plane } = picks[k]!;
  const out = new Float64Array(2 * draws.length).fill(Number.NaN);
  const place = new Float64Array(2);
  const slots = all.slotsAt[k]!;
  for (let d = 0; d < draws.length; d++) {
    const stand = draws[d]![slots]!;
    const heightMm = heightIn(stand.slots, (calibration.draws as Float64Array[])[d]!, plane);
    // Two standard normal numbers, the same whenever they are asked for, in whatever order (Box & Muller 1958).
    const radius = sigmaPx * Math.sqrt(-2 * Math.log(1 - uniform(2 * k, d)));
    const angle = 2 * Math.PI * uniform(2 * k + 1, d);
    const [u, v] = [uPx + radius * Math.cos(angle), vPx + radius * Math.sin(angle)];
    if (!backProject(stand.camera, u, v, heightMm, place)) continue;
    const { move } = stand;
    const x = move ? move.cos * place[0]! - move.sin * place[1]! + move.x : place[0]!;
    const y = move ? move.sin * place[0]! + move.cos * place[1]! + move.y : place[1]!;
    out.set(all.frame ? placeInFrame(all.frame, x, y) : [x, y], 2 * d);
  }
  if (picks.length <= MOST_KEPT) all.drawn[k] = out;
  return out;
}

/** A number in [0, 1) from two counters (the finaliser of MurmurHash3, public domain). */
function uniform(a: number, b: number): number {
  let h = Math.imul(a + 0x9e3779b9, 0x85ebca6b) ^ Math.imul(b + 0x7f4a7c15, 0xc2b2ae35);
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return ((h ^ (h >>> 16)) >>> 0) / 4294967296;
}
