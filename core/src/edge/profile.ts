import { type Patch, sampleCubic } from '../raster';

/** A place on an edge or ink line with its direction: the normal points from dark to light, or across the line. */
export interface Seat {
  uPx: number;
  vPx: number;
  /** Direction of the normal, rad, in the picture's axes (v down). */
  normal: number;
}

/** Light along the normal in rows a pixel apart along the tangent. NaN where the patch does not reach. */
export interface Profile {
  /** Offsets along the normal, px, in steps of `STEP_PX`. */
  count: number;
  reachPx: number;
  rows: Float64Array[];
  /** Where along the tangent each row stands, px. */
  along: number[];
}

/** Step along the normal: fine enough that a blur of half a pixel is well sampled. */
export const STEP_PX = 0.25;

/** Samples rows across a seat; a row that does not reach as far as `neededPx` to both sides is left out. */
export function readProfile(
  patch: Patch,
  seat: Seat,
  reachPx: number,
  halfLengthPx: number,
  neededPx = reachPx,
): Profile {
  const nx = Math.cos(seat.normal);
  const ny = Math.sin(seat.normal);
  const count = 2 * Math.round(reachPx / STEP_PX) + 1;
  const rows: Float64Array[] = [];
  const along: number[] = [];
  for (let t = -halfLengthPx; t <= halfLengthPx; t++) {
    const row = new Float64Array(count);
    let whole = true;
    for (let k = 0; k < count; k++) {
      const d = k * STEP_PX - reachPx;
      row[k] = sampleCubic(patch, seat.uPx + d * nx - t * ny, seat.vPx + d * ny + t * nx);
      if (Number.isNaN(row[k]) && Math.abs(d) <= neededPx) whole = false;
    }
    if (!whole) continue;
    rows.push(row);
    along.push(t);
  }
  return { count, reachPx, rows, along };
}

/** The middle of each row, without copying. */
export function narrowed(profile: Profile, reachPx: number): Profile {
  const left = Math.round((profile.reachPx - reachPx) / STEP_PX);
  const count = profile.count - 2 * left;
  return { ...profile, count, reachPx, rows: profile.rows.map((row) => row.subarray(left, left + count)) };
}

/** Offset of a sample along the normal, px. */
export const offsetOf = (profile: Profile, k: number): number => k * STEP_PX - profile.reachPx;
