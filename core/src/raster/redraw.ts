import type { Pyramid } from './pyramid';

/** Where each place of the drawing comes from, on a net of nodes: u, v in px of the picture, NaN where nowhere. */
export interface SourceNet {
  /** Nodes each way; node (i, j) stands at the drawing's (i, j) × `NET_STEP`. */
  columns: number;
  rows: number;
  places: Float64Array;
}

/** Distance of the nodes, drawing px. Between them the map is taken as straight: below 0.05 px of the picture. */
export const NET_STEP = 16;

/** Asks a map for every node of a drawing. `sourceOf` writes u, v into `out`, or returns false. */
export function buildNet(
  width: number,
  height: number,
  sourceOf: (x: number, y: number, out: Float64Array) => boolean,
): SourceNet {
  const columns = Math.ceil(width / NET_STEP) + 1;
  const rows = Math.ceil(height / NET_STEP) + 1;
  const places = new Float64Array(columns * rows * 2);
  const out = new Float64Array(2);
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      const known = sourceOf(i * NET_STEP, j * NET_STEP, out);
      places[(j * columns + i) * 2] = known ? out[0] : Number.NaN;
      places[(j * columns + i) * 2 + 1] = known ? out[1] : Number.NaN;
    }
  return { columns, rows, places };
}

/**
 * Redraws rows of a drawing from a picture through a net, by bilinear samples of the copy whose pixels come nearest
 * above the drawing's. Places outside the picture stay transparent.
 *
 * In: pyramid and net; `out` is the whole drawing, RGBA, `width` wide, owned by the caller; rows `from` to before `to`.
 */
export function redraw(
  pyramid: Pyramid,
  net: SourceNet,
  width: number,
  from: number,
  to: number,
  out: Uint8ClampedArray,
): void {
  for (let cellY = Math.floor(from / NET_STEP); cellY * NET_STEP < to; cellY++)
    for (let cellX = 0; cellX * NET_STEP < width; cellX++) redrawCell(pyramid, net, width, from, to, out, cellX, cellY);
}

function redrawCell(
  pyramid: Pyramid,
  { columns, places }: SourceNet,
  width: number,
  from: number,
  to: number,
  out: Uint8ClampedArray,
  cellX: number,
  cellY: number,
): void {
  const at = (cellY * columns + cellX) * 2;
  const below = at + columns * 2;
  const [u00, v00, u10, v10] = [places[at], places[at + 1], places[at + 2], places[at + 3]];
  const [u01, v01, u11, v11] = [places[below], places[below + 1], places[below + 2], places[below + 3]];
  if (!Number.isFinite(u00 + u10 + u01 + u11)) return;
  const stepPx = Math.max(Math.hypot(u10 - u00, v10 - v00), Math.hypot(u01 - u00, v01 - v00)) / NET_STEP;
  const level = Math.max(0, Math.min(pyramid.length - 1, Math.floor(Math.log2(Math.max(stepPx, 1)) + LEVEL_BIAS)));
  const { width: w, height: h, data } = pyramid[level];
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
    let to4 = (y * width + xStart) * 4;
    for (let x = xStart; x < xEnd; x++, u += du, v += dv, to4 += 4) {
      if (!(u > -0.5 && v > -0.5 && u < w - 0.5 && v < h - 0.5)) continue;
      const x0 = u < 0 ? 0 : u >= w - 1 ? w - 2 : u | 0;
      const y0 = v < 0 ? 0 : v >= h - 1 ? h - 2 : v | 0;
      const fu = Math.min(1, Math.max(0, u - x0));
      const fv = Math.min(1, Math.max(0, v - y0));
      const a = (y0 * w + x0) * 4;
      const b = a + w * 4;
      const w00 = (1 - fu) * (1 - fv);
      const w10 = fu * (1 - fv);
      const w01 = (1 - fu) * fv;
      const w11 = fu * fv;
      out[to4] = data[a] * w00 + data[a + 4] * w10 + data[b] * w01 + data[b + 4] * w11;
      out[to4 + 1] = data[a + 1] * w00 + data[a + 5] * w10 + data[b + 1] * w01 + data[b + 5] * w11;
      out[to4 + 2] = data[a + 2] * w00 + data[a + 6] * w10 + data[b + 2] * w01 + data[b + 6] * w11;
      out[to4 + 3] = data[a + 3] * w00 + data[a + 7] * w10 + data[b + 3] * w01 + data[b + 7] * w11;
    }
  }
}

/** Slightly towards the smaller copy: fine texture then does not glitter while zooming. */
const LEVEL_BIAS = 0.35;
