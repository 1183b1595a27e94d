import { calibrate, type PictureFacts } from '../calibration';
import type { Pixels } from '../raster';
import { answerPicture, findEndless, type MeasureAnswer } from './answerPicture';
import type { MeasureRequest } from './request';
import { type ScriptFault, sayPicture } from './sayPicture';

export type MeasureResult = { ok: true; answer: MeasureAnswer } | ScriptFault;

/**
 * Measures a picture from a script: everything that the True step does, without its screen.
 *
 * In: what is said (px, lengths as people write them), what the file tells of its camera, and the picture's pixels, or
 * null when no pick shall cling. Out: figures with the half width of their 95 % interval, mm.
 * Degenerate: a length that is none, a point that is not listed, a picture that cannot be trued, or a figure whose ± has
 * no bound (beyond the horizon of a camera that the yardsticks allow) gives a reason.
 */
export function measurePicture(request: MeasureRequest, facts: PictureFacts, pixels: Pixels | null): MeasureResult {
  const all = sayPicture(request, facts, pixels);
  if (!all.ok) return all;
  const result = calibrate(all.said.input);
  if (!result.ok) return { ok: false, reason: result.reason, at: result.reference };
  const answer = answerPicture(all.said, result.calibration);
  const endless = findEndless(answer);
  return endless === null ? { ok: true, answer } : { ok: false, reason: 'without-bound', at: endless };
}
