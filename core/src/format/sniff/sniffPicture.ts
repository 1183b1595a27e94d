import { MOST } from '../../job';
import { isHeic, sniffHeic } from './sniffHeic';
import { isJpeg, sniffJpeg } from './sniffJpeg';
import { isPng, sniffPng } from './sniffPng';
import type { PictureMime, SniffResult } from './sniffResult';
import { isTiff, sniffTiff } from './sniffTiff';
import { isWebp, sniffWebp } from './sniffWebp';

/** Largest picture file taken, bytes. */
export const MOST_PICTURE_BYTES = 200e6;

/**
 * Tells by its bytes what picture a file holds, how large it is and whether it is whole, before anything decodes it.
 * The name and the stated type are not believed. Size is as stored: before the turn that EXIF may ask for.
 */
export function sniffPicture(bytes: Uint8Array): SniffResult {
  if (bytes.length === 0) return { ok: false, reason: 'empty' };
  if (bytes.length > MOST_PICTURE_BYTES) return { ok: false, reason: 'file-too-large' };
  const kind = KINDS.find((k) => k.is(bytes));
  if (!kind) return { ok: false, reason: 'not-a-picture' };
  const found = kind.sniff(bytes);
  if (!found.ok) return found;
  const pixels = found.widthPx * found.heightPx;
  if (!(pixels > 0)) return { ok: false, reason: 'broken' };
  if (pixels > MOST.pixels) return { ok: false, reason: 'too-many-pixels', megapixels: pixels / 1e6 };
  if (Math.max(found.widthPx, found.heightPx) > MOST.sidePx)
    return { ok: false, reason: 'too-long', mostPx: MOST.sidePx };
  return found;
}

/** What kind of picture bytes begin like, null for none: enough of the beginning is `HEAD_BYTES`. */
export const tellMime = (head: Uint8Array): PictureMime | null => KINDS.find((k) => k.is(head))?.mime ?? null;

export const HEAD_BYTES = 64;

const KINDS: readonly { mime: PictureMime; is(b: Uint8Array): boolean; sniff(b: Uint8Array): SniffResult }[] = [
  { mime: 'image/jpeg', is: isJpeg, sniff: sniffJpeg },
  { mime: 'image/png', is: isPng, sniff: sniffPng },
  { mime: 'image/webp', is: isWebp, sniff: sniffWebp },
  { mime: 'image/tiff', is: isTiff, sniff: sniffTiff },
  { mime: 'image/heic', is: isHeic, sniff: sniffHeic },
];
