import type { ResidualSink } from '../numeric';
import { type PlacedPoint, placePoint } from './backProject';
import { CAMERA_SIZE, type PreparedCamera } from './camera';
import type { Pick, Strokes } from './yardstick';

/** How true a ruler is: its spacing as a share, a common skew of its strokes against its edge, rad, one stroke, mm. */
export const RULER = { sigmaSpacing: 0.0005, sigmaSkew: (0.3 * Math.PI) / 180, sigmaStrokeMm: 0.004 } as const;

/** A ruler's own unknowns: its direction, where stroke 0 and its edge lie off the origin, its spacing's error, its skew. */
export const RULER_UNKNOWNS = 5;
const [TURN, ACROSS, EDGE, STRETCH, SKEW] = [0, 1, 2, 3, 4];

/** Wide enough to say nothing, for what the picture decides: rad and mm. */
const LOOSE = { turn: 10, mm: 1e4 } as const;

/** Where a ruler lies by its two readings, placed on its plane: the start of its unknowns. */
export function startRuler(from: ArrayLike<number>, to: ArrayLike<number>, into: Float64Array, at: number): void {
  const turn = Math.atan2(to[1] - from[1], to[0] - from[0]);
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  into[at + TURN] = turn;
  into[at + ACROSS] = c * from[0] + s * from[1];
  into[at + EDGE] = c * from[1] - s * from[0];
  into[at + STRETCH] = 0;
  into[at + SKEW] = 0;
}

/** What is assumed of a ruler before it is looked at. */
export function addRulerPrior(parameters: Float64Array, at: number, sigmaSpacing: number, sink: ResidualSink): void {
  const sigma = [LOOSE.turn, LOOSE.mm, LOOSE.mm, sigmaSpacing, RULER.sigmaSkew];
  for (let k = 0; k < RULER_UNKNOWNS; k++) sink.add(parameters[at + k] / sigma[k], [at + k], [1 / sigma[k]]);
}

/**
 * Adds a ruler's strokes to the estimate, each as a line: parallel to all others, at its own number of spacings, with
 * one skew against the edge. How they converge in the picture is what shows the tilt across the ruler.
 * In: places in px; `mmPerPx` fixes their weight, so that it does not move with the estimate.
 * @returns false where the model cannot place them.
 */
export function observeStrokes(
  { spacingMm, strokes, edge, standFor = 1 }: Strokes,
  at: number,
  mmPerPx: number,
  heightMm: number,
  heightIndex: number | undefined,
  camera: PreparedCamera,
  parameters: Float64Array,
  sink: ResidualSink,
  scratch: { from: PlacedPoint; indices: number[]; derivatives: number[] },
): boolean {
  const turn = parameters[at + TURN];
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const across = parameters[at + ACROSS];
  const rim = parameters[at + EDGE];
  const stretch = 1 + parameters[at + STRETCH];
  const skew = parameters[at + SKEW];
  const { indices, derivatives } = scratch;
  const add = (pick: Pick, ex: number, ey: number, residual: number, own: readonly (readonly [number, number])[]) => {
    const sigma = Math.hypot(pick.sigmaPx * mmPerPx, RULER.sigmaStrokeMm) / Math.sqrt(standFor);
    const { byCamera, byHeight } = scratch.from;
    for (let k = 0; k < CAMERA_SIZE; k++) {
      indices[k] = k;
      derivatives[k] = (ex * byCamera[k] + ey * byCamera[CAMERA_SIZE + k]) / sigma;
    }
    indices.length = CAMERA_SIZE;
    derivatives.length = CAMERA_SIZE;
    if (heightIndex !== undefined) {
      indices.push(heightIndex);
      derivatives.push((ex * byHeight[0] + ey * byHeight[1]) / sigma);
    }
    for (const [index, derivative] of own) {
      indices.push(at + index);
      derivatives.push(derivative / sigma);
    }
    sink.add(residual / sigma, indices, derivatives);
  };
  for (const { n, places } of strokes)
    for (const pick of places) {
      const placed = placePoint(camera, pick.uPx, pick.vPx, heightMm, scratch.from);
      if (!placed) return false;
      const [x, y] = placed.place;
      const along = c * x + s * y;
      const up = c * y - s * x;
      add(pick, c + skew * s, s - skew * c, along - across - n * spacingMm * stretch - skew * (up - rim), [
        [TURN, up + skew * along],
        [ACROSS, -1],
        [EDGE, skew],
        [STRETCH, -n * spacingMm],
        [SKEW, rim - up],
      ]);
    }
  for (const pick of edge) {
    const placed = placePoint(camera, pick.uPx, pick.vPx, heightMm, scratch.from);
    if (!placed) return false;
    const [x, y] = placed.place;
    add(pick, -s, c, c * y - s * x - rim, [
      [TURN, -(c * x + s * y)],
      [EDGE, -1],
    ]);
  }
  return true;
}

/** Strokes that are enough to tell where a descent leads, and how another day's readings would have scattered it. */
const FEW = 16;

/** A ruler with a part of its strokes, each standing for those left out: nearly the same to know, and far less to work out. */
export function thinnedStrokes(all: Strokes): Strokes {
  const every = Math.ceil(all.strokes.length / FEW);
  if (every <= 1) return all;
  const thin = <T>(list: readonly T[]) => list.filter((_, k) => k % every === 0 || k === list.length - 1);
  return { ...all, strokes: thin(all.strokes), edge: thin(all.edge), standFor: every };
}
