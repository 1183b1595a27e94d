import Flatbush from 'flatbush';
import type { Crossing, PicturePoint } from '../../../calibration';
import type { Pixels } from '../../../raster';
import { cornersIn, grayOf } from './corners';
import { growBoard, type Placed } from './lattice';
import { refineCorner } from './refine';
import { upright } from './upright';

export interface FoundBoard {
  crossings: Crossing[];
  columns: number;
  rows: number;
  /** Share of them that was seen. */
  seen: number;
}

/** Fewer corners than these are no board: chance makes some. */
const FEWEST = 12;
/** So many corners are tried as the first one. */
const MOST_SEEDS = 40;
/** More are not kept: they are chosen evenly. */
const MOST_CROSSINGS = 500;
/** Of what lies within its bounds at least so much has to be seen. */
const LEAST_SEEN = 0.3;

/**
 * Finds a checkerboard by the places where four of its squares meet: partly covered, cut by the frame, bent by a lens.
 *
 * In: a picture, and a place on the board, or null for wherever it is largest. Out: its inner corners as crossings of a
 * grid, i to the right and j upwards; null where there is none.
 */
export function findBoard(pixels: Pixels, click: PicturePoint | null): FoundBoard | null {
  const corners = cornersIn(pixels);
  if (corners.length < FEWEST) return null;
  const index = new Flatbush(corners.length);
  for (const { x, y } of corners) index.add(x, y, x, y);
  index.finish();
  const seeds = click
    ? index.neighbors(click.uPx, click.vPx, MOST_SEEDS)
    : corners
        .map((c, k) => ({ k, contrast: c.contrast }))
        .sort((a, b) => b.contrast - a.contrast)
        .filter((_, n, all) => n % Math.max(1, Math.floor(all.length / MOST_SEEDS)) === 0)
        .map(({ k }) => k);
  let best: Placed[] = [];
  const tried = new Set<number>();
  const numberOf = new Map(corners.map((c, k) => [c, k]));
  for (const seed of seeds) {
    if (tried.has(seed)) continue;
    const grown = growBoard(corners, index, seed);
    for (const { corner } of grown) tried.add(numberOf.get(corner)!);
    if (grown.length > best.length) best = grown;
    // The board at the place is meant, not a larger one elsewhere.
    if (click && best.length >= FEWEST) break;
  }
  return best.length < FEWEST
    ? null
    : told(
        pixels,
        upright(best, (p) => p.corner),
      );
}

function told(pixels: Pixels, placed: readonly Placed[]): FoundBoard | null {
  const gray = grayOf(pixels);
  const at = new Map(placed.map((p) => [`${p.i} ${p.j}`, p.corner]));
  const crossings = placed.flatMap(({ i, j, corner }): Crossing[] => {
    const ways = [at.get(`${i - 1} ${j}`), at.get(`${i + 1} ${j}`), at.get(`${i} ${j - 1}`), at.get(`${i} ${j + 1}`)];
    const spacing = Math.min(...ways.flatMap((o) => (o ? [Math.hypot(o.x - corner.x, o.y - corner.y)] : [])));
    const pick = refineCorner(gray, corner.x, corner.y, spacing);
    return pick ? [{ i, j, pick }] : [];
  });
  if (crossings.length < FEWEST) return null;
  const columns = Math.max(...crossings.map((c) => c.i)) + 1;
  const rows = Math.max(...crossings.map((c) => c.j)) + 1;
  const seen = crossings.length / (columns * rows);
  if (columns < 3 || rows < 3 || seen < LEAST_SEEN) return null;
  const every = Math.ceil(crossings.length / MOST_CROSSINGS);
  return { crossings: crossings.filter((_, k) => k % every === 0), columns, rows, seen };
}
