import { factorCholesky, type ResidualSink } from '../../numeric';
import { CAMERA } from './camera';

/** What a saved camera knows, in this order: ln c focused far away, the middle, px, and both radial terms. */
export const SAVED_SIZE = 5;
const AT = [CAMERA.lnC, CAMERA.cx, CAMERA.cy, CAMERA.k1, CAMERA.k2];

/** How well a check leaves a camera known another day, σ: ln c, the middle, px, both radial terms. */
export const CHECKED_SIGMAS = [0.0018, 4.5, 4.5, 0.0012, 0.003] as const;

/** A camera that was checked with pictures of a grid, at one zoom and picture size. */
export interface SavedCamera {
  mean: number[];
  /** SAVED_SIZE × SAVED_SIZE, row by row. */
  covariance: number[];
}

/** A saved camera ready to be used in each descent: the inverse of the covariance's factor, row by row. */
export interface PreparedSaved {
  mean: number[];
  whiten: Float64Array;
}

/** Null where the covariance is none. */
export function prepareSaved({ mean, covariance }: SavedCamera): PreparedSaved | null {
  const factor = Float64Array.from(covariance);
  if (!factorCholesky(factor, SAVED_SIZE)) return null;
  const whiten = new Float64Array(SAVED_SIZE * SAVED_SIZE);
  for (let column = 0; column < SAVED_SIZE; column++)
    for (let row = column; row < SAVED_SIZE; row++) {
      let sum = row === column ? 1 : 0;
      for (let k = column; k < row; k++) sum -= factor[row * SAVED_SIZE + k]! * whiten[k * SAVED_SIZE + column]!;
      whiten[row * SAVED_SIZE + column] = sum / factor[row * SAVED_SIZE + row]!;
    }
  return { mean, whiten };
}

/** Focused near, a lens of f stands f·D / (D − f) before the picture: ln(1 − f/D), and its slope by ln D. */
export function focusShift(focalMm: number | null, lnD: number): { shift: number; byLnD: number } {
  const near = focalMm ? focalMm / Math.exp(lnD) : 0;
  // Beyond half of D the thin-lens formula is past life size, which no camera of this use reaches.
  return near < MOST_FOCUS_SHARE ? { shift: Math.log(1 - near), byLnD: near / (1 - near) } : { shift: 0, byLnD: 0 };
}

const MOST_FOCUS_SHARE = 0.5;

/** Adds what a saved camera knows, as five residuals that are free of each other. */
export function addSavedPrior(
  parameters: Float64Array,
  { mean, whiten }: PreparedSaved,
  focalMm: number | null,
  sink: ResidualSink,
): void {
  const focus = focusShift(focalMm, parameters[CAMERA.lnD]!);
  const off = AT.map((index, k) => parameters[index]! - mean[k]! + (k === 0 ? focus.shift : 0));
  const indices = [...AT, CAMERA.lnD];
  for (let row = 0; row < SAVED_SIZE; row++) {
    let residual = 0;
    const slopes = [0, 0, 0, 0, 0, 0];
    for (let k = 0; k <= row; k++) {
      const w = whiten[row * SAVED_SIZE + k]!;
      residual += w * off[k]!;
      slopes[k] = w;
    }
    slopes[SAVED_SIZE] = slopes[0]! * focus.byLnD;
    sink.add(residual, indices, slopes);
  }
}
