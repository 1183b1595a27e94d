import type { Pixels } from '../raster';
import { coarseOf } from './shared/coarse';

/** Long side of the copy that is looked at, px: strokes of a page are some three of them wide. */
const LONG_PX = 1400;
/** Darker than so much of the paper is ink, lighter than so much is paper; of all that is neither at most so much. */
const INK = 0.6;
const PAPER = 0.86;
const BETWEEN_SHARE = 0.06;
/** Ink covers at least and at most so much of a page. */
const INKED = { least: 0.002, most: 0.16 } as const;
/** Strokes are thin: half of all runs of ink are narrower than so much of the long side, and nine of ten than that. */
const THIN = { half: 0.006, most: 0.02 } as const;

/**
 * Whether a page is a line drawing: two brightnesses, most of it paper, and what is not is thin strokes. A part on the glass is
 * dark all over, a photograph has all brightnesses.
 */
export function isLineDrawing(pixels: Pixels): boolean {
  const { width, height, gray } = coarseOf(pixels, LONG_PX);
  const sorted = gray.filter((_, k) => k % 7 === 0).sort();
  const paper = sorted[Math.floor(0.7 * sorted.length)]!;
  if (!(paper > 110)) return false;
  let [ink, between] = [0, 0];
  for (const v of gray) {
    if (v < INK * paper) ink += 1;
    else if (v < PAPER * paper) between += 1;
  }
  // Each stroke has a border that is neither: as much of it as there is ink.
  if (ink < INKED.least * gray.length || ink > INKED.most * gray.length) return false;
  if (between > BETWEEN_SHARE * gray.length + ink) return false;
  const runs = [
    ...runsAlong(gray, width, height, false, INK * paper),
    ...runsAlong(gray, width, height, true, INK * paper),
  ];
  runs.sort((a, b) => a - b);
  const long = Math.max(width, height);
  // A stroke that runs along a row is one long run there, and many short ones across: half of them tell.
  return runs[runs.length >> 1]! < THIN.half * long && widthAt(gray, width, height, INK * paper) < THIN.most * long;
}

/** Lengths of dark runs along every fourth row, or column. */
function runsAlong(gray: Float32Array, width: number, height: number, down: boolean, ink: number): number[] {
  const [lines, length] = down ? [width, height] : [height, width];
  const runs: number[] = [];
  for (let line = 0; line < lines; line += 4) {
    let run = 0;
    for (let k = 0; k <= length; k++) {
      const dark = k < length && gray[down ? k * width + line : line * width + k]! < ink;
      if (dark) run += 1;
      else if (run > 0) {
        runs.push(run);
        run = 0;
      }
    }
  }
  return runs;
}

/** How wide ink is at nine of ten of its places: the shorter of its runs along and across there, px. */
function widthAt(gray: Float32Array, width: number, height: number, ink: number): number {
  const widths: number[] = [];
  const isDark = (x: number, y: number) => x >= 0 && y >= 0 && x < width && y < height && gray[y * width + x]! < ink;
  const run = (x: number, y: number, dx: number, dy: number): number => {
    let n = 1;
    for (let k = 1; isDark(x + k * dx, y + k * dy); k++) n += 1;
    for (let k = 1; isDark(x - k * dx, y - k * dy); k++) n += 1;
    return n;
  };
  for (let y = 1; y < height; y += 3)
    for (let x = 1; x < width; x += 3)
      if (isDark(x, y)) widths.push(Math.min(run(x, y, 1, 0), run(x, y, 0, 1), run(x, y, 1, 1), run(x, y, 1, -1)));
  widths.sort((a, b) => a - b);
  return widths[Math.floor(0.9 * widths.length)] ?? 0;
}
