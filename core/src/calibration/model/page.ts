import { CAMERA, CAMERA_SIZE, type PreparedCamera } from './camera';
import type { Projection } from './projection';

/**
 * The model of a flat page: a scan, a page of a document, an outline drawn at a known scale.
 *
 * Parallel along the sweep (v), central across it (u). It uses the camera's eight numbers, so that everything behind
 * it is the same for both; their meaning here:
 *   ln c      px per mm along u
 *   cx, cy    where the world's origin lies, px
 *   k1        ln of px per mm along v over that along u
 *   k2        shear: how far u moves with y, as a share
 *   a, b      nothing: a page is not tilted
 *   ln D      distance from the glass to the scanner's lens, mm; it acts across only
 */
export const PAGE_PARAMETERS = {
  lnScale: CAMERA.lnC,
  u0: CAMERA.cx,
  v0: CAMERA.cy,
  lnRatio: CAMERA.k1,
  shear: CAMERA.k2,
  lnD: CAMERA.lnD,
} as const;

/** As `project`, for a page. */
export function projectPage(page: PreparedCamera, x: number, y: number, z: number, out: Projection): boolean {
  const { c, cx, cy, k1: lnRatio, k2: shear, distanceMm } = page;
  if (!(z < distanceMm)) return false;
  const near = distanceMm / (distanceMm - z);
  const across = x + shear * y;
  const cv = c * Math.exp(lnRatio);
  const { picture, byCamera: by, byPoint: p } = out;
  picture[0] = cx + c * across * near;
  picture[1] = cy - cv * y;
  by.fill(0);
  by[CAMERA.lnC] = c * across * near;
  by[CAMERA.cx] = 1;
  by[CAMERA.k2] = c * y * near;
  by[CAMERA.lnD] = (c * across * near * -z) / (distanceMm - z);
  by[CAMERA_SIZE + CAMERA.lnC] = -cv * y;
  by[CAMERA_SIZE + CAMERA.cy] = 1;
  by[CAMERA_SIZE + CAMERA.k1] = -cv * y;
  p[0] = c * near;
  p[1] = c * shear * near;
  p[2] = (c * across * near) / (distanceMm - z);
  p[3] = 0;
  p[4] = -cv;
  p[5] = 0;
  return true;
}

/** As `backProject`, for a page. */
export function backProjectPage(
  { c, cx, cy, k1: lnRatio, k2: shear, distanceMm }: PreparedCamera,
  uPx: number,
  vPx: number,
  heightMm: number,
  out: Float64Array,
): boolean {
  if (!(heightMm < distanceMm)) return false;
  const y = (cy - vPx) / (c * Math.exp(lnRatio));
  out[1] = y;
  out[0] = ((uPx - cx) / c) * ((distanceMm - heightMm) / distanceMm) - shear * y;
  return Number.isFinite(out[0]) && Number.isFinite(y);
}
