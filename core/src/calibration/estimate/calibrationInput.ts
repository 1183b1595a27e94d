import type { Lens } from '../model/camera';
import type { CameraHold, PictureFacts } from '../model/priors';
import type { SavedCamera } from '../model/savedCamera';
import type { Plane, Reference, ReferenceId } from '../reference/reference';

/** Everything that the person said of one picture. */
export interface CalibrationInput {
  facts: PictureFacts;
  lens: Lens;
  /** Take the resolution that the file states as a reference; of pages only. */
  believeResolution: boolean;
  /** Of pages: both scales are free of each other, and not known to be nearly one. */
  freeRatio?: boolean;
  hold: CameraHold;
  /** A camera that was checked with a grid. */
  saved?: SavedCamera | null;
  /** Planes beside the table. */
  planes: Plane[];
  references: Reference[];
  /** A reference whose size is to be found and not believed. */
  freed?: ReferenceId;
}
