import type { Id, Sketch } from '../part';
import { type Condition, isConstraint } from './clusters';
import { constraintScalars } from './constraintScalars';
import { dimensionScalars } from './dimensionScalars';
import type { Scalar } from './elements';
import type { Unknowns } from './unknowns';
import type { ConditionFault } from './wanted';

/** One equation that a condition makes: what it comes to is to be zero, mm. */
export interface Equation {
  condition: Id;
  /** Unknowns that it asks for, each once. */
  at: readonly number[];
  /**
   * What it comes to, its slopes added to a list as long as the unknowns. `share`: of the way from the size that was seen
   * to the one that was decided.
   */
  value(x: Float64Array, slopes: Float64Array | null, share: number): number;
}

export type Equations = { ok: true; equations: Equation[] } | { ok: false; fault: ConditionFault };

const NOTHING: Equations = { ok: false, fault: 'nothing-to-hold' };

/** The equations of a condition. Of two ways in which it can hold, that one which is nearer to what was seen. */
export function equationsOf(sketch: Sketch, unknowns: Unknowns, condition: Condition): Equations {
  const made = isConstraint(condition)
    ? constraintScalars(sketch, unknowns, condition)
    : dimensionScalars(sketch, unknowns, condition);
  if (!made) return NOTHING;
  if ('fault' in made) return { ok: false, fault: made.fault };
  return { ok: true, equations: made.map(({ of, target }) => equation(condition.id, unknowns.start, of, target)) };
}

function equation(condition: Id, start: Float64Array, of: Scalar, target: number): Equation {
  const seen = of.value(start);
  return {
    condition,
    at: [...new Set(of.at)],
    value(x, slopes, share) {
      if (slopes) of.addSlopes(x, slopes, 1);
      return of.value(x) - (share === 1 ? target : seen + (target - seen) * share);
    },
  };
}
