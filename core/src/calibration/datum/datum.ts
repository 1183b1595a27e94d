import { taubin } from '../../fit';
import type { Calibration } from '../estimate/calibrate';
import { backProject } from '../model/backProject';
import { CAMERA, cameraHeightMm, type Lens, prepareCamera } from '../model/camera';
import { type Frame, slopesInWorld } from '../model/frame';
import { project } from '../model/project';
import { newProjection } from '../model/projection';
import { readRigidTransform, transformedBack } from '../model/rigidTransform';
import type { PartPoint, PicturePoint, PlaneId } from '../reference/reference';
import { type Figure, figureOf, type PlanePick } from '../uncertainty/figure';

/**
 * A place of the datum: a pick; the crossing of two edges, two picks on each; the centre of a hole, picks on its rim; a
 * place on the line halfway between two opposite edges, two picks on each, beside the first edge's first or second pick.
 */
export type DatumPlace =
  | PlanePick
  | { crossing: readonly PlanePick[] }
  | { rim: readonly PlanePick[] }
  | { edges: readonly PlanePick[]; end: 0 | 1 };

/** Zero and the direction of X, as picked; each may be left out. */
export interface Datum {
  zero: DatumPlace | null;
  /** A line that runs along X or along Y, from its first place to its second. */
  axis: { from: DatumPlace; to: DatumPlace; along: 'x' | 'y' } | null;
  /** Which way the rows of the picture run as it is shown, rad in the world: a quarter turn of it turns them. */
  rows?: number;
  /** The thing is seen from behind: X runs the other way. */
  flip?: boolean;
  /** Where this zero lies on the part, mm, and how this X is turned there, rad; the part's own where nothing is said. */
  laid?: Laid;
}

export interface Laid {
  xMm: number;
  yMm: number;
  turnRad: number;
}

/**
 * The settled map between a picture and the part's plane: plain numbers, cheap to send and to use at every pointer
 * move. Part frame: mm, origin and X of the datum, y up as on a drawing.
 */
export interface PlaneMap {
  lens: Lens;
  parameters: number[];
  heightMm: number;
  /** World place of the datum's zero, mm. */
  zero: [number, number];
  /** Direction of X in the world, rad. */
  turn: number;
  /** The thing is seen from behind: X runs against `turn`. */
  flip: boolean;
}

/**
 * Fixes the datum on the calibration. The direction is turned by whole quarter turns at most by which way a line was
 * picked: a line along Y has its X a quarter turn back.
 * Degenerate: without a zero, the place pictured in the middle; without an axis, along the picture's rows.
 */
export function planeMap(calibration: Calibration, datum: Datum, plane: PlaneId, middle: PicturePoint): PlaneMap {
  const zeroPick = datum.zero ?? { ...middle, plane, sigmaPx: 0 };
  const own: OwnFrame = {
    zero: placeOr<[number, number]>(calibration, zeroPick, [0, 0]),
    turn: axisTurn(calibration, datum),
    flip: datum.flip ?? false,
  };
  return {
    lens: calibration.lens,
    parameters: [...calibration.parameters.subarray(0, 8)],
    heightMm: calibration.planes[plane]!.heightMm,
    ...(datum.laid ? laidFrame(own, datum.laid) : own),
  };
}

/** A frame in which the given one lies so: its zero at that place, its X turned by so much. */
function laidFrame({ zero, turn, flip }: OwnFrame, { xMm, yMm, turnRad }: Laid): OwnFrame {
  // Seen from behind, what turns left there turns right in the world.
  const turned = turn - (flip ? -1 : 1) * turnRad;
  const [dx, dy] = slopesInWorld({ zero, turn: turned, flip }, xMm, yMm);
  return { zero: [zero[0] - dx, zero[1] - dy], turn: turned, flip };
}

type OwnFrame = Pick<PlaneMap, 'zero' | 'turn' | 'flip'>;

/** How the part's frame lies in the world of its calibration, to measure what depends on it. */
export interface PartFrame extends Frame {
  /** What it was taken from; its own scatter counts too. */
  datum: Datum;
  /** The picture that the datum was picked in. */
  picture: string;
}

/** The picks that a datum is taken from: zero's, then those of its axis. */
export const picksOfDatum = ({ datum: { zero, axis }, picture }: PartFrame): PlanePick[] =>
  [zero, axis?.from, axis?.to].flatMap((place) => (place ? picksOf(place).map((p) => ({ ...p, picture })) : []));

/**
 * Where the datum lies by where its picks are in the part's frame, x0, y0, x1, y1, … from `at` on: zero and the direction
 * of X, all of them nothing where the picks are where they were seen.
 */
export function datumBy(
  { zero, axis, laid = AS_IT_IS }: Datum,
  p: ArrayLike<number>,
  at: number,
): { x: number; y: number; turn: number } {
  const { xMm, yMm, turnRad } = laid;
  const [x, y] = zero ? settlePlace(zero, p, at) : [xMm, yMm];
  const from = at + 2 * (zero ? picksOf(zero).length : 0);
  const ends = axis && [settlePlace(axis.from, p, from), settlePlace(axis.to, p, from + 2 * picksOf(axis.from).length)];
  const turn = axis && ends ? axisAngle(...ends[0]!, ...ends[1]!, axis.along, turnRad) - turnRad : 0;
  // What moved is the datum; the part lies from it as it was laid.
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  return { x: x - (cos * xMm - sin * yMm), y: y - (sin * xMm + cos * yMm), turn };
}

const AS_IT_IS: Laid = { xMm: 0, yMm: 0, turnRad: 0 };

function axisTurn(calibration: Calibration, { axis, rows = 0 }: Datum): number {
  if (!axis) return rows;
  const from = placeOr(calibration, axis.from, null);
  const to = placeOr(calibration, axis.to, null);
  if (!from || !to) return rows;
  return axisAngle(from[0], from[1], to[0], to[1], axis.along, rows);
}

/**
 * Direction of X from a line along X or Y. Which end was picked first does not turn the part on its head: X is taken
 * within a quarter turn of the picture's rows, as a person expects who only says "this runs along X".
 */
function axisAngle(x0: number, y0: number, x1: number, y1: number, along: 'x' | 'y', rows: number): number {
  const raw = Math.atan2(y1 - y0, x1 - x0) - (along === 'y' ? Math.PI / 2 : 0);
  return raw - Math.PI * Math.round((raw - rows) / Math.PI);
}

function placeOr<T>(calibration: Calibration, place: DatumPlace, otherwise: T): [number, number] | T {
  const out = new Float64Array(2);
  const camera = prepareCamera(calibration.parameters, calibration.lens);
  const picks = picksOf(place);
  const places = new Float64Array(2 * picks.length);
  for (const [k, pick] of picks.entries()) {
    if (!backProject(camera, pick.uPx, pick.vPx, calibration.planes[pick.plane]?.heightMm ?? 0, out)) return otherwise;
    places.set(out, 2 * k);
  }
  const settled = settlePlace(place, places, 0);
  return Number.isFinite(settled[0] + settled[1]) ? settled : otherwise;
}

/** The picks that a place of the datum is made of. */
const picksOf = (place: DatumPlace): readonly PlanePick[] =>
  'crossing' in place ? place.crossing : 'rim' in place ? place.rim : 'edges' in place ? place.edges : [place];

/** Where a place of the datum is, from where its picks are: x0, y0, x1, y1, … mm; NaN where two edges do not cross. */
function settlePlace(place: DatumPlace, p: ArrayLike<number>, at: number): [number, number] {
  if ('crossing' in place) {
    const [dx, dy] = [p[at + 2]! - p[at]!, p[at + 3]! - p[at + 1]!];
    const [ex, ey] = [p[at + 6]! - p[at + 4]!, p[at + 7]! - p[at + 5]!];
    const det = dx * ey - dy * ex;
    const t = ((p[at + 4]! - p[at]!) * ey - (p[at + 5]! - p[at + 1]!) * ex) / det;
    return [p[at]! + t * dx, p[at + 1]! + t * dy];
  }
  if ('rim' in place) {
    const points = place.rim.map((_, k) => ({ x: p[at + 2 * k]!, y: p[at + 2 * k + 1]! }));
    const circle = taubin(points);
    return circle ? [circle.centre.x, circle.centre.y] : [Number.NaN, Number.NaN];
  }
  if ('edges' in place) return halfway(p, at, place.end);
  return [p[at]!, p[at + 1]!];
}

/** On the line that halves the angle between two edges, square across from an end of the first. */
function halfway(p: ArrayLike<number>, at: number, end: 0 | 1): [number, number] {
  const unit = (k: number): [number, number] => {
    const [x, y] = [p[at + k + 2]! - p[at + k]!, p[at + k + 3]! - p[at + k + 1]!];
    return [x / Math.hypot(x, y), y / Math.hypot(x, y)];
  };
  const [ax, ay] = unit(0);
  let [bx, by] = unit(4);
  // Both edges one way about, however they were picked.
  if (ax * bx + ay * by < 0) [bx, by] = [-bx, -by];
  const [cx, cy] = [ax + bx, ay + by];
  const [x, y] = [p[at + 2 * end]!, p[at + 2 * end + 1]!];
  // The other edge's place with the same way along.
  const t = ((x - p[at + 4]!) * cx + (y - p[at + 5]!) * cy) / (bx * cx + by * cy);
  return [(x + p[at + 4]! + t * bx) / 2, (y + p[at + 5]! + t * by) / 2];
}

/**
 * The map of a picture that is joined with others onto the frame and datum of the first: `first` is that one's map,
 * `move` lays this picture's own frame onto that one's.
 */
export function joinedMap(
  calibration: Calibration,
  plane: PlaneId,
  first: PlaneMap,
  move: ArrayLike<number>,
): PlaneMap {
  return {
    lens: calibration.lens,
    parameters: [...calibration.parameters.subarray(0, 8)],
    heightMm: calibration.planes[plane]!.heightMm,
    zero: transformedBack(readRigidTransform(move, 0), ...first.zero),
    turn: first.turn - move[0]!,
    flip: first.flip,
  };
}

/** A `PlaneMap` ready to map many points. */
export interface PlaneMapper {
  /** Picture px to part mm, null where there is no place. */
  toPart(point: PicturePoint): PartPoint | null;
  /** Part mm to picture px, null behind the lens. */
  toPicture(point: PartPoint): PicturePoint | null;
}

export function planeMapper(map: PlaneMap): PlaneMapper {
  const camera = prepareCamera(map.parameters, map.lens);
  const way = map.flip ? -1 : 1;
  const cos = Math.cos(map.turn);
  const sin = Math.sin(map.turn);
  const place = new Float64Array(2);
  const forward = newProjection();
  return {
    toPart({ uPx, vPx }) {
      if (!backProject(camera, uPx, vPx, map.heightMm, place)) return null;
      const x = place[0]! - map.zero[0];
      const y = place[1]! - map.zero[1];
      return { xMm: way * (cos * x + sin * y), yMm: cos * y - sin * x };
    },
    toPicture({ xMm: shown, yMm }) {
      const xMm = way * shown;
      const x = map.zero[0] + cos * xMm - sin * yMm;
      const y = map.zero[1] + sin * xMm + cos * yMm;
      if (!project(camera, x, y, map.heightMm, forward)) return null;
      return { uPx: forward.picture[0]!, vPx: forward.picture[1]! };
    },
  };
}

/** Where the lens of a photograph stands in the part's frame: x, y, and its height over the map's plane, mm. */
export function lensOver(map: PlaneMap): [number, number, number] {
  const { turn, distanceMm } = prepareCamera(map.parameters, map.lens);
  const [x, y] = [turn[6]! * distanceMm - map.zero[0], turn[7]! * distanceMm - map.zero[1]];
  const [cos, sin] = [Math.cos(map.turn), Math.sin(map.turn)];
  return [(map.flip ? -1 : 1) * (cos * x + sin * y), cos * y - sin * x, turn[8]! * distanceMm - map.heightMm];
}

/** Millimetres of one pixel on the plane, where the principal ray meets it. */
export function mmPerPx(map: PlaneMap): number {
  if (map.lens === 'page') return Math.exp(-map.parameters[CAMERA.lnC]!);
  const camera = prepareCamera(map.parameters);
  return (
    ((cameraHeightMm(camera) - map.heightMm) / cameraHeightMm(camera)) *
    (Math.exp(map.parameters[CAMERA.lnD]!) / camera.c)
  );
}

/**
 * Where a pick lies in the datum's frame, X and Y with their ±. The datum adds its own scatter, and the direction of
 * its axis moves a far point by its distance times σθ.
 */
export function positionOf(calibration: Calibration, datum: Datum, pick: PlanePick): { x: Figure; y: Figure } | null {
  const { zero, axis, rows = 0, flip = false } = datum;
  const picks: PlanePick[] = [pick];
  const add = (place: DatumPlace): number => {
    const at = 2 * picks.length;
    picks.push(...picksOf(place));
    return at;
  };
  const zeroAt = zero ? add(zero) : 0;
  const [fromAt, toAt] = axis ? [add(axis.from), add(axis.to)] : [0, 0];
  const part = (which: 0 | 1) => (p: Float64Array) => {
    const [x0, y0] = zero ? settlePlace(zero, p, zeroAt) : [0, 0];
    const [x, y] = [p[0]! - x0, p[1]! - y0];
    const turn = axis
      ? axisAngle(...settlePlace(axis.from, p, fromAt), ...settlePlace(axis.to, p, toAt), axis.along, rows)
      : rows;
    return which === 0
      ? (flip ? -1 : 1) * (Math.cos(turn) * x + Math.sin(turn) * y)
      : Math.cos(turn) * y - Math.sin(turn) * x;
  };
  const x = figureOf(calibration, picks, part(0));
  const y = figureOf(calibration, picks, part(1));
  return x && y ? { x, y } : null;
}
