import { normalRandom, type Random, seededRandom } from '../../numeric';
import type { Calibration, Slots } from '../estimate/calibrate';
import { backProject, type PlacedPoint, placePoint } from '../model/backProject';
import { CAMERA, CAMERA_SIZE, lensStand, type PreparedCamera, prepareCamera } from '../model/camera';
import { type RigidTransform, readRigidTransform, transformPoint } from '../model/rigidTransform';
import type { PixelPick, PlaneId } from '../reference/reference';

/** A picked place on the plane that it stands on. */
export interface PlanePick extends PixelPick {
  plane: PlaneId;
  /** The picture that it was picked in, where it is not the calibration's own but one joined with it. */
  picture?: string;
}

/** A figure and the half width of its 95 % interval, both in the unit of what was measured. */
export interface Figure {
  value: number;
  plusMinus: number;
}

/**
 * Any quantity as a function of places, x0, y0, x1, y1, … in mm, and of where the lens stands: x, y, and its height
 * over the first place's plane, mm. Only what stands up from its plane asks for the lens.
 */
export type Measure = (places: Float64Array, lens: Float64Array) => number;

/** Step of the numeric derivative of a measure, mm: far above rounding, far below any curvature of a part. */
export const MEASURE_STEP_MM = 1e-4;
/** Draws of the picks' own scatter are the same for the same pick, so that a figure does not flicker. */
const PICK_SEED = 77;
export const COVERAGE = 0.95;

/**
 * Measures something on placed picks, with its ±: the calibration's joint covariance carries what all points share, each
 * pick adds its own scatter, and where the calibration has draws they decide.
 *
 * In: picks in px on planes of the calibration, or of pictures joined with it; the measure's places in mm in its world frame.
 * Degenerate: a pick that has no place on its plane (horizon, beyond the lens) gives null.
 */
export function figureOf(calibration: Calibration, picks: readonly PlanePick[], measure: Measure): Figure | null {
  const stands = standsOf(calibration, calibration.parameters, picks);
  const placed: PlacedPoint[] = [];
  for (const [k, pick] of picks.entries()) {
    const { slots, camera, move } = stands[k]!;
    const point = placePoint(camera, pick.uPx, pick.vPx, slots.planes[pick.plane]!.heightMm);
    if (!point) return null;
    if (move) transformPoint(point, move);
    placed.push(point);
  }
  const places = new Float64Array(2 * picks.length);
  for (const [k, p] of placed.entries()) places.set(p.place, 2 * k);
  const lens = lensStand(stands[0]!.camera, stands[0]!.slots.planes[picks[0]!.plane]!.heightMm);
  const value = measure(places, lens);
  const plusMinus = calibration.draws
    ? spreadOfDraws(calibration, calibration.draws, picks, measure, value)
    : firstOrder(calibration, stands, picks, placed, places, lens, measure);
  return { value, plusMinus };
}

/** The camera that a pick was taken with, and how its picture lies on the calibration's frame. */
export interface Stand {
  slots: Slots;
  camera: PreparedCamera;
  move: RigidTransform | null;
}

export function standsOf(calibration: Calibration, parameters: Float64Array, picks: readonly PlanePick[]): Stand[] {
  const made = new Map<Slots, Stand>();
  const own: Slots = { lens: calibration.lens, cameraAt: 0, moveAt: null, planes: calibration.planes };
  return picks.map(({ picture }) => {
    const slots = (picture !== undefined && calibration.joined?.[picture]) || own;
    const stand = made.get(slots) ?? standOn(slots, parameters);
    made.set(slots, stand);
    return stand;
  });
}

/** The camera of a slots as a set of parameters has it. */
export function standOn(slots: Slots, parameters: Float64Array): Stand {
  const camera = prepareCamera(parameters.subarray(slots.cameraAt, slots.cameraAt + CAMERA_SIZE), slots.lens);
  return { slots, camera, move: slots.moveAt === null ? null : readRigidTransform(parameters, slots.moveAt) };
}

function firstOrder(
  calibration: Calibration,
  stands: readonly Stand[],
  picks: readonly PlanePick[],
  placed: PlacedPoint[],
  places: Float64Array,
  lens: Float64Array,
  measure: Measure,
): number {
  const size = calibration.parameters.length;
  const byParameters = new Float64Array(size);
  let ownVariance = 0;
  const at = () => measure(places, lens);
  const byLens = [0, 1, 2].map((k) => slope(at, lens, k));
  addByLens(stands[0]!, picks[0]!.plane, byLens, byParameters);
  for (const [k, pick] of picks.entries()) {
    const gx = slope(at, places, 2 * k);
    const gy = slope(at, places, 2 * k + 1);
    const { byCamera, byHeight, byPicture, place } = placed[k]!;
    const { slots, move } = stands[k]!;
    for (let j = 0; j < CAMERA_SIZE; j++)
      byParameters[slots.cameraAt + j]! += gx * byCamera[j]! + gy * byCamera[CAMERA_SIZE + j]!;
    const heightIndex = slots.planes[pick.plane]!.index;
    if (heightIndex !== null) byParameters[heightIndex]! += gx * byHeight[0]! + gy * byHeight[1]!;
    if (move) {
      byParameters[move.at]! += gy * (place[0]! - move.x) - gx * (place[1]! - move.y);
      byParameters[move.at + 1]! += gx;
      byParameters[move.at + 2]! += gy;
    }
    const byU = gx * byPicture[0]! + gy * byPicture[2]!;
    const byV = gx * byPicture[1]! + gy * byPicture[3]!;
    ownVariance += (byU * byU + byV * byV) * pick.sigmaPx * pick.sigmaPx;
  }
  return 2 * Math.sqrt(quadraticForm(calibration.covariance, byParameters) + ownVariance);
}

function slope(measure: () => number, of: Float64Array, at: number): number {
  const kept = of[at]!;
  of[at] = kept + MEASURE_STEP_MM;
  const plus = measure();
  of[at] = kept - MEASURE_STEP_MM;
  const minus = measure();
  of[at] = kept;
  return (plus - minus) / (2 * MEASURE_STEP_MM);
}

/** What the lens's place adds to the slopes of a measure by the parameters. */
function addByLens(
  { slots: { cameraAt, planes }, camera: { turn, turnByA, turnByB, distanceMm } }: Stand,
  plane: PlaneId,
  byLens: readonly number[],
  byParameters: Float64Array,
): void {
  if (byLens.every((g) => g === 0)) return;
  for (const [k, g] of byLens.entries()) {
    byParameters[cameraAt + CAMERA.a]! += g * turnByA[6 + k]! * distanceMm;
    byParameters[cameraAt + CAMERA.b]! += g * turnByB[6 + k]! * distanceMm;
    byParameters[cameraAt + CAMERA.lnD]! += g * turn[6 + k]! * distanceMm;
  }
  const { index } = planes[plane]!;
  if (index !== null) byParameters[index]! -= byLens[2]!;
}

export function quadraticForm(matrix: Float64Array, vector: Float64Array): number {
  let sum = 0;
  const size = vector.length;
  for (let i = 0; i < size; i++) {
    if (vector[i] === 0) continue;
    for (let j = 0; j < size; j++) sum += vector[i]! * vector[j]! * matrix[i * size + j]!;
  }
  return sum;
}

/** The half width about the value told that holds 95 % of the draws: honest also when they lie to one side. */
function spreadOfDraws(
  calibration: Calibration,
  draws: Float64Array[],
  picks: readonly PlanePick[],
  measure: Measure,
  value: number,
): number {
  const normal = normalRandom(seededRandom(PICK_SEED));
  const places = new Float64Array(2 * picks.length);
  const away: number[] = [];
  for (const parameters of draws) {
    const stands = standsOf(calibration, parameters, picks);
    const all = picks.every((pick, k) =>
      placeScattered(stands[k]!, parameters, pick, normal, places.subarray(2 * k, 2 * k + 2)),
    );
    const lens = lensStand(stands[0]!.camera, heightIn(stands[0]!.slots, parameters, picks[0]!.plane));
    away.push(all ? Math.abs(measure(places, lens) - value) : Number.POSITIVE_INFINITY);
  }
  away.sort((a, b) => a - b);
  return away[Math.min(away.length - 1, Math.ceil(COVERAGE * (away.length + 1)) - 1)]!;
}

function placeScattered(
  { slots, camera, move }: Stand,
  parameters: Float64Array,
  pick: PlanePick,
  normal: Random,
  out: Float64Array,
): boolean {
  const height = heightIn(slots, parameters, pick.plane);
  const [u, v] = [pick.uPx + pick.sigmaPx * normal(), pick.vPx + pick.sigmaPx * normal()];
  if (!backProject(camera, u, v, height, out)) return false;
  if (move) {
    const [x, y] = [out[0]!, out[1]!];
    out[0] = move.cos * x - move.sin * y + move.x;
    out[1] = move.sin * x + move.cos * y + move.y;
  }
  return true;
}

export function heightIn({ planes }: Slots, parameters: Float64Array, plane: PlaneId): number {
  const { heightMm, index } = planes[plane]!;
  return index === null ? heightMm : parameters[index]!;
}

/** Distance between the first two places, mm. */
export const distance: Measure = (p) => Math.hypot(p[2]! - p[0]!, p[3]! - p[1]!);
