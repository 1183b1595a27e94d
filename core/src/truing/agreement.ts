import { distance, type Figure, figureOf, type PlanePick } from './figure';
import { type Truing, truePicture } from './truePicture';
import type { TruingInput } from './truingInput';
import { knownLengthSigmaMm, type Yardstick, type YardstickId } from './yardstick';

/** A known length held against what the rest says of it. */
export interface Agreement {
  /** What the rest finds, mm. */
  found: Figure;
  /** Found less known, mm. */
  deviationMm: number;
  /** The same in parts of the known length. */
  deviationShare: number;
  /** 95 % half width of the deviation: of what was found and of what was known, together. */
  plusMinusMm: number;
  /** The deviation is no larger than its ±. */
  fits: boolean;
}

/** A length that is compared and not used. */
export interface SpotCheck {
  from: PlanePick;
  to: PlanePick;
  lengthMm: number;
  /** ± of the caliper, mm; null takes `CALIPER`. */
  plusMinusMm: number | null;
}

/** A caliper reading when the person does not say: the resolution and the touch of a workshop caliper. */
export const CALIPER = { plusMinusMm: 0.03 } as const;

/** Holds a spot check against the truing. Null where a pick has no place on its plane. */
export function checkSpot(truing: Truing, spot: SpotCheck): Agreement | null {
  const found = figureOf(truing, [spot.from, spot.to], distance);
  return found && compare(found, spot.lengthMm, spot.plusMinusMm ?? CALIPER.plusMinusMm);
}

/**
 * Each yardstick as all the others predict it: d / sqrt(σ²predicted + σ²own).
 * With one yardstick there is nothing to hold it against, and the list is empty.
 */
export function agreements(input: TruingInput): Record<YardstickId, Agreement | null> {
  const result: Record<YardstickId, Agreement | null> = {};
  if (input.yardsticks.length < 2) return result;
  for (const y of input.yardsticks) {
    const rest = truePicture({ ...input, yardsticks: input.yardsticks.filter((other) => other !== y) });
    result[y.id] = rest.ok ? predicted(rest.truing, y) : null;
  }
  return result;
}

function predicted(rest: Truing, y: Yardstick): Agreement | null {
  const found = figureOf(
    rest,
    [
      { ...y.from, plane: y.plane },
      { ...y.to, plane: y.plane },
    ],
    distance,
  );
  return found && compare(found, y.lengthMm, 2 * knownLengthSigmaMm(y));
}

function compare(found: Figure, knownMm: number, knownPlusMinusMm: number): Agreement {
  const deviationMm = found.value - knownMm;
  const plusMinusMm = Math.hypot(found.plusMinus, knownPlusMinusMm);
  return {
    found,
    deviationMm,
    deviationShare: deviationMm / knownMm,
    plusMinusMm,
    fits: Math.abs(deviationMm) <= plusMinusMm,
  };
}
