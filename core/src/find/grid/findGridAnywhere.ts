import type { Pixels } from '../../raster';
import { findBoard } from './board/findBoard';
import { findDots } from './dots/findDots';
import { findLineGrid, type GridResult } from './findGrid';

/** Where a grid that fills a picture is looked for, in parts of its size. */
const GRID_LOOKS = [
  [0.5, 0.5],
  [0.35, 0.4],
  [0.65, 0.6],
] as const;
/** So many crossings leave no doubt that it is the grid. */
const CLEAR_GRID = 80;

/** Finds a grid of lines about the middle of a picture, from several places: the one with the most crossings; else a checkerboard, or dots. */
export function findGridAnywhere(picture: Pixels): GridResult {
  const { width, height } = picture;
  let grid: GridResult = { ok: false, reason: 'no-grid' };
  for (const [x, y] of GRID_LOOKS) {
    const found = findLineGrid(picture, { uPx: x * width, vPx: y * height });
    const better = found.ok && (!grid.ok || found.crossings.length > grid.crossings.length);
    if (better || !grid.ok) grid = found;
    if (grid.ok && grid.crossings.length > CLEAR_GRID) break;
  }
  const board = grid.ok ? null : (findBoard(picture, null) ?? findDots(picture, null));
  return board ? { ok: true, ...board } : grid;
}
