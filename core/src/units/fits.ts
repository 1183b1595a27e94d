/*
 * Limits and fits for sizes from above 0 to 250 mm. ISO 286-1:2010: standard tolerances (table 1), fundamental deviations
 * of shafts (tables 4 and 5) and of holes (tables 2 and 3). Micrometres, by the ranges below.
 */
const UP_TO_MM = [3, 6, 10, 18, 30, 50, 80, 120, 180, 250] as const;

const GRADES: Readonly<Record<number, readonly number[]>> = {
  5: [4, 5, 6, 8, 9, 11, 13, 15, 18, 20],
  6: [6, 8, 9, 11, 13, 16, 19, 22, 25, 29],
  7: [10, 12, 15, 18, 21, 25, 30, 35, 40, 46],
  8: [14, 18, 22, 27, 33, 39, 46, 54, 63, 72],
  9: [25, 30, 36, 43, 52, 62, 74, 87, 100, 115],
  10: [40, 48, 58, 70, 84, 100, 120, 140, 160, 185],
  11: [60, 75, 90, 110, 130, 160, 190, 220, 250, 290],
};

/** Below the nominal size: the upper deviation of shafts, and, turned round, the lower one of holes. In bands that are not split. */
const BELOW: Readonly<Record<string, readonly number[]>> = {
  e: [14, 20, 25, 32, 40, 50, 60, 72, 85, 100],
  f: [6, 10, 13, 16, 20, 25, 30, 36, 43, 50],
  g: [2, 4, 5, 6, 7, 9, 10, 12, 14, 15],
  h: [0, 0, 0, 0, 0, 0, 0, 0, 0, 0],
  d: [20, 30, 40, 50, 65, 80, 100, 120, 145, 170],
};

/** Above the nominal size: the lower deviation of shafts that are pressed in; of k for grades 4 to 7. */
const ABOVE: Readonly<Record<string, readonly number[]>> = {
  k: [0, 1, 1, 1, 2, 2, 2, 3, 3, 4],
  m: [2, 4, 6, 7, 8, 9, 11, 13, 15, 17],
  n: [4, 8, 10, 12, 15, 17, 20, 23, 27, 31],
  p: [6, 12, 15, 18, 22, 26, 32, 37, 43, 50],
};

/** A tolerance class after a size, as H7 or g6 or js6: the letter of a hole is a capital. */
export const TOLERANCE_CLASS = /^(JS|js|[DEFGH]|[defghkmnp])(5|6|7|8|9|10|11)(?![A-Za-z0-9_])/;

/**
 * The limits of a nominal size in a tolerance class, mm; null where the tables above have none.
 */
export function limitsOf(nominalMm: number, letter: string, grade: number): { least: number; most: number } | null {
  const band = UP_TO_MM.findIndex((most) => nominalMm <= most);
  const width = GRADES[grade]?.[band];
  if (band < 0 || width === undefined || !(nominalMm > 0)) return null;
  const limits = (from: number, to: number) => ({ least: nominalMm + from / 1000, most: nominalMm + to / 1000 });
  const lower = letter.toLowerCase();
  if (lower === 'js') return limits(-width / 2, width / 2);
  const below = BELOW[lower]?.[band];
  if (below !== undefined) return letter === lower ? limits(-below - width, -below) : limits(below, below + width);
  const above = letter === 'k' && grade > 7 ? 0 : ABOVE[letter]?.[band];
  return above === undefined ? null : limits(above, above + width);
}
