/** A frame in the world of a calibration: its zero there, mm, the direction of its X, rad; with `flip` X runs the other way. */
export interface Frame {
  zero: readonly [number, number];
  turn: number;
  flip: boolean;
}

/** A place of the world in a frame. */
export function placeInFrame({ zero, turn, flip }: Frame, wx: number, wy: number): [number, number] {
  const [x, y] = [wx - zero[0], wy - zero[1]];
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  return [(flip ? -1 : 1) * (cos * x + sin * y), cos * y - sin * x];
}

/** Slopes by a place in a frame as slopes by that place in the world. */
export function slopesInWorld({ turn, flip }: Frame, gx: number, gy: number): [number, number] {
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  const along = flip ? -gx : gx;
  return [cos * along - sin * gy, sin * along + cos * gy];
}
