import { cutPatch, type Pixels } from '../raster';
import { SEEK_SIGMA_PX, seekColourEdge } from './colours';
import { NO_LENS_PX, settleSeat } from './settleSeat';
import { steepest } from './steepest';

/** Cells each way, in each of which the steepest place is tried. */
const CELLS = 5;
/** Rows that are looked through for it lie so far apart, px. */
const ROW_STRIDE = 5;
/** Steps of green of 255, over two pixels, below which a cell is taken as even. */
const LEAST_STEP = 20;
/** As short as it may be: only the blur is asked for. */
const TRIED = { searchPx: 5, halfLengthPx: 4, reachPx: 6, leastContrast: 0.03 } as const;
const CUT_PX = 20;
/** An edge of this rank counts, as a share of all: nothing is sharper than the lens, but noise reads a few as if. */
const RANK = 0.2;
const FEWEST_EDGES = 5;

const known = new WeakMap<Pixels['data'], number | null>();

/**
 * How soft the picture's sharpest edges are, σ px: what lens, sensor and file make of a step. What is softer than that
 * somewhere is no single step. Worked out once for a picture, by at most 25 edges, each fitted once: the first look at a
 * picture waits for it.
 * Degenerate: a picture with fewer than five clear edges gives null.
 */
export function lensBlurOf(pixels: Pixels): number | null {
  const before = known.get(pixels.data);
  if (before !== undefined) return before;
  const blurs: number[] = [];
  const [width, height] = [pixels.width / CELLS, pixels.height / CELLS];
  for (let j = 0; j < CELLS; j++)
    for (let i = 0; i < CELLS; i++) {
      const at = steepest(pixels, { left: i * width, top: j * height, width, height }, LEAST_STEP, ROW_STRIDE);
      const blur = at && blurAt(pixels, at.x, at.y);
      if (blur) blurs.push(blur);
    }
  blurs.sort((a, b) => a - b);
  const blur = blurs.length < FEWEST_EDGES ? null : blurs[Math.floor(RANK * blurs.length)]!;
  known.set(pixels.data, blur);
  return blur;
}

function blurAt(pixels: Pixels, x: number, y: number): number | null {
  const patch = cutPatch(pixels, x, y, CUT_PX);
  const seat = patch && seekColourEdge({ ...patch, channels: [patch.light] }, x, y, TRIED.searchPx, SEEK_SIGMA_PX, [1]);
  const light = patch && { ...patch, lensPx: NO_LENS_PX };
  return (light && seat && settleSeat(light, { ...seat, bend: 0 }, 'edge', TRIED, x, y, false, 1)?.own.blurPx) || null;
}
