import type { CalibrationInput } from '../estimate/calibrationInput';
import { estimate } from '../estimate/estimate';
import { SHEET_BOW } from '../reference/kinds/sheet';
import type { ReferenceId } from '../reference/reference';

/** An edge of a sheet that is not straight, as it is seen on the sheet's plane. */
export interface BowedEdge {
  reference: ReferenceId;
  /** Which of the sheet's four edges. */
  edge: number;
  /** How far its middle lies out of the straight line between its ends, mm: positive outwards. */
  outMm: number;
  plusMinusMm: number;
}

/** Paper cut by a machine is straighter than this, mm. */
const LEAST_CURL_MM = 0.05;

/**
 * Edges of sheets that bow beyond doubt: the paper is curled and lifts off there, or was not cut straight.
 * In: what is said of one picture; out: those edges, empty where all are straight or nothing can be trued.
 */
export function bowedEdges(input: CalibrationInput): BowedEdge[] {
  if (!input.references.some((y) => y.kind === 'sheet')) return [];
  const found = estimate(input);
  if (!found.ok) return [];
  const { parameters, covariance } = found.solutions[0]!;
  const size = parameters.length;
  return input.references.flatMap((y) => {
    if (y.kind !== 'sheet') return [];
    return y.edges.flatMap((_, edge) => {
      const at = found.unknowns.own[y.id]! + SHEET_BOW + edge;
      const plusMinusMm = 2 * Math.sqrt(covariance[at * (size + 1)]!);
      // The bow counts along the sheet's own axes, which run outwards at its far edges only.
      const outMm = edge === 1 || edge === 2 ? parameters[at]! : -parameters[at]!;
      return Math.abs(outMm) > Math.max(plusMinusMm, LEAST_CURL_MM)
        ? [{ reference: y.id, edge, outMm, plusMinusMm }]
        : [];
    });
  });
}
