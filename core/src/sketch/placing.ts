import type { PicturePoint, TurnedAxis } from '../calibration';
import type { Vec2 } from '../geometry';
import type { Placer } from './curveForm';
import { type Id, type Observation, observationIn, type Sketch } from './part';

/** Where the places of a picture lie in the part's frame, y up: in mm once it is true, in its own pixels before. */
export interface PicturePlacing {
  isTrue: boolean;
  /** On the plane named, or with null on the one that the board shows; null beyond the horizon. */
  place(at: PicturePoint, plane: string | null): Vec2 | null;
  /** The axis of a turned part and the lens over its plane; null without one. */
  turned: { axis: TurnedAxis; lens: ArrayLike<number> } | null;
}

/** By the picture's name. */
export type Placing = ReadonlyMap<string, PicturePlacing>;

export interface EvaluateOptions {
  /** Each path where it is on its own plane, or on its turned part, as it is handed over; not where it is seen. */
  truly: boolean;
  /** What is being dragged, where it is now; by its name. */
  draft: Readonly<Record<Id, Observation>> | null;
}

/** Where what was seen of a sketch lies; what is being dragged, where it is now. */
export function seenIn(sketch: Sketch, placing: Placing, { truly, draft }: EvaluateOptions): Placer {
  return (id) => {
    const at = (draft && Object.hasOwn(draft, id) ? draft[id] : undefined) ?? observationIn(sketch, id);
    return at ? (placing.get(at.picture)?.place(at, truly ? at.plane : null) ?? null) : null;
  };
}
