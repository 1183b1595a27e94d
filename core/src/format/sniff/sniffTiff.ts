import type { SniffResult } from './sniffResult';

const II = [0x49, 0x49, 42, 0];
const MM = [0x4d, 0x4d, 0, 42];
const starts = (b: Uint8Array, with_: readonly number[]): boolean => with_.every((v, k) => b[k] === v);

export const isTiff = (b: Uint8Array): boolean => starts(b, II) || starts(b, MM);

const TAG = { width: 256, height: 257, stripOffsets: 273, stripBytes: 279, tileOffsets: 324, tileBytes: 325 } as const;
const LONG = 4;
const SHORT = 3;
/** A first directory has a few dozen entries; thousands are a broken or a hostile file. */
const MOST_ENTRIES = 500;

/** Size from the first directory, and whether the pixels that it points to lie within the file (TIFF 6.0). */
export function sniffTiff(b: Uint8Array): SniffResult {
  if (b.length < 8) return { ok: false, reason: 'truncated' };
  const view = new DataView(b.buffer, b.byteOffset, b.byteLength);
  const little = starts(b, II);
  const at = view.getUint32(4, little);
  if (at + 2 > b.length) return { ok: false, reason: 'truncated' };
  const count = view.getUint16(at, little);
  if (count === 0 || count > MOST_ENTRIES) return { ok: false, reason: 'broken' };
  if (at + 2 + 12 * count > b.length) return { ok: false, reason: 'truncated' };
  const values: Partial<Record<number, number[]>> = {};
  for (let k = 0; k < count; k++) {
    const entry = at + 2 + 12 * k;
    const tag = view.getUint16(entry, little);
    if (!Object.values<number>(TAG).includes(tag)) continue;
    const list = readEntry(view, entry, little);
    if (!list) return { ok: false, reason: 'truncated' };
    values[tag] = list;
  }
  const [widthPx] = values[TAG.width] ?? [];
  const [heightPx] = values[TAG.height] ?? [];
  const offsets = values[TAG.stripOffsets] ?? values[TAG.tileOffsets];
  const bytes = values[TAG.stripBytes] ?? values[TAG.tileBytes];
  if (!widthPx || !heightPx || !offsets || !bytes || offsets.length !== bytes.length)
    return { ok: false, reason: 'broken' };
  if (offsets.some((o, k) => o + bytes[k]! > b.length)) return { ok: false, reason: 'truncated' };
  return { ok: true, mime: 'image/tiff', widthPx, heightPx };
}

/** Whole numbers of an entry, in place or where it points; null when that is outside the file. */
function readEntry(view: DataView, entry: number, little: boolean): number[] | null {
  const kind = view.getUint16(entry + 2, little);
  const count = view.getUint32(entry + 4, little);
  const size = kind === LONG ? 4 : kind === SHORT ? 2 : 0;
  if (size === 0 || count * size > view.byteLength) return null;
  const from = count * size <= 4 ? entry + 8 : view.getUint32(entry + 8, little);
  if (from + count * size > view.byteLength) return null;
  return Array.from({ length: count }, (_, k) =>
    size === 4 ? view.getUint32(from + 4 * k, little) : view.getUint16(from + 2 * k, little),
  );
}

/** Tags that tell how pixels are kept (TIFF 6.0): sizes, bits, packing, strips and tiles, colours, tables. */
const PIXEL_TAGS = new Set([
  256, 257, 258, 259, 262, 266, 273, 277, 278, 279, 284, 317, 320, 322, 323, 324, 325, 338, 339, 347,
]);
/** Bytes of a value by its type, 1 to 12. */
const TYPE_BYTES = [0, 1, 1, 2, 4, 8, 1, 1, 2, 4, 8, 4, 8];

/**
 * A copy of a TIFF in which nothing but the pixels of its first page can be found: every other entry of the directory
 * is emptied, and it leads to no further one. Null when the directory, or what an entry points to, is not in the file.
 */
export function firstPageAlone(bytes: Uint8Array): ArrayBuffer | null {
  if (bytes.length < 8) return null;
  const copy = bytes.slice().buffer;
  const view = new DataView(copy);
  const little = starts(bytes, II);
  const at = view.getUint32(4, little);
  if (at + 2 > bytes.length) return null;
  const count = view.getUint16(at, little);
  if (count === 0 || count > MOST_ENTRIES || at + 2 + 12 * count > bytes.length) return null;
  for (let k = 0; k < count; k++) {
    const entry = at + 2 + 12 * k;
    const values = view.getUint32(entry + 4, little);
    const size = (TYPE_BYTES[view.getUint16(entry + 2, little)] ?? 0) * values;
    if (!PIXEL_TAGS.has(view.getUint16(entry, little))) {
      // A tag that nobody uses, with one byte in place.
      view.setUint16(entry, 65_000, little);
      view.setUint16(entry + 2, 1, little);
      view.setUint32(entry + 4, 1, little);
    } else if (size === 0 || (size > 4 && view.getUint32(entry + 8, little) + size > bytes.length)) return null;
  }
  if (at + 6 + 12 * count <= bytes.length) view.setUint32(at + 2 + 12 * count, 0, little);
  return copy;
}
