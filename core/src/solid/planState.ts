import { MOST } from '../schema/bounds';
import type { EvaluatedPart, Expression, Figure, Id, Part, Placing } from '../sketch';
import { copiesOf, lengthOf, numberOf } from '../sketch';
import { readFormula } from '../units';
import type { BodyStep, FeatureNote } from './plan';
import type { Told } from './profiles';
import { type Box, type Frame, frameOf, type SideName } from './space';

/** From which side a sketch is seen, and how far its plane lies off the part's own zero, mm. */
interface SketchSide {
  side: SideName;
  offsetMm: number;
}

export interface PlanInput {
  /** Formulas worked out. */
  part: Part;
  evaluated: Pick<EvaluatedPart, 'paths'>;
  placing: Placing;
  sideOf(sketch: Id): SketchSide;
}

export const NOTHING_MM = 1e-6;

/** What is known while features are turned into steps. */
export interface PlanState {
  input: PlanInput;
  /** Round everything that was added so far; null before the first. */
  box: Box | null;
  /** The side that the first feature's sketch is seen from. */
  base: SideName | null;
  notes: FeatureNote[];
  /** Steps so far. */
  steps: BodyStep[];
}

/** A length that must be more than nothing. */
export function thickness(expression: Expression, tell: Told): number | null {
  const mm = lengthOf(expression);
  if (mm === null) tell('no-length', expression.text);
  else if (mm < NOTHING_MM) tell('no-thickness');
  return mm !== null && mm >= NOTHING_MM ? mm : null;
}

/** A place on an axis: zero and less are allowed. */
export function length({ text, unit }: Expression, tell: Told): number | null {
  const read = readFormula(text, unit, () => null);
  if (!read.ok) tell('no-length', text);
  return read.ok ? read.mm : null;
}

/** A bare number within bounds. */
export function figure(own: Figure, least: number, most: number, tell: Told): number | null {
  const value = numberOf(own, least, most);
  if (value === null) tell('no-number', `${own.text}: ${least} to ${most}`);
  return value;
}

/** How many times something stands there. */
export function copies(own: Figure, tell: Told): number | null {
  const count = copiesOf(own);
  if (count === null) tell('no-number', `${own.text}: 2 to ${MOST.copies}`);
  return count;
}

export const rad = (degrees: number): number => (degrees * Math.PI) / 180;

export const frameOfSketch = ({ sideOf }: PlanInput, sketch: Id): Frame => {
  const { side, offsetMm } = sideOf(sketch);
  return frameOf(side, offsetMm);
};
