import type { LengthFault } from '@steady-moth/core/units';

const LENGTHS: Record<LengthFault, string> = {
  empty: 'Type the length, for instance 150, 1,2 cm or 1 3/8 in.',
  'not-a-length': 'This is not a length. Write it like 150, 12.5 mm, 1,2 cm, 1 3/8 in or 5\' 6 1/2".',
  zero: 'A length of 0 cannot be measured against: type what lies between the two readings.',
  negative: 'A length is above 0: type it without the minus.',
  'division-by-zero': 'A fraction cannot have 0 below the line.',
  'too-large': 'That is more than 10 metres: is the unit right?',
  'bad-uncertainty': 'The ± must be a figure smaller than the length, for instance 150 ± 0.05.',
};
export const lengthSentence = (fault: LengthFault): string => LENGTHS[fault];
