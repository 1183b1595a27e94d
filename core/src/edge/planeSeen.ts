import type { PicturePoint } from '../calibration';
import type { Circle, Vec2 } from '../geometry';

/** How the plane of a circle and the picture map onto each other; places in mm (or px while nothing is true). */
export interface PlaneSeen {
  toPlane(point: PicturePoint): Vec2 | null;
  toPicture(place: Vec2): PicturePoint | null;
  /** Where what lies straight below a place of the plane, on the ground, is pictured; left out where no height is known. */
  toFoot?(place: Vec2): PicturePoint | null;
}

/** Picture px for a unit of the plane, across a circle; 0 where it is not seen. */
export function pxPerUnit(plane: PlaneSeen, { centre, radius }: Circle): number {
  const [left, right] = [-1, 1].map((side) => plane.toPicture({ x: centre.x + side * radius, y: centre.y }));
  return left && right ? Math.hypot(right.uPx - left.uPx, right.vPx - left.vPx) / (2 * radius) : 0;
}
