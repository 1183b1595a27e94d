import type { PicturePoint } from '../calibration';
import type { Vec2 } from '../geometry';

/** Between a picture and the part: places mm, y up; px of the picture, y up, while nothing is true. */
export interface PictureMap {
  /** The place of the part that a pixel shows; null beyond the horizon. */
  toPlace(point: PicturePoint): Vec2 | null;
  toPicture(place: Vec2): PicturePoint | null;
}

/** How far a place is moved to learn what a pixel is worth there, mm. */
const PROBE_MM = 1e-3;

/** Picture pixels a mm (or px) of the part about a place: what one pixel is worth there. */
export function pxPerUnit(map: Pick<PictureMap, 'toPicture'>, place: Vec2): number {
  const here = map.toPicture(place);
  const there = map.toPicture({ x: place.x + PROBE_MM, y: place.y });
  if (!here || !there) return 1;
  return Math.hypot(there.uPx - here.uPx, there.vPx - here.vPx) / PROBE_MM;
}
