import type { PicturePoint } from '@steady-moth/core/calibration';
import type { Vec2 } from '@steady-moth/core/geometry';
import type { SnapWish } from '../compute/pixels.worker';
import type { View } from '../frames/view';
import type { Aim, SnapTarget } from './useAim';

/** What a step does with the pointer. Aims are already clung; `raw` is where the pointer itself is, on the part. */
export interface BoardTool {
  /** What new points snap to; null when the pointer only takes hold of what is there. */
  wish: SnapWish | null;
  /** False for what has nothing to do with edges: places are taken as they are pointed at. */
  snaps?: boolean;
  /** False where what is pointed at is no place of the picture: it is not looked at closely. */
  looks?: boolean;
  /** Existing points that a new one may snap to: those within reach of a place. */
  targets(at: Vec2, reach: number): readonly SnapTarget[];
  /** Which of several edges close together a press means, the nearest first; left out, the nearest. */
  choose?(edges: readonly PicturePoint[]): number;
  /** Takes hold at once of something under the pointer; true starts a drag of it. */
  grab(raw: Vec2, view: View, shift: boolean): boolean;
  /** The pointer moves, with or without something held. */
  hover(aim: Aim, held: boolean): void;
  /** A press that grabbed nothing. */
  place(aim: Aim): void;
  /**
   * What was grabbed is let go where the pointer is: it is out of hand at once, so that the next thing can be taken
   * hold of, and what comes back is called once it is known what is there. `isMoved` is false where it was only pressed.
   */
  letGo(isMoved: boolean): (aim: Aim) => void;
  /** A second press in one place. */
  twice?(aim: Aim): void;
}
