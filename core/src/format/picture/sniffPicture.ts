import { isHeic, sniffHeic } from './sniffHeic';
import { isJpeg, sniffJpeg } from './sniffJpeg';
import { isPng, sniffPng } from './sniffPng';
import type { SniffResult } from './sniffResult';
import { isTiff, sniffTiff } from './sniffTiff';
import { isWebp, sniffWebp } from './sniffWebp';

/** Most pixels taken: above it the colours alone would fill half a gigabyte of the browser's memory. */
export const MOST_PIXELS = 120e6;
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
  if (pixels === 0) return { ok: false, reason: 'broken' };
  if (pixels > MOST_PIXELS) return { ok: false, reason: 'too-many-pixels', megapixels: pixels / 1e6 };
  return found;
}

const KINDS: readonly { is(b: Uint8Array): boolean; sniff(b: Uint8Array): SniffResult }[] = [
  { is: isJpeg, sniff: sniffJpeg },
  { is: isPng, sniff: sniffPng },
  { is: isWebp, sniff: sniffWebp },
  { is: isTiff, sniff: sniffTiff },
  { is: isHeic, sniff: sniffHeic },
];
