import type { CalibrationInput } from '../estimate/calibrationInput';
import type { ReferenceId } from '../reference/reference';
import type { PlanePick } from '../uncertainty/figure';

export type PictureId = string;

/** A place of the part that is seen in several pictures; each pick says in which. */
export interface CommonPoint {
  id: string;
  seen: (PlanePick & { picture: PictureId })[];
}

/** One reference that is seen in several pictures, its graduations or crossings numbered alike in all of them. */
export interface SharedReference {
  id: string;
  seen: { picture: PictureId; reference: ReferenceId }[];
}

/** Pictures of one part, and what joins them. The first one gives the frame. */
export interface JoinedInput {
  pictures: { id: PictureId; input: CalibrationInput }[];
  points: CommonPoint[];
  references: SharedReference[];
}

/** How far two picks of one place may lie apart on the part itself, σ, mm: a rounded corner is seen from two sides. */
export const COMMON_POINT = { sigmaMm: 0.02 } as const;
