import { backProject } from './backProject';
import { CAMERA, cameraHeightMm, type Lens, prepareCamera } from './camera';
import { type Figure, figureOf, type PlanePick } from './figure';
import { project } from './project';
import { newProjection } from './projection';
import type { Truing } from './truePicture';
import type { PartPoint, PicturePoint, PlaneId } from './yardstick';

/** Zero and the direction of X, as picked; each may be left out. */
export interface Datum {
  zero: PlanePick | null;
  /** A line that runs along X or along Y, from its first pick to its second. */
  axis: { from: PlanePick; to: PlanePick; along: 'x' | 'y' } | null;
  /** Which way the rows of the picture run as it is shown, rad in the world: a quarter turn of it turns them. */
  rows?: number;
  /** The thing is seen from behind: X runs the other way. */
  flip?: boolean;
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
 * Fixes the datum on the truing. The direction is turned by whole quarter turns at most by which way a line was
 * picked: a line along Y has its X a quarter turn back.
 * Degenerate: without a zero, the place pictured in the middle; without an axis, along the picture's rows.
 */
export function planeMap(truing: Truing, datum: Datum, plane: PlaneId, middle: PicturePoint): PlaneMap {
  const zeroPick = datum.zero ?? { ...middle, plane };
  return {
    lens: truing.lens,
    parameters: [...truing.parameters.subarray(0, 8)],
    heightMm: truing.planes[plane].heightMm,
    zero: placeOr(truing, zeroPick, [0, 0]),
    turn: axisTurn(truing, datum),
    flip: datum.flip ?? false,
  };
}

function axisTurn(truing: Truing, { axis, rows = 0 }: Datum): number {
  if (!axis) return rows;
  const from = placeOr(truing, axis.from, null);
  const to = placeOr(truing, axis.to, null);
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

function placeOr<T>(truing: Truing, pick: PicturePoint & { plane: PlaneId }, otherwise: T): [number, number] | T {
  const out = new Float64Array(2);
  const height = truing.planes[pick.plane]?.heightMm ?? 0;
  return backProject(prepareCamera(truing.parameters, truing.lens), pick.uPx, pick.vPx, height, out)
    ? [out[0], out[1]]
    : otherwise;
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
      const x = place[0] - map.zero[0];
      const y = place[1] - map.zero[1];
      return { xMm: way * (cos * x + sin * y), yMm: cos * y - sin * x };
    },
    toPicture({ xMm: shown, yMm }) {
      const xMm = way * shown;
      const x = map.zero[0] + cos * xMm - sin * yMm;
      const y = map.zero[1] + sin * xMm + cos * yMm;
      if (!project(camera, x, y, map.heightMm, forward)) return null;
      return { uPx: forward.picture[0], vPx: forward.picture[1] };
    },
  };
}

/** Millimetres of one pixel on the plane, where the principal ray meets it. */
export function mmPerPx(map: PlaneMap): number {
  if (map.lens === 'page') return Math.exp(-map.parameters[CAMERA.lnC]);
  const camera = prepareCamera(map.parameters);
  return (
    ((cameraHeightMm(camera) - map.heightMm) / cameraHeightMm(camera)) *
    (Math.exp(map.parameters[CAMERA.lnD]) / camera.c)
  );
}

/**
 * Where a pick lies in the datum's frame, X and Y with their ±. The datum adds its own scatter, and the direction of
 * its axis moves a far point by its distance times σθ.
 */
export function positionOf(truing: Truing, datum: Datum, pick: PlanePick): { x: Figure; y: Figure } | null {
  const picks = [pick];
  if (datum.zero) picks.push(datum.zero);
  const zeroAt = datum.zero ? 2 : -1;
  const axisAt = datum.axis ? 2 * picks.length : -1;
  if (datum.axis) picks.push(datum.axis.from, datum.axis.to);
  const along = datum.axis?.along ?? 'x';
  const part = (which: 0 | 1) => (p: Float64Array) => {
    const x = p[0] - (zeroAt < 0 ? 0 : p[zeroAt]);
    const y = p[1] - (zeroAt < 0 ? 0 : p[zeroAt + 1]);
    const rows = datum.rows ?? 0;
    const turn = axisAt < 0 ? rows : axisAngle(p[axisAt], p[axisAt + 1], p[axisAt + 2], p[axisAt + 3], along, rows);
    return which === 0
      ? (datum.flip ? -1 : 1) * (Math.cos(turn) * x + Math.sin(turn) * y)
      : Math.cos(turn) * y - Math.sin(turn) * x;
  };
  const x = figureOf(truing, picks, part(0));
  const y = figureOf(truing, picks, part(1));
  return x && y ? { x, y } : null;
}
