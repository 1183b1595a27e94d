import type { Calibration } from '../estimate/calibrate';
import { CAMERA } from '../model/camera';
import { PAGE_PARAMETERS } from '../model/page';
import { distance, figureOf, type PlanePick } from './figure';

/** A thing that shall become a size: what is between two picks is to be so long in the end. */
export interface WantedLength {
  from: PlanePick;
  to: PlanePick;
  lengthMm: number;
}

/**
 * The calibration as a model of it: all lengths grown alike so that the wanted one comes out. No observation: nothing is
 * learnt from it, and relative ± stay as they are.
 * @returns the grown calibration, and by how much it grew; null where the picks have no distance.
 */
export function scaleTo(
  calibration: Calibration,
  wanted: WantedLength,
): { calibration: Calibration; factor: number } | null {
  const found = figureOf({ ...calibration, draws: null }, [wanted.from, wanted.to], distance);
  if (!found || !(found.value > 0)) return null;
  const factor = wanted.lengthMm / found.value;
  return { factor, calibration: grownBy(calibration, factor) };
}

/** The calibration with all lengths grown by one factor; relative ± stay as they are. */
export function grownBy(calibration: Calibration, factor: number): Calibration {
  const allSlots = [{ ...calibration, cameraAt: 0, moveAt: null }, ...Object.values(calibration.joined ?? {})];
  // Lengths among the parameters: heights, and how far joined pictures are moved.
  const lengths = new Set(
    allSlots.flatMap(({ planes, moveAt }) => [
      ...Object.values(planes).flatMap(({ index }) => (index === null ? [] : [index])),
      ...(moveAt === null ? [] : [moveAt + 1, moveAt + 2]),
    ]),
  );
  const grown = (parameters: Float64Array): Float64Array => {
    const out = parameters.slice();
    for (const { lens, cameraAt } of allSlots) {
      if (lens === 'page') out[cameraAt + PAGE_PARAMETERS.lnScale]! -= Math.log(factor);
      out[cameraAt + CAMERA.lnD]! += Math.log(factor);
    }
    for (const index of lengths) out[index]! *= factor;
    return out;
  };
  const size = calibration.parameters.length;
  const covariance = calibration.covariance.slice();
  for (const index of lengths)
    for (let k = 0; k < size; k++) {
      covariance[index * size + k]! *= factor;
      covariance[k * size + index]! *= factor;
    }
  const raised = (planes: Calibration['planes']): Calibration['planes'] =>
    Object.fromEntries(Object.entries(planes).map(([id, p]) => [id, { ...p, heightMm: p.heightMm * factor }]));
  const joined = Object.entries(calibration.joined ?? {}).map(([id, s]) => [id, { ...s, planes: raised(s.planes) }]);
  return {
    ...calibration,
    parameters: grown(calibration.parameters),
    covariance,
    planes: raised(calibration.planes),
    ...(calibration.joined && { joined: Object.fromEntries(joined) }),
    draws: calibration.draws?.map(grown) ?? null,
    cameraHeightMm: calibration.cameraHeightMm * factor,
  };
}
