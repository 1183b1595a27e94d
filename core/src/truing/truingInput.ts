import type { Hold, PictureFacts } from './priors';
import type { Plane, Yardstick } from './yardstick';

/** Everything that the person said of one picture. */
export interface TruingInput {
  facts: PictureFacts;
  hold: Hold;
  /** Planes beside the table. */
  planes: Plane[];
  yardsticks: Yardstick[];
}
