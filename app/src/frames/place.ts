import type { Framed, Vec2 } from '@steady-moth/core/geometry';

/**
 * The ways of saying where something is, which the compiler keeps apart. A place of the **part** is a `Vec2`: mm, y up
 * (pixels of the picture, y up, while nothing is true). Aims, tools, overlays and whatever is drawn speak of those.
 */

/** A place of the board: the same lengths, but y runs down, as everything that is painted wants it. */
export type BoardPlace = Framed<'board'>;
/** A place on screen: px from the left top corner of the board, y down. */
export type ScreenPlace = Framed<'screen'>;

/** Where the pointer is on the page: px from its left top corner, y down. */
export type PagePlace = Framed<'page'>;

export const boardPlace = (x: number, y: number): BoardPlace => ({ x, y }) as BoardPlace;
export const screenPlace = (x: number, y: number): ScreenPlace => ({ x, y }) as ScreenPlace;
export const pagePlace = (event: { clientX: number; clientY: number }): PagePlace =>
  ({ x: event.clientX, y: event.clientY }) as PagePlace;

/** A place of the part where it lies on the board: y is turned over here and in `offBoard`, and nowhere else. */
export const onBoard = ({ x, y }: Vec2): BoardPlace => boardPlace(x, -y);
/** A place of the board as one of the part. */
export const offBoard = ({ x, y }: BoardPlace): Vec2 => ({ x, y: -y });

/** The way in which an arrow key points, on screen; null of another key. */
export const arrowWay = (key: string): ScreenPlace | null => ARROWS[key] ?? null;

const ARROWS: Readonly<Record<string, ScreenPlace>> = {
  ArrowLeft: screenPlace(-1, 0),
  ArrowRight: screenPlace(1, 0),
  ArrowUp: screenPlace(0, -1),
  ArrowDown: screenPlace(0, 1),
};
