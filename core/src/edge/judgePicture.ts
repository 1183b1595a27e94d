import type { Pixels, Pyramid } from '../raster';
import { locateEdge } from './locate';

/** How fit a picture is for measuring. */
export interface PictureJudgement {
  /** Median blur of its clearest edges, σ in px; null when it has no clear edge. */
  blurPx: number | null;
  /** Edges that the median stands on. */
  edges: number;
  /** Shares of pixels at the end of the scale, 0 to 1. */
  white: number;
  black: number;
  /** Between the 5th and the 95th percentile of brightness, 0 to 1 of the file's scale. */
  contrast: number;
}

/** The part is expected here: shares of the sides left out all round. */
const MARGIN = 0.1;
/** Cells each way in which the strongest edge is tried. */
const CELLS = 8;
const TRIED_CONTRAST = 0.05;

/**
 * Judges sharpness by the blur of located edges (not by contrast of neighbours, which noise and sharpening raise), and
 * clipping and contrast by the brightness of the middle.
 * In: the picture with its halved copies. It tries at most 64 edges, one in each cell of a net.
 */
export function judgePicture(pyramid: Pyramid): PictureJudgement {
  const small = pyramid.findLast((level) => Math.max(level.width, level.height) >= 800) ?? pyramid[0];
  const blurs = edgeBlurs(pyramid[0], small);
  return { blurPx: blurs.length ? blurs[blurs.length >> 1] : null, edges: blurs.length, ...brightness(small) };
}

function edgeBlurs(picture: Pixels, small: Pixels): number[] {
  const scale = picture.width / small.width;
  const blurs: number[] = [];
  for (let j = 0; j < CELLS; j++)
    for (let i = 0; i < CELLS; i++) {
      const span = (1 - 2 * MARGIN) / CELLS;
      const at = strongest(
        small,
        (MARGIN + i * span) * small.width,
        (MARGIN + j * span) * small.height,
        span * small.width,
        span * small.height,
      );
      if (!at) continue;
      const edge = locateEdge(picture, at.x * scale, at.y * scale, {
        searchPx: 6 + 2 * scale,
        leastContrast: TRIED_CONTRAST,
      });
      if (edge) blurs.push(edge.blurPx);
    }
  return blurs.sort((a, b) => a - b);
}

/** Steepest place of a cell, by differences of green; null in an even cell. */
function strongest(
  { width, height, data }: Pixels,
  left: number,
  top: number,
  w: number,
  h: number,
): { x: number; y: number } | null {
  let most = LEAST_STEP;
  let best: { x: number; y: number } | null = null;
  for (let y = Math.max(1, Math.floor(top)); y < Math.min(height - 1, top + h); y++)
    for (let x = Math.max(1, Math.floor(left)); x < Math.min(width - 1, left + w); x++) {
      const at = (y * width + x) * 4 + 1;
      const step = Math.abs(data[at + 4] - data[at - 4]) + Math.abs(data[at + 4 * width] - data[at - 4 * width]);
      if (step > most) {
        most = step;
        best = { x: x + 0.5, y: y + 0.5 };
      }
    }
  return best;
}

/** Steps of 255 below which a cell is taken as even. */
const LEAST_STEP = 40;

function brightness({ width, height, data }: Pixels): Pick<PictureJudgement, 'white' | 'black' | 'contrast'> {
  const counts = new Float64Array(256);
  let all = 0;
  for (let y = Math.floor(MARGIN * height); y < (1 - MARGIN) * height; y++)
    for (let x = Math.floor(MARGIN * width); x < (1 - MARGIN) * width; x++) {
      const at = (y * width + x) * 4;
      counts[(data[at] * 54 + data[at + 1] * 183 + data[at + 2] * 19) >> 8] += 1;
      all += 1;
    }
  const percentile = (share: number) => {
    let sum = 0;
    for (let k = 0; k < 256; k++) {
      sum += counts[k];
      if (sum >= share * all) return k;
    }
    return 255;
  };
  return {
    white: (counts[254] + counts[255]) / all,
    black: (counts[0] + counts[1]) / all,
    contrast: (percentile(0.95) - percentile(0.05)) / 255,
  };
}
