import type { Curve, Id, Sketch } from '../part';
import { type Place, placeOf, type Scalar } from './elements';
import type { Unknowns } from './unknowns';

/** Why a condition makes no equation: what it asks for is not there, or is of a kind that it says nothing of. */
export type ConditionFault = 'nothing-to-hold' | 'no-length';

/** A quantity, and what it is to be. */
export interface Wanted {
  of: Scalar;
  target: number;
}

export const zero = (of: Scalar): Wanted => ({ of, target: 0 });

export const curveIn = (sketch: Sketch, id: Id): Curve | undefined =>
  Object.hasOwn(sketch.curves, id) ? sketch.curves[id] : undefined;

export const isLine = (curve: Curve | undefined): curve is Extract<Curve, { kind: 'line' }> => curve?.kind === 'line';
export const isRound = (curve: Curve | undefined): boolean => curve?.kind === 'circle' || curve?.kind === 'arc';

/** Both ends of a line, as places. */
export function endsOf(sketch: Sketch, unknowns: Unknowns, id: Id): [Place, Place] | null {
  const curve = curveIn(sketch, id);
  if (!isLine(curve)) return null;
  const [a, b] = [placeOf(sketch, unknowns, curve.from), placeOf(sketch, unknowns, curve.to)];
  return a && b ? [a, b] : null;
}

/** An angle kept near nothing by whole or half turns, times a length, so that it counts in mm. */
export function turnedBy(of: Scalar, lengthMm: number, period: number): Scalar {
  return {
    at: of.at,
    value: (x) => {
      const angle = of.value(x);
      return (angle - Math.round(angle / period) * period) * lengthMm;
    },
    addSlopes: (x, slopes, factor) => of.addSlopes(x, slopes, factor * lengthMm),
  };
}

export const constant = (value: number): Scalar => ({ at: [], value: () => value, addSlopes() {} });
