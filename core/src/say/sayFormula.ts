import type { FormulaFault } from '../units';

const FAULTS: Record<Exclude<FormulaFault['reason'], 'unknown-name' | 'goes-round'>, string> = {
  empty: 'Type a length, or a formula such as wall * 2 + 0.4.',
  unreadable: 'This cannot be read. Write it like 12, 1/4 in, or wall * 2 + 0.4.',
  'divides-by-zero': 'It divides by zero.',
  'no-length': 'It comes to no length: a length times a length is none, and neither is one divided by another.',
  'no-number': 'It comes to no bare number: type a figure, or a length divided by a length.',
  'too-large': 'It comes to more than 100 metres.',
  'no-root': 'A square root of less than 0 is no length.',
  'no-fit': 'There is no such fit of this size: sizes up to 500 mm, grades 5 to 13, as 10 H7 or shaft g6.',
};
export function formulaSentence(fault: FormulaFault): string {
  if (fault.reason === 'unknown-name') return `There is no parameter called ${fault.name}.`;
  if (fault.reason === 'goes-round') return `It leads round in a circle, by ${fault.name}.`;
  return FAULTS[fault.reason];
}
