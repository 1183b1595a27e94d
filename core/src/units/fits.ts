/*
 * Limits and fits for sizes from above 0 to 500 mm. ISO 286-1:2010: standard tolerances (table 1), fundamental deviations
 * of shafts (tables 4 and 5) and of holes (tables 2 and 3). Micrometres, by the ranges below.
 */
const UP_TO_MM = [3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500] as const;

const GRADES: Readonly<Record<number, readonly number[]>> = {
  4: [3, 4, 4, 5, 6, 7, 8, 10, 12, 14, 16, 18, 20],
  5: [4, 5, 6, 8, 9, 11, 13, 15, 18, 20, 23, 25, 27],
  6: [6, 8, 9, 11, 13, 16, 19, 22, 25, 29, 32, 36, 40],
  7: [10, 12, 15, 18, 21, 25, 30, 35, 40, 46, 52, 57, 63],
  8: [14, 18, 22, 27, 33, 39, 46, 54, 63, 72, 81, 89, 97],
  9: [25, 30, 36, 43, 52, 62, 74, 87, 100, 115, 130, 140, 155],
  10: [40, 48, 58, 70, 84, 100, 120, 140, 160, 185, 210, 230, 250],
  11: [60, 75, 90, 110, 130, 160, 190, 220, 250, 290, 320, 360, 400],
  12: [100, 120, 150, 180, 210, 250, 300, 350, 400, 460, 520, 570, 630],
  13: [140, 180, 220, 270, 330, 390, 460, 540, 630, 720, 810, 890, 970],
};
/** The coarsest and the finest that may be asked for: grade 4 is only what others are told by. */
const LEAST_GRADE = 5;

/** Below the nominal size: the upper deviation of shafts, and, turned round, the lower one of holes. */
const BELOW: Readonly<Record<string, readonly number[]>> = {
  d: [20, 30, 40, 50, 65, 80, 100, 120, 145, 170, 190, 210, 230],
  e: [14, 20, 25, 32, 40, 50, 60, 72, 85, 100, 110, 125, 135],
  f: [6, 10, 13, 16, 20, 25, 30, 36, 43, 50, 56, 62, 68],
  g: [2, 4, 5, 6, 7, 9, 10, 12, 14, 15, 17, 18, 20],
  h: [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0],
};

/** Above the nominal size: the lower deviation of shafts that are pressed in; of k for grades 4 to 7. */
const ABOVE: Readonly<Record<string, readonly number[]>> = {
  k: [0, 1, 1, 1, 2, 2, 2, 3, 3, 4, 4, 4, 5],
  m: [2, 4, 6, 7, 8, 9, 11, 13, 15, 17, 20, 21, 23],
  n: [4, 8, 10, 12, 15, 17, 20, 23, 27, 31, 34, 37, 40],
  p: [6, 12, 15, 18, 22, 26, 32, 37, 43, 50, 56, 62, 68],
};

/** As above, by ranges that are split where the deviation grows fast. */
const SPLIT_UP_TO_MM = [
  3, 6, 10, 18, 30, 50, 65, 80, 100, 120, 140, 160, 180, 200, 225, 250, 280, 315, 355, 400, 450, 500,
] as const;
const SPLIT_ABOVE: Readonly<Record<string, readonly number[]>> = {
  r: [10, 15, 19, 23, 28, 34, 41, 43, 51, 54, 63, 65, 68, 77, 80, 84, 94, 98, 108, 114, 126, 132],
  s: [14, 19, 23, 28, 35, 43, 53, 59, 71, 79, 92, 100, 108, 122, 130, 140, 158, 170, 190, 208, 232, 252],
};

/** A tolerance class after a size, as H7 or g6 or js6: the letter of a hole is a capital. */
export const TOLERANCE_CLASS = /^(JS|js|[DEFGHKMNP]|[defghkmnprs])(10|11|12|13|[5-9])(?![A-Za-z0-9_.,])/;

/**
 * The limits of a nominal size in a tolerance class, mm; null where the tables above have none.
 */
export function limitsOf(nominalMm: number, letter: string, grade: number): { least: number; most: number } | null {
  const band = UP_TO_MM.findIndex((most) => nominalMm <= most);
  const width = grade < LEAST_GRADE ? undefined : GRADES[grade]?.[band];
  if (band < 0 || width === undefined || !(nominalMm > 0)) return null;
  const limits = (from: number, to: number) => ({ least: nominalMm + from / 1000, most: nominalMm + to / 1000 });
  const lower = letter.toLowerCase();
  if (lower === 'js') return limits(-width / 2, width / 2);
  const below = BELOW[lower]?.[band];
  if (below !== undefined) return letter === lower ? limits(-below - width, -below) : limits(below, below + width);
  if (letter !== lower) {
    const upper = upperOfHole(lower, grade, band);
    return upper === null ? null : limits(upper - width, upper);
  }
  const split = SPLIT_ABOVE[letter]?.[SPLIT_UP_TO_MM.findIndex((most) => nominalMm <= most)];
  const above = letter === 'k' && grade > 7 ? 0 : (ABOVE[letter]?.[band] ?? split);
  return above === undefined ? null : limits(above, above + width);
}

/**
 * The upper deviation of a hole into which something is pressed: that of the shaft of the same letter, turned round, and
 * less by how much wider its grade is than the one before, so that a hole fits the shaft of the next finer grade alike.
 */
function upperOfHole(letter: string, grade: number, band: number): number | null {
  const shaft = ABOVE[letter]?.[band];
  if (shaft === undefined) return null;
  const isFine = grade <= (letter === 'p' ? 7 : 8);
  if (!isFine) {
    // Beyond grade 8 K is there for the smallest sizes alone, and N lies at the nominal size but for those.
    if (letter === 'k') return band === 0 ? 0 : null;
    return letter === 'n' && band > 0 ? 0 : -shaft;
  }
  if (band === 0) return -shaft;
  // The one exception of the table.
  if (letter === 'm' && grade === 6 && UP_TO_MM[band] === 315) return -9;
  return -shaft + GRADES[grade]![band]! - GRADES[grade - 1]![band]!;
}
