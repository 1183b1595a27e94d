import { CAMERA, CAMERA_SIZE, type PreparedCamera, prepareCamera } from '../../model/camera';
import type { PixelPick } from '../reference';
import { type Seen, shorten } from './kind';

/** Steps for the slopes of a figure by the camera's numbers: ln c; the middle, px; distortion; tilt, rad; ln D. */
const STEPS: Record<keyof typeof CAMERA, number> = {
  lnC: 1e-5,
  cx: 1e-2,
  cy: 1e-2,
  k1: 1e-5,
  k2: 1e-5,
  a: 1e-5,
  b: 1e-5,
  lnD: 1e-5,
};
const HEIGHT_STEP_MM = 1e-3;

/** A figure that is known: what a camera makes of it over its plane, mm, NaN where it sees none; and what it is. */
export interface KnownFigure {
  of(camera: PreparedCamera, heightMm: number): number;
  knownMm: number;
  sigmaMm: number;
  /** Where its deviation is told. */
  at: PixelPick;
}

/** Adds one observation of a known figure, its slopes by differences: nine pairs. False where it has no place. */
export function observeByDifferences({ of, knownMm, sigmaMm, at: pick }: KnownFigure, seen: Seen): boolean {
  const { camera, heightMm, cameraAt, heightAt, parameters, indices, derivatives } = seen;
  const found = of(camera, heightMm);
  if (!Number.isFinite(found)) return false;
  const numbers = Float64Array.from({ length: CAMERA_SIZE }, (_, k) => parameters[cameraAt[k]!]!);
  for (const [name, k] of Object.entries(CAMERA) as [keyof typeof CAMERA, number][]) {
    const at = (step: number): number => {
      const moved = numbers.slice();
      moved[k]! += step;
      return of(prepareCamera(moved, camera.lens), heightMm);
    };
    indices[k] = cameraAt[k]!;
    derivatives[k] = (at(STEPS[name]) - at(-STEPS[name])) / (2 * STEPS[name] * sigmaMm);
  }
  let n = CAMERA_SIZE;
  if (heightAt !== undefined) {
    const at = (step: number): number => of(camera, heightMm + step);
    indices[n] = heightAt;
    derivatives[n++] = (at(HEIGHT_STEP_MM) - at(-HEIGHT_STEP_MM)) / (2 * HEIGHT_STEP_MM * sigmaMm);
  }
  shorten(seen, n);
  if (derivatives.some((d) => !Number.isFinite(d))) return false;
  const off = found - knownMm;
  seen.tell?.(pick, off, off / sigmaMm);
  seen.sink.add(off / sigmaMm, indices, derivatives);
  return true;
}
