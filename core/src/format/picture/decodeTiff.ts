import { decode } from 'tiff';
import type { Pixels } from '../../raster';

/** Photometric interpretations that need more than spreading (TIFF 6.0, section 8). */
const PALETTE = 3;

/**
 * Decodes the first page of a TIFF, gray, RGB or palette, 8 or 16 bits, to eight-bit colours, as stored (not upright).
 * Degenerate: a kind that the reader does not know throws; the caller says that the file cannot be read.
 */
export function decodeTiff(bytes: Uint8Array): Pixels {
  const [page] = decode(bytes, { pages: [0] });
  const { width, height, components, bitsPerSample, palette, type } = page;
  const source = page.data;
  const shift = bitsPerSample === 16 ? 8 : 0;
  if (source instanceof Float32Array || source instanceof Float64Array)
    throw new Error('decodeTiff: floating pixels are not pictures');
  const colours = components - (page.alpha ? 1 : 0);
  const data = new Uint8ClampedArray(width * height * 4);
  for (let k = 0, from = 0, to = 0; k < width * height; k++, from += components, to += 4) {
    if (type === PALETTE && palette) for (let c = 0; c < 3; c++) data[to + c] = palette[source[from]][c] >> 8;
    else for (let c = 0; c < 3; c++) data[to + c] = source[from + (colours >= 3 ? c : 0)] >> shift;
    data[to + 3] = page.alpha ? source[from + components - 1] >> shift : 255;
  }
  return { width, height, data };
}
