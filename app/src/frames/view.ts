import { boundsOf, type Vec2 } from '@steady-moth/core/geometry';

/** A box of the board, y down. */
export interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** The box round several; null for none. */
export function boxAround(boxes: readonly Box[]): Box | null {
  if (boxes.length === 0) return null;
  const least = (of: (b: Box) => number) => boxes.reduce((m, b) => Math.min(m, of(b)), Number.POSITIVE_INFINITY);
  const most = (of: (b: Box) => number) => boxes.reduce((m, b) => Math.max(m, of(b)), Number.NEGATIVE_INFINITY);
  return {
    left: least((b) => b.left),
    top: least((b) => b.top),
    right: most((b) => b.right),
    bottom: most((b) => b.bottom),
  };
}

/** What of the board is on screen: the board place at its left top corner, screen px per board unit, size in px. */
export interface View {
  x: number;
  y: number;
  scale: number;
  width: number;
  height: number;
}

export const toScreen = (view: View, p: Vec2): Vec2 => ({
  x: (p.x - view.x) * view.scale,
  y: (p.y - view.y) * view.scale,
});
export const fromScreen = (view: View, p: Vec2): Vec2 => ({
  x: view.x + p.x / view.scale,
  y: view.y + p.y / view.scale,
});

/** A pointer that moved less than this on screen only pressed, px. */
const LEAST_MOVE_PX = 3;

/**
 * Whether a pointer was moved between two places on screen, px, or only pressed. Not told by places of the board: while
 * it is down a new calibration may turn one frame into another.
 */
export const isMoved = (from: Vec2, to: Vec2): boolean => Math.hypot(to.x - from.x, to.y - from.y) >= LEAST_MOVE_PX;

/** Zooms about a place on screen, which stays where it is. `bounds` are screen px per board unit. */
export function zoomAbout(view: View, at: Vec2, factor: number, bounds: { least: number; most: number }): View {
  const scale = Math.min(bounds.most, Math.max(bounds.least, view.scale * factor));
  const fixed = fromScreen(view, at);
  return { ...view, scale, x: fixed.x - at.x / scale, y: fixed.y - at.y / scale };
}

export const panBy = (view: View, dx: number, dy: number): View => ({
  ...view,
  x: view.x + dx / view.scale,
  y: view.y + dy / view.scale,
});

/** Shows all of some places, with a margin, px. */
export function fitView(places: readonly Vec2[], width: number, height: number, margin: number): View {
  const { min, max } = places.length ? boundsOf(places) : { min: { x: 0, y: 0 }, max: { x: 100, y: 100 } };
  const w = Math.max(max.x - min.x, 1e-6);
  const h = Math.max(max.y - min.y, 1e-6);
  const scale = Math.min((width - 2 * margin) / w, (height - 2 * margin) / h);
  return {
    width,
    height,
    scale,
    x: (min.x + max.x) / 2 - width / 2 / scale,
    y: (min.y + max.y) / 2 - height / 2 / scale,
  };
}

/** Distance of ruler marks, board units: 1, 2 or 5 times a power of ten, at least `leastPx` apart on screen. */
export function rulerStep(scale: number, leastPx: number): number {
  const wanted = leastPx / scale;
  const power = 10 ** Math.floor(Math.log10(wanted));
  for (const m of [1, 2, 5, 10]) if (m * power >= wanted) return m * power;
  return 10 * power;
}
