import { type BoardMapper, pxPerUnit } from './boardMap';
import { fromScreen, type View } from './view';

/**
 * The view that shows the same place of a picture in its middle, as large as before, once the picture lies otherwise on
 * the board: true, with another zero or direction, at another size. Null where that place is beyond the horizon.
 */
export function carryView(view: View, from: BoardMapper, to: BoardMapper): View | null {
  const middle = fromScreen(view, { x: view.width / 2, y: view.height / 2 });
  const pixel = from.toPicture(middle);
  const place = pixel && to.toBoard(pixel);
  if (!place) return null;
  const scale = (view.scale * pxPerUnit(to, place)) / pxPerUnit(from, middle);
  if (!(scale > 0) || !Number.isFinite(scale)) return null;
  return { ...view, scale, x: place.x - view.width / 2 / scale, y: place.y - view.height / 2 / scale };
}

/** Two views of the same, but for what rounding makes of them. */
export const isSameView = (a: View, b: View): boolean =>
  a.width === b.width &&
  a.height === b.height &&
  Math.abs(a.scale / b.scale - 1) < 1e-9 &&
  Math.hypot(a.x - b.x, a.y - b.y) * a.scale < 1e-3;
