import {
  type Agreement,
  agreements,
  type CalibrationInput,
  calibrate,
  isScaleStated,
  PAGE_PARAMETERS,
} from '../../calibration';

/** Yardsticks that contradict each other by more than their ±, and what would explain it. */
export interface Contradiction {
  /** The largest disagreement, as a share of what is known. */
  share: number;
  /**
   * Of a page: by how much its scale along Y would have to be larger than that along X, as a share, for all of them to
   * fit; null where that does not explain it.
   */
  scalesDiffer: number | null;
  /** Of a page: all that else is known fits together once the scale that its file states is left out. */
  statedAlone: boolean;
}

/** Null where all that is known fits together, or nothing is held against anything. */
export function findContradiction(
  input: CalibrationInput,
  found: Readonly<Record<string, Agreement | null>>,
): Contradiction | null {
  const off = Object.values(found).filter((a): a is Agreement => a !== null && !a.fits);
  if (off.length === 0) return null;
  const share = Math.max(...off.map((a) => Math.abs(a.deviationShare)).filter(Number.isFinite), 0);
  const statedAlone = isStatedAlone(input);
  return { share, scalesDiffer: statedAlone ? null : ratioThatExplains(input), statedAlone };
}

function isStatedAlone(input: CalibrationInput): boolean {
  if (!isScaleStated(input) || input.references.length === 0) return false;
  const rest = agreements({ ...input, believeResolution: false });
  return Object.values(rest).every((a) => a?.fits ?? true);
}

function ratioThatExplains(input: CalibrationInput): number | null {
  if (input.lens !== 'page' || input.freeRatio) return null;
  const free: CalibrationInput = { ...input, freeRatio: true, believeResolution: false };
  const result = calibrate(free, { draws: 0 });
  if (!result.ok) return null;
  if (Object.values(agreements(free)).some((a) => a !== null && !a.fits)) return null;
  return Math.exp(result.calibration.parameters[PAGE_PARAMETERS.lnRatio]!) - 1;
}
