import { lookupIn, numberIn, type Part, scopeOf } from '@steady-moth/core/sketch';
import { readFormula } from '@steady-moth/core/units';
import type { ReadFormula, ReadNumber } from '../kit/FormulaField';

type Named = Pick<Part, 'parameters' | 'variants' | 'variant'>;

/** How formulas are read where the parameters of a part may stand in them. */
export function formulaOf(part: Named): ReadFormula {
  const lookup = lookupIn(scopeOf(part));
  return (text, unit) => readFormula(text, unit, lookup);
}

/** The same of bare numbers: counts and degrees. */
export function numbersOf(part: Named): ReadNumber {
  const scope = scopeOf(part);
  return (text) => numberIn(scope, { text, unit: 'number' });
}
