import type { Role } from '@steady-moth/core/sketch';

/** How a path is dashed on the board by what it is for: line and gap, px of the screen; empty for a whole line. */
export const DASH_OF_ROLE: Record<Role, readonly number[]> = {
  cut: [],
  mark: [7, 4],
  fold: [14, 5],
  drill: [],
  reference: [2, 4],
  'centre-line': [16, 4, 3, 4],
};

/** What a path can be for, as the slip says it. */
export const ROLE_CHOICES: readonly { value: Role; text: string }[] = [
  { value: 'cut', text: 'cut' },
  { value: 'mark', text: 'mark' },
  { value: 'fold', text: 'fold' },
  { value: 'drill', text: 'drill' },
  { value: 'reference', text: 'for reference, not handed over' },
  { value: 'centre-line', text: 'centre line' },
];

/** The same in a few letters, before a path's name. */
export const ROLE_MARKS: Record<Role, string> = {
  cut: 'cut',
  mark: 'mark',
  fold: 'fold',
  drill: 'drill',
  reference: 'ref.',
  'centre-line': 'axis',
};
