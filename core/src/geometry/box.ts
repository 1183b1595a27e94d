import type { Vec2 } from './vector';

/** A box, y up: `top` is its greatest y. */
export interface Box {
  left: number;
  right: number;
  bottom: number;
  top: number;
}

/** The box round several; null for none. */
export function boxAround(boxes: readonly Box[]): Box | null {
  if (boxes.length === 0) return null;
  const least = (of: (b: Box) => number) => boxes.reduce((m, b) => Math.min(m, of(b)), Number.POSITIVE_INFINITY);
  const most = (of: (b: Box) => number) => boxes.reduce((m, b) => Math.max(m, of(b)), Number.NEGATIVE_INFINITY);
  return {
    left: least((b) => b.left),
    right: most((b) => b.right),
    bottom: least((b) => b.bottom),
    top: most((b) => b.top),
  };
}

/** The corners of a box, from its left lower one counter-clockwise. */
export const boxCorners = ({ left, right, bottom, top }: Box): Vec2[] => [
  { x: left, y: bottom },
  { x: right, y: bottom },
  { x: right, y: top },
  { x: left, y: top },
];
