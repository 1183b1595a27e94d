import { type PictureMap, pxPerUnit } from '@steady-moth/core/sketch';
import { screenPlace } from './place';
import { middleOf, type View, viewWith } from './view';

/** Views that differ by less, as a share of the scale and px of the screen, are one. */
const SAME = { scale: 1e-9, px: 1e-3 } as const;

/**
 * The view that shows the same place of a picture in its middle, as large as before, once the picture lies otherwise on
 * the board: true, with another zero or direction, at another size. Null where that place is beyond the horizon.
 */
export function carryView(view: View, from: PictureMap, to: PictureMap): View | null {
  const middle = middleOf(view);
  const pixel = from.toPicture(middle);
  const place = pixel && to.toPlace(pixel);
  if (!place) return null;
  const scale = (view.scale * pxPerUnit(to, place)) / pxPerUnit(from, middle);
  if (!(scale > 0) || !Number.isFinite(scale)) return null;
  return viewWith(view, place, screenPlace(view.width / 2, view.height / 2), scale);
}

/** Two views of the same, but for what rounding makes of them. */
export const isSameView = (a: View, b: View): boolean =>
  a.width === b.width &&
  a.height === b.height &&
  Math.abs(a.scale / b.scale - 1) < SAME.scale &&
  Math.hypot(a.x - b.x, a.y - b.y) * a.scale < SAME.px;
