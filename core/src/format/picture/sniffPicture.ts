/** Most pixels taken: above it the colours alone would fill half a gigabyte of the browser's memory. */
export const MOST_PIXELS = 120e6;
/** Largest picture file taken, bytes. */
export const MOST_PICTURE_BYTES = 200e6;

export type PictureFault =
  | { reason: 'empty' | 'not-a-picture' | 'truncated' | 'file-too-large' | 'broken' }
  | { reason: 'too-many-pixels'; megapixels: number };

export type SniffResult =
  | { ok: true; mime: 'image/jpeg' | 'image/png'; widthPx: number; heightPx: number }
  | ({ ok: false } & PictureFault);

/**
 * Tells by its bytes what picture a file holds, how large it is and whether it is whole, before anything decodes it.
 * The name and the stated type are not believed. Size is as stored: before the turn that EXIF may ask for.
 */
export function sniffPicture(bytes: Uint8Array): SniffResult {
  if (bytes.length === 0) return { ok: false, reason: 'empty' };
  if (bytes.length > MOST_PICTURE_BYTES) return { ok: false, reason: 'file-too-large' };
  const found = isJpeg(bytes) ? sniffJpeg(bytes) : isPng(bytes) ? sniffPng(bytes) : null;
  if (!found) return { ok: false, reason: 'not-a-picture' };
  if (!found.ok) return found;
  const pixels = found.widthPx * found.heightPx;
  if (pixels === 0) return { ok: false, reason: 'broken' };
  if (pixels > MOST_PIXELS) return { ok: false, reason: 'too-many-pixels', megapixels: pixels / 1e6 };
  return found;
}

const isJpeg = (b: Uint8Array): boolean => b[0] === 0xff && b[1] === 0xd8 && b[2] === 0xff;
const PNG_SIGNATURE = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
const isPng = (b: Uint8Array): boolean => PNG_SIGNATURE.every((v, k) => b[k] === v);

/** Markers up to the first scan, then the end-of-image marker behind it (ITU-T T.81, annex B). */
function sniffJpeg(b: Uint8Array): SniffResult {
  let size: { widthPx: number; heightPx: number } | null = null;
  let at = 2;
  while (at + 4 <= b.length) {
    if (b[at] !== 0xff) return { ok: false, reason: 'broken' };
    const marker = b[at + 1];
    if (marker === 0xff) {
      at += 1;
      continue;
    }
    if (marker === 0x01 || (marker >= 0xd0 && marker <= 0xd7)) {
      at += 2;
      continue;
    }
    const length = (b[at + 2] << 8) | b[at + 3];
    if (length < 2) return { ok: false, reason: 'broken' };
    const isFrame = marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc;
    if (isFrame && at + 9 <= b.length)
      size = { heightPx: (b[at + 5] << 8) | b[at + 6], widthPx: (b[at + 7] << 8) | b[at + 8] };
    at += 2 + length;
    if (marker === 0xda) {
      if (!size) return { ok: false, reason: 'broken' };
      return hasEndOfImage(b, at) ? { ok: true, mime: 'image/jpeg', ...size } : { ok: false, reason: 'truncated' };
    }
  }
  return { ok: false, reason: 'truncated' };
}

/** Inside a scan 0xFF is always stuffed or a restart, so the first 0xFFD9 behind it is the end. */
function hasEndOfImage(b: Uint8Array, from: number): boolean {
  for (let at = b.indexOf(0xff, from); at >= 0 && at + 1 < b.length; at = b.indexOf(0xff, at + 1))
    if (b[at + 1] === 0xd9) return true;
  return false;
}

/** Chunks from IHDR to IEND (ISO/IEC 15948). */
function sniffPng(b: Uint8Array): SniffResult {
  const view = new DataView(b.buffer, b.byteOffset, b.byteLength);
  if (b.length < 33) return { ok: false, reason: 'truncated' };
  if (view.getUint32(12) !== CHUNK.IHDR) return { ok: false, reason: 'broken' };
  const size = { widthPx: view.getUint32(16), heightPx: view.getUint32(20) };
  let at = 8;
  while (at + 12 <= b.length) {
    const length = view.getUint32(at);
    const kind = view.getUint32(at + 4);
    if (at + 12 + length > b.length) break;
    if (kind === CHUNK.IEND) return { ok: true, mime: 'image/png', ...size };
    at += 12 + length;
  }
  return { ok: false, reason: 'truncated' };
}

const CHUNK = { IHDR: 0x49484452, IEND: 0x49454e44 } as const;
