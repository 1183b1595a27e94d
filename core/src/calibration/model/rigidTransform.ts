import type { PlacedPoint } from './backProject';
import { CAMERA_SIZE } from './camera';

/** How one picture's frame lies on another's: turned by an angle, rad, then moved, mm. */
export interface RigidTransform {
  /** Where its three stand among the parameters: turn, x, y. */
  at: number;
  cos: number;
  sin: number;
  x: number;
  y: number;
}

export const RIGID_SIZE = 3;

export function readRigidTransform(parameters: ArrayLike<number>, at: number): RigidTransform {
  const turn = parameters[at]!;
  return { at, cos: Math.cos(turn), sin: Math.sin(turn), x: parameters[at + 1]!, y: parameters[at + 2]! };
}

/** Takes a placed point, and how it moves with all that it depends on, into the other frame. */
export function transformPoint({ place, byCamera, byHeight, byPicture }: PlacedPoint, move: RigidTransform): void {
  const { cos, sin } = move;
  const turn = (of: Float64Array, x: number, y: number) => {
    const [px, py] = [of[x]!, of[y]!];
    of[x] = cos * px - sin * py;
    of[y] = sin * px + cos * py;
  };
  turn(place, 0, 1);
  place[0]! += move.x;
  place[1]! += move.y;
  for (let k = 0; k < CAMERA_SIZE; k++) turn(byCamera, k, CAMERA_SIZE + k);
  turn(byHeight, 0, 1);
  turn(byPicture, 0, 2);
  turn(byPicture, 1, 3);
}

/** From the other frame back into the picture's own. */
export function transformedBack({ cos, sin, x, y }: RigidTransform, px: number, py: number): [number, number] {
  return [cos * (px - x) + sin * (py - y), cos * (py - y) - sin * (px - x)];
}

/**
 * The turn and shift that best lay places of one frame onto the same ones of another, both x0, y0, x1, y1, …, mm; null
 * with fewer than two, or all in one place.
 */
export function rigidOnto(from: ArrayLike<number>, to: ArrayLike<number>): [turn: number, x: number, y: number] | null {
  const count = from.length / 2;
  if (count < 2) return null;
  const mean = (of: ArrayLike<number>, k: number) => {
    let sum = 0;
    for (let n = k; n < of.length; n += 2) sum += of[n]!;
    return sum / count;
  };
  const [fx, fy, tx, ty] = [mean(from, 0), mean(from, 1), mean(to, 0), mean(to, 1)];
  let [along, across, size] = [0, 0, 0];
  for (let n = 0; n < from.length; n += 2) {
    const [ax, ay, bx, by] = [from[n]! - fx, from[n + 1]! - fy, to[n]! - tx, to[n + 1]! - ty];
    along += ax * bx + ay * by;
    across += ax * by - ay * bx;
    size += ax * ax + ay * ay;
  }
  if (!(size > LEAST_SPREAD_MM2)) return null;
  const turn = Math.atan2(across, along);
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  return [turn, tx - cos * fx + sin * fy, ty - sin * fx - cos * fy];
}

/** Places nearer together than this tell no direction, mm². */
const LEAST_SPREAD_MM2 = 1;
