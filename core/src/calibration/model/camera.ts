/**
 * The photograph's model: a pinhole with lens distortion over the table.
 *
 * Eight numbers, in this order, as one Float64Array:
 *   ln c      camera constant c, px
 *   cx, cy    principal point, px
 *   k1, k2    Brown's radial terms on the normalised radius, from ideal to pictured
 *   a, b      tilt: world to camera turns by exp([a, b, 0]×), rad
 *   ln D      distance along the principal ray to the table, mm
 *
 * Frames: picture px, u right and v down, (0, 0) at the outer corner of the first pixel. World mm, right-handed,
 * z up towards the camera, z = 0 the table, its origin where the principal ray meets the table, its y against v.
 */
export const CAMERA = { lnC: 0, cx: 1, cy: 2, k1: 3, k2: 4, a: 5, b: 6, lnD: 7 } as const;
export const CAMERA_SIZE = 8;

/** How a picture came about: through a lens over the table, or flat on a glass or a page (`page.ts`). */
export type Lens = 'photo' | 'page';

/** A camera with what every projection through it needs worked out once. */
export interface PreparedCamera {
  lens: Lens;
  c: number;
  cx: number;
  cy: number;
  k1: number;
  k2: number;
  distanceMm: number;
  /** World to camera axes, row by row. */
  turn: Float64Array;
  /** Derivatives of `turn` by a and by b. */
  turnByA: Float64Array;
  turnByB: Float64Array;
  /** Largest normalised radius up to which the distortion grows outwards; beyond it the model has no answer. */
  reach: number;
}

/** Below this angle the closed form of the rotation loses digits; its series is exact there to double precision. */
const SMALL_TURN_RAD = 1e-5;

export function prepareCamera(parameters: ArrayLike<number>, lens: Lens = 'photo'): PreparedCamera {
  const a = parameters[CAMERA.a]!;
  const b = parameters[CAMERA.b]!;
  const turn = turnMatrix(a, b);
  return {
    lens,
    c: Math.exp(parameters[CAMERA.lnC]!),
    cx: parameters[CAMERA.cx]!,
    cy: parameters[CAMERA.cy]!,
    k1: parameters[CAMERA.k1]!,
    k2: parameters[CAMERA.k2]!,
    distanceMm: Math.exp(parameters[CAMERA.lnD]!),
    turn,
    turnByA: turnDerivative(a, b, turn, 0),
    turnByB: turnDerivative(a, b, turn, 1),
    reach: distortionReach(parameters[CAMERA.k1]!, parameters[CAMERA.k2]!),
  };
}

/** Height of the lens over the table, mm: H = D cos τ. */
export function cameraHeightMm(camera: PreparedCamera): number {
  return camera.distanceMm * camera.turn[8]!;
}

/** Where the lens stands over a plane of a height, mm: x, y, and its height over that plane. */
export function lensStand({ turn, distanceMm }: PreparedCamera, heightMm: number): Float64Array {
  return Float64Array.of(turn[6]! * distanceMm, turn[7]! * distanceMm, turn[8]! * distanceMm - heightMm);
}

/** Angle between the principal ray and the table's normal, rad. */
export function tiltRad(parameters: ArrayLike<number>): number {
  return Math.hypot(parameters[CAMERA.a]!, parameters[CAMERA.b]!);
}

function turnMatrix(a: number, b: number): Float64Array {
  const angle = Math.hypot(a, b);
  const s = angle < SMALL_TURN_RAD ? 1 - (angle * angle) / 6 : Math.sin(angle) / angle;
  const v = angle < SMALL_TURN_RAD ? 0.5 - (angle * angle) / 24 : (1 - Math.cos(angle)) / (angle * angle);
  return Float64Array.of(
    1 - v * b * b,
    v * a * b,
    s * b,
    v * a * b,
    1 - v * a * a,
    -s * a,
    -s * b,
    s * a,
    1 - v * (a * a + b * b),
  );
}

/**
 * Derivative of exp([w]×) by one component of w.
 * Source: Gallego & Yezzi (2015), A compact formula for the derivative of a 3-D rotation.
 */
function turnDerivative(a: number, b: number, turn: Float64Array, by: 0 | 1): Float64Array {
  const square = a * a + b * b;
  const wx = by === 0 ? a : b;
  let x = by === 0 ? 1 : 0;
  let y = by === 1 ? 1 : 0;
  let z = 0;
  if (square > SMALL_TURN_RAD * SMALL_TURN_RAD) {
    // w × (I − R) e
    const e0 = (by === 0 ? 1 : 0) - turn[by]!;
    const e1 = (by === 1 ? 1 : 0) - turn[3 + by]!;
    const e2 = -turn[6 + by]!;
    x = (wx * a + b * e2) / square;
    y = (wx * b - a * e2) / square;
    z = (a * e1 - b * e0) / square;
  }
  return skewTimes(x, y, z, turn);
}

/** [(x, y, z)]× M for a 3 × 3 M. */
function skewTimes(x: number, y: number, z: number, m: Float64Array): Float64Array {
  const out = new Float64Array(9);
  for (let k = 0; k < 3; k++) {
    out[k] = -z * m[3 + k]! + y * m[6 + k]!;
    out[3 + k] = z * m[k]! - x * m[6 + k]!;
    out[6 + k] = -y * m[k]! + x * m[3 + k]!;
  }
  return out;
}

/** First zero of d/dr of r (1 + k1 r² + k2 r⁴), or a radius that no picture reaches. */
function distortionReach(k1: number, k2: number): number {
  const FAR = 10;
  if (Math.abs(k2) < Number.EPSILON) return k1 < 0 ? Math.min(FAR, Math.sqrt(-1 / (3 * k1))) : FAR;
  const inside = 9 * k1 * k1 - 20 * k2;
  if (inside < 0) return FAR;
  const roots = [(-3 * k1 + Math.sqrt(inside)) / (10 * k2), (-3 * k1 - Math.sqrt(inside)) / (10 * k2)];
  const positive = roots.filter((r) => r > 0);
  return positive.length ? Math.min(FAR, Math.sqrt(Math.min(...positive))) : FAR;
}
