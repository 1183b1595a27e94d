import type { ResidualSink } from '../../../numeric';
import { type PlacedPoint, placePoint } from '../../model/backProject';
import { CAMERA_SIZE, type PreparedCamera } from '../../model/camera';
import { RIGID_SIZE, type RigidTransform, transformPoint } from '../../model/rigidTransform';
import type { PixelPick } from '../reference';

/** What a reference of one kind does in the estimate. `at` is where its own unknowns begin among the parameters. */
export interface Kind<Y> {
  /** How many unknowns of its own it has. */
  unknowns(y: Y): number;
  /** What is assumed of them before the picture is looked at. With `freed` the size is not known at all. */
  addPrior(y: Y, parameters: Float64Array, at: number, sink: ResidualSink, freed: boolean): void;
  /** Writes where they start, by places on the reference's plane; false where it has none. */
  start(y: Y, place: Place, into: Float64Array, at: number): boolean;
  /**
   * Places of it that are the same in every picture that shows it, by its own unknowns, mm; absent where it has none. The
   * more they are and the further apart, the better they tell how one picture lies on another.
   */
  landmarks?(y: Y, parameters: ArrayLike<number>, at: number): readonly (readonly [number, number])[];
  /** Adds its observations; false where the model cannot place its points. */
  observe(y: Y, seen: Seen, at: number): boolean;
  /** Logarithm of its known size over the one found; null for what has no size, undefined where it has no place. */
  logScale(y: Y, place: Place): number | null | undefined;
  /** The same with a part of its places, each standing for those left out. */
  thin(y: Y): Y;
  /** The same with each of many places taken to scatter so many times its σ; null for what has few and lone ones. */
  spread: ((y: Y, times: (pick: PixelPick) => number) => Y) | null;
  /** Picks lie in one place. */
  coincides(y: Y): boolean;
}

/** Where a pick lies on the reference's plane, mm; null where it has no place. */
export type Place = (pick: PixelPick, raiseMm?: number) => readonly [number, number] | null;

/** The model as a reference sees it, with the room to work in, held by whoever poses the problem. */
export interface Seen {
  camera: PreparedCamera;
  /** Where the camera's eight stand among the parameters. */
  cameraAt: ArrayLike<number>;
  /** How the picture's own frame lies on a joint one, where what is observed is seen in several; null in its own. */
  move: RigidTransform | null;
  parameters: Float64Array;
  heightMm: number;
  /** Where the plane's height stands among the parameters, if it is one. */
  heightAt: number | undefined;
  sink: ResidualSink;
  /** Only to tell where a descent leads: nothing is decided place by place yet, which would trap it. */
  roughly: boolean;
  placed: PlacedPoint;
  other: PlacedPoint;
  indices: number[];
  derivatives: number[];
  /** Hears of each observation of a place: how far off it is, mm, and in its σ. */
  tell: ((pick: PixelPick, offMm: number, offSigmas: number) => void) | null;
}

/** Puts a pick onto the reference's plane, raised if asked. */
export function placeSeen(seen: Seen, pick: PixelPick, raiseMm = 0): PlacedPoint | null {
  const placed = placePoint(seen.camera, pick.uPx, pick.vPx, seen.heightMm + raiseMm, seen.placed);
  if (placed && seen.move) transformPoint(placed, seen.move);
  return placed;
}

/**
 * Adds one residual of the point placed last: `residual` in mm, its slope by the place (ex, ey), and by the
 * reference's own unknowns from `at` on, all divided by σ.
 */
export function addPlaced(
  seen: Seen,
  pick: PixelPick,
  ex: number,
  ey: number,
  residual: number,
  ownSigma: number,
  at: number,
  own: ArrayLike<number>,
): void {
  const { cameraAt, heightAt, indices, derivatives, sink, tell } = seen;
  const { byCamera, byHeight } = seen.placed;
  const sigma = ownSigma * (pick.spread ?? 1);
  for (let k = 0; k < CAMERA_SIZE; k++) {
    indices[k] = cameraAt[k]!;
    derivatives[k] = (ex * byCamera[k]! + ey * byCamera[CAMERA_SIZE + k]!) / sigma;
  }
  let n = CAMERA_SIZE;
  if (heightAt !== undefined) {
    indices[n] = heightAt;
    derivatives[n++] = (ex * byHeight[0]! + ey * byHeight[1]!) / sigma;
  }
  if (seen.move) {
    const { at: moveAt, x, y } = seen.move;
    const { place } = seen.placed;
    const slopes = [ey * (place[0]! - x) - ex * (place[1]! - y), ex, ey];
    for (let k = 0; k < RIGID_SIZE; k++) {
      indices[n] = moveAt + k;
      derivatives[n++] = slopes[k]! / sigma;
    }
  }
  for (let k = 0; k < own.length; k++) {
    indices[n] = at + k;
    derivatives[n++] = own[k]! / sigma;
  }
  shorten(seen, n);
  tell?.(pick, residual, residual / sigma);
  sink.add(residual / sigma, indices, derivatives);
}

/** Leaves so many indices and derivatives. Setting a length costs as much as the rest; nearly always it is right. */
export function shorten({ indices, derivatives }: Seen, n: number): void {
  if (indices.length === n) return;
  indices.length = n;
  derivatives.length = n;
}

/** Places that are enough to tell where a descent leads, and how another day's readings would have scattered it. */
export const FEW = 32;

/** Some of a list, evenly spaced, the last one among them. */
export function subsampled<T>(list: readonly T[], every: number): T[] {
  return list.filter((_, k) => k % every === 0);
}

/** Wide enough to say nothing, for what the picture decides: rad, mm, and a share. */
export const LOOSE = { turn: 10, mm: 1e4, share: 3 } as const;

export const logSafe = (known: number, found: number): number | undefined =>
  found > 0 && Number.isFinite(found) ? Math.log(known / found) : undefined;

export const spreading =
  (times: (pick: PixelPick) => number) =>
  (pick: PixelPick): PixelPick => ({ ...pick, spread: times(pick) });

export const apart = (a: PixelPick, b: PixelPick): number => Math.hypot(b.uPx - a.uPx, b.vPx - a.vPx);

/** Adds prior residuals of own unknowns, each about zero. */
export function addOwnPrior(parameters: Float64Array, at: number, sigmas: readonly number[], sink: ResidualSink): void {
  for (let k = 0; k < sigmas.length; k++) sink.add(parameters[at + k]! / sigmas[k]!, [at + k], [1 / sigmas[k]!]);
}
