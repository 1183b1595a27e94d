import type { SniffResult } from './sniffResult';

const BRANDS = ['heic', 'heix', 'heim', 'heis', 'hevc', 'mif1', 'msf1'];
const text = (b: Uint8Array, at: number): string => String.fromCharCode(b[at]!, b[at + 1]!, b[at + 2]!, b[at + 3]!);

export const isHeic = (b: Uint8Array): boolean =>
  b.length >= 16 && text(b, 4) === 'ftyp' && BRANDS.includes(text(b, 8));

/** Size from the largest image's `ispe` property; whole when every top-level box ends within the file (ISO/IEC 23008-12). */
export function sniffHeic(b: Uint8Array): SniffResult {
  const view = new DataView(b.buffer, b.byteOffset, b.byteLength);
  let metaAt = -1;
  let metaEnd = -1;
  for (let at = 0; at + 8 <= b.length; ) {
    const stated = view.getUint32(at);
    const size =
      stated === 1 && at + 16 <= b.length ? Number(view.getBigUint64(at + 8)) : stated === 0 ? b.length - at : stated;
    if (size < 8) return { ok: false, reason: 'broken' };
    if (at + size > b.length) return { ok: false, reason: 'truncated' };
    if (text(b, at + 4) === 'meta') [metaAt, metaEnd] = [at, at + size];
    at += size;
  }
  let [widthPx, heightPx] = [0, 0];
  // Thumbnails and tiles have sizes of their own: the largest is the picture.
  for (let at = metaAt; at >= 0 && at + 20 <= metaEnd; at++) {
    if (text(b, at) !== 'ispe') continue;
    const [w, h] = [view.getUint32(at + 8), view.getUint32(at + 12)];
    if (w * h > widthPx * heightPx) [widthPx, heightPx] = [w, h];
  }
  return widthPx ? { ok: true, mime: 'image/heic', widthPx, heightPx } : { ok: false, reason: 'broken' };
}
