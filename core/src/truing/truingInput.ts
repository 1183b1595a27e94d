import type { Lens } from './camera';
import type { Hold, PictureFacts } from './priors';
import type { Plane, Yardstick } from './yardstick';

/** Everything that the person said of one picture. */
export interface TruingInput {
  facts: PictureFacts;
  lens: Lens;
  /** Take the resolution that the file states as a yardstick; of pages only. */
  believeResolution: boolean;
  hold: Hold;
  /** Planes beside the table. */
  planes: Plane[];
  yardsticks: Yardstick[];
}
