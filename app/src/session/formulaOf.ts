import { type Part, scopeOf } from '@steady-moth/core/sketch';
import { readFormula } from '@steady-moth/core/units';
import type { ReadFormula } from '../kit/FormulaField';

/** How formulas are read where the parameters of a part may stand in them. */
export function formulaOf(part: Pick<Part, 'parameters' | 'variants' | 'variant'>): ReadFormula {
  const { values } = scopeOf(part);
  return (text, unit) => readFormula(text, unit, (name) => values.get(name) ?? null);
}
