import { type Calibration, calibrate, placePicks } from '../../../calibration';
import type { Id, Observation, Sketch } from '../../../sketch';
import { calibrationInput } from '../../calibrationInput';
import { sampleJob } from '../../sample.test-data';

const [picture] = sampleJob().pictures;
const result = calibrate({ ...calibrationInput(picture!), hold: 'flat-on' }, { draws: 0 });
if (!result.ok) throw new Error(result.reason);
/** Flat-on and exactly known: only the scatter of what was picked is left. */
export const calibration: Calibration = {
  ...result.calibration,
  draws: null,
  covariance: new Float64Array(result.calibration.covariance.length),
};
export const said = picture!.calibration;

/** Millimetres of a pixel about the middle, where the picture is flat: x, y by u, v. */
const middle = placePicks(calibration, [{ uPx: 2000, vPx: 1500, sigmaPx: 1, plane: 'face' }])!.placed[0]!;
export const [xu, , , yv] = middle.byPicture as unknown as [number, number, number, number];
const PX = 1 / Math.abs(xu);

/** A sketch drawn in mm, as the picture shows it, with places scattered, mm. */
export function photographed(drawn: Sketch, sigmaMm: number, normal: () => number): Sketch {
  const see = (at: Observation): Observation => ({
    ...at,
    uPx: 2000 + (at.uPx - 40 + sigmaMm * normal()) / xu,
    vPx: 1500 + (at.vPx - 20 + sigmaMm * normal()) / yv,
    sigmaPx: sigmaMm * PX,
  });
  const points = Object.entries(drawn.points).map(([id, { at }]): [Id, Sketch['points'][string]] => [
    id,
    { at: at.kind === 'observed' ? { kind: 'observed', ...see(at) } : at },
  ]);
  const picks = Object.entries(drawn.picks).map(([id, at]) => [id, see(at)]);
  return {
    ...drawn,
    curves: { ...drawn.curves },
    points: Object.fromEntries(points),
    picks: Object.fromEntries(picks),
  };
}
