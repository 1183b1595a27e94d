import type { SniffResult } from './sniffResult';

export const isJpeg = (b: Uint8Array): boolean => b[0] === 0xff && b[1] === 0xd8 && b[2] === 0xff;

/** Markers up to the first scan, then the end-of-image marker behind it (ITU-T T.81, annex B). */
export function sniffJpeg(b: Uint8Array): SniffResult {
  let size: { widthPx: number; heightPx: number } | null = null;
  let at = 2;
  while (at + 4 <= b.length) {
    if (b[at] !== 0xff) return { ok: false, reason: 'broken' };
    const marker = b[at + 1]!;
    if (marker === 0xff) {
      at += 1;
      continue;
    }
    if (marker === 0x01 || (marker >= 0xd0 && marker <= 0xd7)) {
      at += 2;
      continue;
    }
    const length = (b[at + 2]! << 8) | b[at + 3]!;
    if (length < 2) return { ok: false, reason: 'broken' };
    const isFrame = marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc;
    if (isFrame && at + 9 <= b.length)
      size = { heightPx: (b[at + 5]! << 8) | b[at + 6]!, widthPx: (b[at + 7]! << 8) | b[at + 8]! };
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
