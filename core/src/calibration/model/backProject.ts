import { CAMERA_SIZE, type PreparedCamera } from './camera';
import { backProjectPage } from './page';
import { project } from './project';
import { newProjection, type Projection } from './projection';

/** Newton steps on the distorted radius; it converges in three or four, the bound only ends a hopeless case. */
const MOST_STEPS = 20;
/** Accuracy of the undistorted radius, normalised: 1e-12 is far below a millionth of a pixel. */
const RADIUS_TOLERANCE = 1e-12;
/** A ray flatter than this against the plane meets it beyond any use: the horizon. */
const FLATTEST_RAY = 1e-4;

/**
 * Where the ray of a picture point meets the plane z = height.
 * In: px; out: x, y in mm into `out`.
 * Degenerate: above the horizon, or beyond the reach of the distortion, gives false.
 */
export function backProject(
  camera: PreparedCamera,
  uPx: number,
  vPx: number,
  heightMm: number,
  out: Float64Array,
): boolean {
  if (camera.lens === 'page') return backProjectPage(camera, uPx, vPx, heightMm, out);
  const xd = (uPx - camera.cx) / camera.c;
  const yd = (vPx - camera.cy) / camera.c;
  const shrink = undistort(camera, Math.hypot(xd, yd));
  if (Number.isNaN(shrink)) return false;
  const rx = xd * shrink;
  const ry = -yd * shrink;
  const { turn: t, distanceMm: d } = camera;
  // Turned back into the world: the ray (rx, ry, −1) and the lens (0, 0, D).
  const dz = t[2]! * rx + t[5]! * ry - t[8]!;
  if (dz > -FLATTEST_RAY) return false;
  const along = (heightMm - t[8]! * d) / dz;
  if (!(along > 0)) return false;
  out[0] = t[6]! * d + along * (t[0]! * rx + t[3]! * ry - t[6]!);
  out[1] = t[7]! * d + along * (t[1]! * rx + t[4]! * ry - t[7]!);
  return true;
}

/** A picture point on a plane, with how it moves when anything moves that it depends on. */
export interface PlacedPoint {
  /** x, y in mm. */
  place: Float64Array;
  /** 2 × 8, by the camera's parameters. */
  byCamera: Float64Array;
  /** 2, by the plane's height. */
  byHeight: Float64Array;
  /** 2 × 2, by u and v, mm per px. */
  byPicture: Float64Array;
  /** Scratch of the forward model. */
  forward: Projection;
}

export function newPlacedPoint(): PlacedPoint {
  return {
    place: new Float64Array(2),
    byCamera: new Float64Array(2 * CAMERA_SIZE),
    byHeight: new Float64Array(2),
    byPicture: new Float64Array(4),
    forward: newProjection(),
  };
}

/**
 * As `backProject`, with derivatives, through the implicit function theorem on the forward model.
 * The point is written into `into` where one is handed in: the estimate places points tens of thousands of times, and
 * making the arrays anew cost more than filling them.
 */
export function placePoint(
  camera: PreparedCamera,
  uPx: number,
  vPx: number,
  heightMm: number,
  into: PlacedPoint = newPlacedPoint(),
): PlacedPoint | null {
  const { place, forward } = into;
  if (!backProject(camera, uPx, vPx, heightMm, place)) return null;
  if (!project(camera, place[0]!, place[1]!, heightMm, forward)) return null;
  return invertDerivatives(into) ? into : null;
}

function invertDerivatives({ forward, byCamera, byHeight, byPicture }: PlacedPoint): boolean {
  const { byCamera: f, byPoint: p } = forward;
  const det = p[0]! * p[4]! - p[1]! * p[3]!;
  if (det === 0) return false;
  byPicture[0] = p[4]! / det;
  byPicture[1] = -p[1]! / det;
  byPicture[2] = -p[3]! / det;
  byPicture[3] = p[0]! / det;
  for (let k = 0; k < CAMERA_SIZE; k++) {
    byCamera[k] = -(byPicture[0] * f[k]! + byPicture[1] * f[CAMERA_SIZE + k]!);
    byCamera[CAMERA_SIZE + k] = -(byPicture[2] * f[k]! + byPicture[3] * f[CAMERA_SIZE + k]!);
  }
  byHeight[0] = -(byPicture[0] * p[2]! + byPicture[1] * p[5]!);
  byHeight[1] = -(byPicture[2] * p[2]! + byPicture[3] * p[5]!);
  return true;
}

/** Factor from distorted to ideal radius, NaN beyond the reach. */
function undistort(camera: PreparedCamera, distorted: number): number {
  const { k1, k2, reach } = camera;
  if (distorted === 0 || (k1 === 0 && k2 === 0)) return 1;
  const furthest = reach * (1 + k1 * reach ** 2 + k2 * reach ** 4);
  if (distorted > furthest) return Number.NaN;
  let r = Math.min(distorted, reach);
  for (let n = 0; n < MOST_STEPS; n++) {
    const r2 = r * r;
    const step = (r * (1 + r2 * (k1 + k2 * r2)) - distorted) / (1 + r2 * (3 * k1 + 5 * k2 * r2));
    r = Math.min(Math.max(r - step, 0), reach);
    if (Math.abs(step) < RADIUS_TOLERANCE) break;
  }
  return r / distorted;
}
