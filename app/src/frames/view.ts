import { boundsOf, type Vec2 } from '@steady-moth/core/geometry';
import { boardPlace, offBoard, onBoard, type ScreenPlace, screenPlace } from './place';

/** What of the board is on screen: the board place at its left top corner, screen px per board unit, size in px. */
export interface View {
  x: number;
  y: number;
  scale: number;
  width: number;
  height: number;
}

/** Where a place of the part is on screen. */
export function toScreen(view: View, place: Vec2): ScreenPlace {
  const { x, y } = onBoard(place);
  return screenPlace((x - view.x) * view.scale, (y - view.y) * view.scale);
}

/** Which place of the part is at one of the screen. */
export const fromScreen = (view: View, { x, y }: ScreenPlace): Vec2 =>
  offBoard(boardPlace(view.x + x / view.scale, view.y + y / view.scale));

/** The place of the part in the middle of what is shown. */
export const middleOf = (view: View): Vec2 => fromScreen(view, screenPlace(view.width / 2, view.height / 2));

/** The view that has a place of the part at a place on screen, as large as given. */
export function viewWith(view: View, place: Vec2, at: ScreenPlace, scale: number): View {
  const { x, y } = onBoard(place);
  return { ...view, scale, x: x - at.x / scale, y: y - at.y / scale };
}

/** Draws what is in board units, y down, where a view shows it: for the `transform` of an SVG element. */
export const transformOf = ({ x, y, scale }: View): string => `translate(${-x * scale} ${-y * scale}) scale(${scale})`;

/** A pointer that moved less than this on screen only pressed, px. */
const LEAST_MOVE_PX = 3;

/**
 * Whether a pointer was moved between two places on screen, px, or only pressed. Not told by places of the board: while
 * it is down a new calibration may turn one frame into another.
 */
export const isMoved = (from: ScreenPlace, to: ScreenPlace): boolean =>
  Math.hypot(to.x - from.x, to.y - from.y) >= LEAST_MOVE_PX;

/** Zooms about a place on screen, which stays where it is. `bounds` are screen px per board unit. */
export function zoomAbout(view: View, at: ScreenPlace, factor: number, bounds: { least: number; most: number }): View {
  const scale = Math.min(bounds.most, Math.max(bounds.least, view.scale * factor));
  return viewWith(view, fromScreen(view, at), at, scale);
}

export const panBy = (view: View, dx: number, dy: number): View => ({
  ...view,
  x: view.x + dx / view.scale,
  y: view.y + dy / view.scale,
});

/** Shows all of some places of the part, with a margin, px. */
export function fitView(places: readonly Vec2[], width: number, height: number, margin: number): View {
  const { min, max } = places.length ? boundsOf(places) : { min: { x: 0, y: 0 }, max: { x: 100, y: 100 } };
  const w = Math.max(max.x - min.x, 1e-6);
  const h = Math.max(max.y - min.y, 1e-6);
  const scale = Math.min((width - 2 * margin) / w, (height - 2 * margin) / h);
  const middle = { x: (min.x + max.x) / 2, y: (min.y + max.y) / 2 };
  return viewWith({ x: 0, y: 0, scale, width, height }, middle, screenPlace(width / 2, height / 2), scale);
}

/** Distance of ruler marks, board units: 1, 2 or 5 times a power of ten, at least `leastPx` apart on screen. */
export function rulerStep(scale: number, leastPx: number): number {
  const wanted = leastPx / scale;
  const power = 10 ** Math.floor(Math.log10(wanted));
  for (const m of [1, 2, 5, 10]) if (m * power >= wanted) return m * power;
  return 10 * power;
}
