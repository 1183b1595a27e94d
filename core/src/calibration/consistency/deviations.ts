import type { CalibrationInput } from '../estimate/calibrationInput';
import { estimate } from '../estimate/estimate';
import { posedProblem } from '../estimate/posedProblem';
import type { ReferenceId } from '../reference/reference';

/** How far one observed place lies off what the estimate says. */
export interface Deviation {
  reference: ReferenceId;
  uPx: number;
  vPx: number;
  /** mm on its plane; of a length, how much too long it is found. */
  offMm: number;
  /** The same in its own σ. */
  offSigmas: number;
}

/** Each place's deviation from the best solution, in the order of the references; empty where there is none. */
export function deviationsOf(input: CalibrationInput): Deviation[] {
  const found = estimate(input);
  if (!found.ok) return [];
  const all: Deviation[] = [];
  const problem = posedProblem(found.input, found.prior, found.unknowns, null, (reference, pick, offMm, offSigmas) => {
    all.push({ reference, uPx: pick.uPx, vPx: pick.vPx, offMm, offSigmas });
  });
  problem.residuals(found.solutions[0]!.parameters, { add() {} });
  return all;
}
