import type { Pixels, Pyramid } from '../raster';
import { locateEdge } from './locate';
import { steepest } from './steepest';

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

/** A rectangle of the original picture, px. */
export interface PixelRect {
  leftPx: number;
  topPx: number;
  widthPx: number;
  heightPx: number;
}

/** Without being told, the part is expected in the middle: shares of the sides left out all round. */
const MARGIN = 0.1;
/** Cells each way in which the strongest edge is tried. */
const CELLS = 8;
const TRIED_CONTRAST = 0.05;

/**
 * Judges sharpness by the blur of located edges (not by contrast of neighbours, which noise and sharpening raise), and
 * clipping and contrast by its brightness.
 * In: the picture with its halved copies, and where in it the part is; null for its middle. It tries at most 64 edges,
 * one in each cell of a net.
 */
export function judgePicture(pyramid: Pyramid, within: PixelRect | null = null): PictureJudgement {
  const picture = pyramid[0]!;
  const { leftPx, topPx, widthPx, heightPx } = within ?? {
    leftPx: MARGIN * picture.width,
    topPx: MARGIN * picture.height,
    widthPx: (1 - 2 * MARGIN) * picture.width,
    heightPx: (1 - 2 * MARGIN) * picture.height,
  };
  const longest = Math.max(widthPx, heightPx) / picture.width;
  const small = pyramid.findLast((level) => longest * level.width >= LEAST_SIDE_PX) ?? picture;
  const scale = small.width / picture.width;
  const area = { left: scale * leftPx, top: scale * topPx, width: scale * widthPx, height: scale * heightPx };
  const blurs = edgeBlurs(picture, small, area);
  return { blurPx: blurs.length ? blurs[blurs.length >> 1]! : null, edges: blurs.length, ...brightness(small, area) };
}

/** A copy smaller than this along the part does not show where its edges are, px. */
const LEAST_SIDE_PX = 640;

/** Where the part is in a copy of the picture, px of the copy. */
interface Area {
  left: number;
  top: number;
  width: number;
  height: number;
}

function edgeBlurs(picture: Pixels, small: Pixels, area: Area): number[] {
  const scale = picture.width / small.width;
  const [across, down] = [area.width / CELLS, area.height / CELLS];
  const blurs: number[] = [];
  for (let j = 0; j < CELLS; j++)
    for (let i = 0; i < CELLS; i++) {
      const cell = { left: area.left + i * across, top: area.top + j * down, width: across, height: down };
      const at = steepest(small, cell, LEAST_STEP);
      if (!at) continue;
      const edge = locateEdge(picture, at.x * scale, at.y * scale, {
        searchPx: 6 + 2 * scale,
        leastContrast: TRIED_CONTRAST,
      });
      if (edge) blurs.push(edge.blurPx);
    }
  return blurs.sort((a, b) => a - b);
}

/** Steps of 255 below which a cell is taken as even. */
const LEAST_STEP = 40;

function brightness(
  { width, height, data }: Pixels,
  area: Area,
): Pick<PictureJudgement, 'white' | 'black' | 'contrast'> {
  const counts = new Float64Array(256);
  let all = 0;
  for (let y = Math.max(0, Math.floor(area.top)); y < Math.min(height, area.top + area.height); y++)
    for (let x = Math.max(0, Math.floor(area.left)); x < Math.min(width, area.left + area.width); x++) {
      const at = (y * width + x) * 4;
      counts[(data[at]! * 54 + data[at + 1]! * 183 + data[at + 2]! * 19) >> 8]! += 1;
      all += 1;
    }
  const percentile = (share: number) => {
    let sum = 0;
    for (let k = 0; k < 256; k++) {
      sum += counts[k]!;
      if (sum >= share * all) return k;
    }
    return 255;
  };
  return {
    white: (counts[254]! + counts[255]!) / all,
    black: (counts[0]! + counts[1]!) / all,
    contrast: (percentile(0.95) - percentile(0.05)) / 255,
  };
}
