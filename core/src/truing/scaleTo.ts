import { CAMERA } from './camera';
import { distance, figureOf, type PlanePick } from './figure';
import { PAGE_PARAMETERS } from './page';
import type { Truing } from './truePicture';

/** A thing that shall become a size: what is between two picks is to be so long in the end. */
export interface WantedLength {
  from: PlanePick;
  to: PlanePick;
  lengthMm: number;
}

/**
 * The truing as a model of it: all lengths grown alike so that the wanted one comes out. No observation: nothing is
 * learnt from it, and relative ± stay as they are.
 * @returns the grown truing, and by how much it grew; null where the picks have no distance.
 */
export function scaleTo(truing: Truing, wanted: WantedLength): { truing: Truing; factor: number } | null {
  const found = figureOf({ ...truing, draws: null }, [wanted.from, wanted.to], distance);
  if (!found || !(found.value > 0)) return null;
  const factor = wanted.lengthMm / found.value;
  return { factor, truing: grownBy(truing, factor) };
}

/** The truing with all lengths grown by one factor; relative ± stay as they are. */
export function grownBy(truing: Truing, factor: number): Truing {
  const heights = Object.values(truing.planes).flatMap(({ index }) => (index === null ? [] : [index]));
  const grown = (parameters: Float64Array): Float64Array => {
    const out = parameters.slice();
    if (truing.lens === 'page') out[PAGE_PARAMETERS.lnScale] -= Math.log(factor);
    out[CAMERA.lnD] += Math.log(factor);
    for (const index of heights) out[index] *= factor;
    return out;
  };
  const size = truing.parameters.length;
  const covariance = truing.covariance.slice();
  for (const index of heights)
    for (let k = 0; k < size; k++) {
      covariance[index * size + k] *= factor;
      covariance[k * size + index] *= factor;
    }
  const planes = Object.fromEntries(
    Object.entries(truing.planes).map(([id, p]) => [id, { ...p, heightMm: p.heightMm * factor }]),
  );
  return {
    ...truing,
    parameters: grown(truing.parameters),
    covariance,
    planes,
    draws: truing.draws?.map(grown) ?? null,
    cameraHeightMm: truing.cameraHeightMm * factor,
  };
}
