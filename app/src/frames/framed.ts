import { type BoardFrame, boardMapper } from './boardMap';
import { carryView, isSameView } from './carryView';
import type { View } from './view';

/** What the view was made for. */
export interface Framing {
  /** Which part of which picture. */
  key: string;
  /** How that lay. */
  frame: BoardFrame;
  /** The views that show all of it: the one that fits, and the one that did before the board changed its size. */
  wholes: readonly View[];
}

/** What is to be shown now. */
export interface ToFrame {
  key: string;
  frame: BoardFrame;
  /** The view that fits all of it into the board. */
  whole: View;
  /** Another picture in the same frame comes into view where the one before it was looked at. */
  staysInPlace: boolean;
}

/**
 * The view of what is to be shown now, and what it was made for. Another picture, or another part of it, is shown
 * whole; so is one of which all was seen when it comes to lie otherwise, also where the board changed its size in
 * between. Whoever looks closer goes on looking at the same place. Both come back as they were where nothing changed.
 */
export function framed(
  view: View | null,
  framing: Framing | null,
  { key, frame, whole, staysInPlace }: ToFrame,
): { view: View; framing: Framing } {
  const { width, height } = whole;
  const anew = { key, frame, wholes: [whole] };
  if (!view) return { view: whole, framing: anew };
  const isSized = view.width === width && view.height === height;
  const sized = isSized ? view : { ...view, width, height };
  if (framing?.key !== key) {
    const isKept = staysInPlace && framing?.frame.kind === 'true' && frame.kind === 'true';
    return { view: isKept ? sized : whole, framing: anew };
  }
  const isWhole = framing.wholes.some((all) => isSameView({ ...all, width, height }, sized));
  if (framing.frame !== frame) {
    const carried = isWhole ? null : carryView(sized, boardMapper(framing.frame), boardMapper(frame));
    return { view: carried ?? whole, framing: anew };
  }
  if (framing.wholes[0] === whole) return { view: sized, framing };
  return { view: sized, framing: { ...framing, wholes: isWhole ? [whole, sized] : [whole] } };
}
