import type { Role } from '../../sketch';

/**
 * How lines are dashed by what is done along them, line and gap in mm; empty for a whole one. Cuts are whole lines,
 * centre lines long and short in turn (ISO 128-2, lines 01.2 and 04.1).
 */
export const DASHES: Record<Role, readonly number[]> = {
  cut: [],
  mark: [1, 0.6],
  fold: [3, 1],
  drill: [],
  reference: [0.4, 0.4],
  'centre-line': [6, 0.8, 0.6, 0.8],
};
