import { type CheckPicture, type CheckResult, checkCamera } from '@steady-moth/core/calibration';
import type { PictureGroup, SaidOfPicture } from '@steady-moth/core/job';
import { createCalibrator } from '@steady-moth/core/job/calibrated';
import { serve } from './serve';

const calibrator = createCalibrator();

const calls = {
  /** The map alone, without its ±: quick enough to follow a dragged pick. */
  settle: async (said: SaidOfPicture, group: PictureGroup | null) => calibrator.settle(said, group),
  /** Every ± and deviation of the slip. */
  certainty: async (said: SaidOfPicture, group: PictureGroup | null) => calibrator.certainty(said, group),
  /** How well joined pictures fit at their seams. */
  seams: async (said: SaidOfPicture, group: PictureGroup) => calibrator.seams(said, group),
  /** ± of 100 mm over the picture, and how far each observed place lies off. */
  trust: async (said: SaidOfPicture, group: PictureGroup | null) => calibrator.trust(said, group),
  /** What would repair the deviations of the spot checks. */
  explanations: async (said: SaidOfPicture) => calibrator.explanations(said),
  /** The calibration itself, to be measured through on a thread of its own. */
  whole: async (said: SaidOfPicture, group: PictureGroup | null) => calibrator.whole(said, group),
  /** A camera from pictures of the grid sheet. */
  checkCamera: async (pictures: readonly CheckPicture[]): Promise<CheckResult> => checkCamera(pictures),
};

export type CalibrationCalls = typeof calls;

serve(calls);
