import { CAMERA, CAMERA_SIZE, type PreparedCamera } from './camera';
import { projectPage } from './page';
import type { Projection } from './projection';

/**
 * Projects a world point (mm) into the picture (px).
 * Degenerate: a point level with or behind the lens, or beyond the reach of the distortion, gives false.
 */
export function project(camera: PreparedCamera, x: number, y: number, z: number, out: Projection): boolean {
  if (camera.lens === 'page') return projectPage(camera, x, y, z, out);
  const { c, k1, k2, turn, distanceMm } = camera;
  const px = turn[0]! * x + turn[1]! * y + turn[2]! * z;
  const py = -(turn[3]! * x + turn[4]! * y + turn[5]! * z);
  const pz = distanceMm - (turn[6]! * x + turn[7]! * y + turn[8]! * z);
  if (!(pz > distanceMm * NEAREST)) return false;
  const xn = px / pz;
  const yn = py / pz;
  const r2 = xn * xn + yn * yn;
  if (r2 > camera.reach * camera.reach) return false;
  const grow = 1 + r2 * (k1 + k2 * r2);
  const slope = 2 * (k1 + 2 * k2 * r2);
  out.picture[0] = camera.cx + c * xn * grow;
  out.picture[1] = camera.cy + c * yn * grow;
  const uByX = c * (grow + slope * xn * xn);
  const cross = c * slope * xn * yn;
  const vByY = c * (grow + slope * yn * yn);
  const by = out.byCamera;
  by[CAMERA.lnC] = c * xn * grow;
  by[CAMERA.cx] = 1;
  by[CAMERA.cy] = 0;
  by[CAMERA.k1] = c * xn * r2;
  by[CAMERA.k2] = c * xn * r2 * r2;
  by[CAMERA_SIZE + CAMERA.lnC] = c * yn * grow;
  by[CAMERA_SIZE + CAMERA.cx] = 0;
  by[CAMERA_SIZE + CAMERA.cy] = 1;
  by[CAMERA_SIZE + CAMERA.k1] = c * yn * r2;
  by[CAMERA_SIZE + CAMERA.k2] = c * yn * r2 * r2;
  const slopes = { pz, xn, yn, uByX, cross, vByY };
  const { turnByA: ta, turnByB: tb } = camera;
  carry(
    slopes,
    ta[0]! * x + ta[1]! * y + ta[2]! * z,
    -(ta[3]! * x + ta[4]! * y + ta[5]! * z),
    -(ta[6]! * x + ta[7]! * y + ta[8]! * z),
    by,
    CAMERA.a,
    CAMERA_SIZE,
  );
  carry(
    slopes,
    tb[0]! * x + tb[1]! * y + tb[2]! * z,
    -(tb[3]! * x + tb[4]! * y + tb[5]! * z),
    -(tb[6]! * x + tb[7]! * y + tb[8]! * z),
    by,
    CAMERA.b,
    CAMERA_SIZE,
  );
  carry(slopes, 0, 0, distanceMm, by, CAMERA.lnD, CAMERA_SIZE);
  for (let k = 0; k < 3; k++) carry(slopes, turn[k]!, -turn[3 + k]!, -turn[6 + k]!, out.byPoint, k, 3);
  return true;
}

/** Share of the camera's distance nearer than which nothing can lie: the model would blow up there. */
const NEAREST = 1e-3;

/** How a point of the camera's frame moves in the picture. */
interface Slopes {
  pz: number;
  xn: number;
  yn: number;
  uByX: number;
  cross: number;
  vByY: number;
}

function carry(
  { pz, xn, yn, uByX, cross, vByY }: Slopes,
  dx: number,
  dy: number,
  dz: number,
  into: Float64Array,
  at: number,
  stride: number,
): void {
  const dxn = (dx - xn * dz) / pz;
  const dyn = (dy - yn * dz) / pz;
  into[at] = uByX * dxn + cross * dyn;
  into[at + stride] = cross * dxn + vByY * dyn;
}
