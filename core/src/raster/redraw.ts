import type { Pyramid } from './pyramid';

/** Where each place of the drawing comes from, on a grid of nodes: u, v in px of the picture, NaN where nowhere. */
export interface WarpGrid {
  /** Nodes each way; node (i, j) stands at the drawing's (i, j) × `NET_STEP`. */
  columns: number;
  rows: number;
  places: Float64Array;
}

/** Distance of the nodes, drawing px. Between them the map is taken as straight: below 0.05 px of the picture. */
const NET_STEP = 16;

/** Asks a map for every node of a drawing. `sourceOf` writes u, v into `out`, or returns false. */
export function buildWarpGrid(
  width: number,
  height: number,
  sourceOf: (x: number, y: number, out: Float64Array) => boolean,
): WarpGrid {
  const columns = Math.ceil(width / NET_STEP) + 1;
  const rows = Math.ceil(height / NET_STEP) + 1;
  const places = new Float64Array(columns * rows * 2);
  const out = new Float64Array(2);
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      const known = sourceOf(i * NET_STEP, j * NET_STEP, out);
      places[(j * columns + i) * 2] = known ? out[0]! : Number.NaN;
      places[(j * columns + i) * 2 + 1] = known ? out[1]! : Number.NaN;
    }
  return { columns, rows, places };
}

/**
 * Redraws rows of a drawing from a picture through a grid, by bilinear samples of the copy whose pixels come nearest
 * above the drawing's. Places outside the picture stay transparent.
 *
 * In: pyramid and grid; `out` is the whole drawing, RGBA from a whole pixel on, `width` wide, owned by the caller; rows `from` to before `to`.
 */
export function redraw(
  pyramid: Pyramid,
  grid: WarpGrid,
  width: number,
  from: number,
  to: number,
  out: Uint8ClampedArray,
): void {
  // Whole pixels at once, red and blue in one number, green and alpha in another: a third of the time of going by bytes.
  const levels = pyramid.map(({ width: w, height: h, data }) => ({ w, h, pixels: wholePixels(data) }));
  const drawn = new Int32Array(out.buffer, out.byteOffset, out.byteLength >> 2);
  for (let cellY = Math.floor(from / NET_STEP); cellY * NET_STEP < to; cellY++)
    for (let cellX = 0; cellX * NET_STEP < width; cellX++)
      redrawCell(levels, grid, width, from, to, drawn, cellX, cellY);
}

interface Level {
  w: number;
  h: number;
  pixels: Int32Array;
}

/** The same bytes, four at once; copied where they do not begin at a whole one. */
function wholePixels({ buffer, byteOffset, byteLength }: Uint8Array | Uint8ClampedArray): Int32Array {
  return byteOffset % 4 === 0
    ? new Int32Array(buffer, byteOffset, byteLength >> 2)
    : new Int32Array(buffer.slice(byteOffset, byteOffset + byteLength));
}

/** Every second byte of a pixel. */
const PAIR = 0x00ff00ff;
/** A half of a level in both of them, for rounding. */
const HALF = 0x00800080;

function redrawCell(
  levels: readonly Level[],
  { columns, places }: WarpGrid,
  width: number,
  from: number,
  to: number,
  out: Int32Array,
  cellX: number,
  cellY: number,
): void {
  const node = (cellY * columns + cellX) * 2;
  const below = node + columns * 2;
  const [u00, v00, u10, v10] = [places[node]!, places[node + 1]!, places[node + 2]!, places[node + 3]!];
  const [u01, v01, u11, v11] = [places[below]!, places[below + 1]!, places[below + 2]!, places[below + 3]!];
  if (!Number.isFinite(u00 + u10 + u01 + u11)) return;
  const stepPx = Math.max(Math.hypot(u10 - u00, v10 - v00), Math.hypot(u01 - u00, v01 - v00)) / NET_STEP;
  const level = Math.max(0, Math.min(levels.length - 1, Math.floor(Math.log2(Math.max(stepPx, 1)) + LEVEL_BIAS)));
  const { w, h, pixels } = levels[level]!;
  const shrink = 1 / (1 << level);
  const yEnd = Math.min(to, (cellY + 1) * NET_STEP);
  const xStart = cellX * NET_STEP;
  const xEnd = Math.min(width, xStart + NET_STEP);
  for (let y = Math.max(from, cellY * NET_STEP); y < yEnd; y++) {
    const fy = (y + 0.5) / NET_STEP - cellY;
    const uLeft = (u00 + (u01 - u00) * fy) * shrink - 0.5;
    const vLeft = (v00 + (v01 - v00) * fy) * shrink - 0.5;
    const du = ((u10 + (u11 - u10) * fy) * shrink - 0.5 - uLeft) / NET_STEP;
    const dv = ((v10 + (v11 - v10) * fy) * shrink - 0.5 - vLeft) / NET_STEP;
    let u = uLeft + 0.5 * du;
    let v = vLeft + 0.5 * dv;
    let at = y * width + xStart;
    for (let x = xStart; x < xEnd; x++, u += du, v += dv, at++) {
      if (!(u > -0.5 && v > -0.5 && u < w - 0.5 && v < h - 0.5)) continue;
      const x0 = u < 0 ? 0 : u >= w - 1 ? w - 2 : u | 0;
      const y0 = v < 0 ? 0 : v >= h - 1 ? h - 2 : v | 0;
      // Shares of the four in 256ths: finer than what the eye, for which this is, can tell.
      const fu = u <= x0 ? 0 : u >= x0 + 1 ? 256 : ((u - x0) * 256 + 0.5) | 0;
      const fv = v <= y0 ? 0 : v >= y0 + 1 ? 256 : ((v - y0) * 256 + 0.5) | 0;
      const w11 = (fu * fv + 128) >> 8;
      const w10 = fu - w11;
      const w01 = fv - w11;
      const w00 = 256 - fu - w01;
      const a = y0 * w + x0;
      const p = pixels[a]!;
      const q = pixels[a + 1]!;
      const r = pixels[a + w]!;
      const s = pixels[a + w + 1]!;
      // Each sum is brought back to 32 bits, as whole numbers.
      const evenAbove = (Math.imul(p & PAIR, w00) + Math.imul(q & PAIR, w10)) | 0;
      const evenBelow = (Math.imul(r & PAIR, w01) + Math.imul(s & PAIR, w11)) | 0;
      const oddAbove = (Math.imul((p >>> 8) & PAIR, w00) + Math.imul((q >>> 8) & PAIR, w10)) | 0;
      const oddBelow = (Math.imul((r >>> 8) & PAIR, w01) + Math.imul((s >>> 8) & PAIR, w11)) | 0;
      const even = (evenAbove + evenBelow + HALF) | 0;
      const odd = (oddAbove + oddBelow + HALF) | 0;
      out[at] = ((even >>> 8) & PAIR) | (odd & ~PAIR);
    }
  }
}

/** Slightly towards the smaller copy: fine texture then does not glitter while zooming. */
const LEVEL_BIAS = 0.35;
