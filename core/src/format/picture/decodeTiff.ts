import UTIF from 'utif2';
import { MOST } from '../../job';
import type { Pixels } from '../../raster';
import { firstPageAlone } from '../sniff/sniffTiff';
import { unpackLzw } from './unpackLzw';

// The reader's own goes round in circles on damaged strips.
Object.assign(UTIF.decode, { _decodeLZW: unpackLzw });

/** Ways of packing that are read (TIFF 6.0; 8 and 32946 are deflate): plain, LZW, deflate, PackBits. */
const PACKINGS = new Set([1, 5, 8, 32946, 32773]);
/** Bits of a sample. */
const DEPTHS = new Set([1, 2, 4, 8, 16]);
const MOST_SAMPLES = 6;

/** Sample formats that are no pictures: floating and complex numbers (TIFF 6.0, section 19). */
const FLOATING = 3;

/**
 * Decodes the first page of a TIFF to eight-bit colours, as stored (not upright): gray, RGB or palette of 1 to 16 bits,
 * plain or packed by LZW, deflate or PackBits. Of the file only the first directory is handed to the reader, and of that
 * only what tells of pixels: it follows whatever else it finds, in circles if need be.
 * Degenerate: a kind that the reader does not know throws; the caller says that the file cannot be read.
 */
export function decodeTiff(bytes: Uint8Array): Pixels {
  const alone = firstPageAlone(bytes);
  if (!alone) throw new Error('decodeTiff: the directory does not hold');
  const [page] = UTIF.decode(alone);
  if (!page) throw new Error('decodeTiff: no page');
  const told = page as unknown as Record<string, number[] | undefined>;
  const one = (tag: number, otherwise: number): number => told[`t${tag}`]?.[0] ?? otherwise;
  const tile = one(322, 0) * one(323, 0);
  if (
    !PACKINGS.has(one(259, 1)) ||
    !DEPTHS.has(one(258, 1)) ||
    !(one(277, 1) <= MOST_SAMPLES) ||
    !(one(256, 0) * one(257, 0) <= MOST.pixels && tile <= MOST.pixels) ||
    !(one(278, 1) >= 1)
  )
    throw new Error('decodeTiff: of a kind that is not read');
  if (one(339, 1) >= FLOATING) throw new Error('decodeTiff: floating pixels are not pictures');
  const rgba = readPixels(alone, page);
  const { width, height } = page;
  if (rgba.length !== width * height * 4) throw new Error('decodeTiff: not as many pixels as stated');
  return { width, height, data: new Uint8ClampedArray(rgba.buffer, rgba.byteOffset, rgba.length) };
}

/** The reader throws what comes to its hand; whoever asked is told with an error. */
function readPixels(alone: ArrayBuffer, page: UTIF.IFD): Uint8Array {
  try {
    UTIF.decodeImage(alone, page);
    if (!page.data?.length) throw new Error('no pixels came out');
    return UTIF.toRGBA8(page);
  } catch (cause) {
    throw new Error('decodeTiff: the pixels cannot be read', { cause });
  }
}
