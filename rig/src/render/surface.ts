import type { Outline } from '../scene';
import { buildGrain, type Grain } from './noise';

/** What a ray met: a number for each kind of place, so that borders between places are known, and its light. */
export interface Surface {
  outline: Outline;
  /** Writes linear light at a place of the top face (own mm) into `out`, and tells which kind of place it is. */
  shade(x: number, y: number, out: Float64Array): number;
  /** Light of the side wall. */
  wall: readonly [number, number, number];
}

export interface Grains {
  rough: Grain;
  fine: Grain;
}

export function buildGrains(seed: number): Grains {
  return { rough: buildGrain(seed * 31 + 1, 5), fine: buildGrain(seed * 31 + 2, 6) };
}
