import {
  type Calibration,
  type CalibrationFault,
  type CalibrationInput,
  calibrate,
  type EstimateResult,
  estimate,
  grownBy,
  type JoinFault,
  joinedMap,
  joinPictures,
  type PlaneMap,
  planeMap,
  type Seam,
  scaleTo,
} from '../../calibration';
import { calibrationInput, datumOf, wantedOf } from '../calibrationInput';
import { joinedInput, type PictureGroup, type SaidOfPicture } from '../joinedPictures';

/** A picture's calibration, alone or with those that it is joined with. */
export interface Calibrated {
  calibration: Calibration;
  /** The calibration that holds all joined pictures, to measure over them; the same one for a picture alone. */
  over: Calibration;
  map: PlaneMap;
  /** The map of `over`: that of the first of joined pictures. */
  overMap: PlaneMap;
  modelScale: number | null;
  /** What its pictures disagree in at their seams; null for one alone. */
  seams: Seam[] | null;
  /** Why it could not be joined: it stands alone then. */
  joinFault: JoinFault | null;
}

export type CalibratedResult =
  | { ok: true; calibrated: Calibrated }
  | { ok: false; reason: CalibrationFault; reference?: string };

export const middleOf = ({ facts }: Pick<SaidOfPicture, 'facts'>) => ({
  uPx: facts.widthPx / 2,
  vPx: facts.heightPx / 2,
});

/** Settles a picture; with `draws` of 0 its map alone, quick enough to follow a dragged pick. */
export function settlePicture(
  said: SaidOfPicture,
  group: PictureGroup | null,
  draws: number | undefined,
  single: Single,
): CalibratedResult {
  if (group) {
    const joined = joinPictures(joinedInput(group), { draws, single });
    if (joined.ok) return { ok: true, calibrated: fromJoined(said, group, joined) };
    const { fault } = joined;
    const alone = settleAlone(said, draws);
    if (alone.ok) return { ok: true, calibrated: { ...alone.calibrated, joinFault: fault } };
    return fault.reason === 'picture' && fault.picture === said.id ? fault.fault : alone;
  }
  return settleAlone(said, draws);
}

function settleAlone(said: SaidOfPicture, draws: number | undefined): CalibratedResult {
  const result = calibrate(calibrationInput(said), { draws });
  if (!result.ok) return result;
  const grown = grow(said, result.calibration);
  const calibration = result.calibration && grownBy(result.calibration, grown.factor);
  const map = planeMap(calibration, datumOf(said), 'face', middleOf(said));
  return {
    ok: true,
    calibrated: {
      calibration,
      over: calibration,
      map,
      overMap: map,
      modelScale: grown.modelScale,
      seams: null,
      joinFault: null,
    },
  };
}

/** By how much all lengths are grown: by the factor that was put on them, and to the length that is wanted. */
function grow(
  { calibration: said }: SaidOfPicture,
  calibration: Calibration,
): { factor: number; modelScale: number | null } {
  const factor = said.factor?.value ?? 1;
  const wanted = wantedOf(said);
  const model = wanted && scaleTo(grownBy(calibration, factor), wanted);
  return model ? { factor: factor * model.factor, modelScale: model.factor } : { factor, modelScale: null };
}

function fromJoined(
  said: SaidOfPicture,
  { pictures }: PictureGroup,
  { calibrations, moves, seams }: Extract<ReturnType<typeof joinPictures>, { ok: true }>,
): Calibrated {
  const first = pictures[0]!;
  const { factor, modelScale } = grow(first, calibrations[first.id]!);
  const over = grownBy(calibrations[first.id]!, factor);
  const calibration = said.id === first.id ? over : grownBy(calibrations[said.id]!, factor);
  const firstMap = planeMap(over, datumOf(first), 'face', middleOf(first));
  const [turn, x, y] = moves[said.id]!;
  const map =
    said.id === first.id ? firstMap : joinedMap(calibration, 'face', firstMap, [turn, factor * x, factor * y]);
  return { calibration, over, map, overMap: firstMap, modelScale, seams, joinFault: null };
}

/** Makes single pictures' estimates, and remembers the latest by what was said of each. */
export type Single = (input: CalibrationInput) => EstimateResult;

const MOST_REMEMBERED = 12;

/** While one of joined pictures is changed, those joined with it stay as they are: their estimates are remembered. */
export function rememberEstimates(): Single {
  const estimates = new Map<string, EstimateResult>();
  return (input) => {
    const key = JSON.stringify(input);
    const found = estimates.get(key) ?? estimate(input);
    // The latest last: the first one is the longest unused.
    estimates.delete(key);
    estimates.set(key, found);
    if (estimates.size > MOST_REMEMBERED) estimates.delete([...estimates.keys()][0]!);
    return found;
  };
}
