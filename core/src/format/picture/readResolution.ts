import { PRIORS, type Resolution } from '../../calibration';
import { isJpeg } from '../sniff/sniffJpeg';
import { isPng } from '../sniff/sniffPng';

/** Pixels per mm that a file may state and be believed: 12 to 10,000 per inch. */
const LEAST_PER_MM = 0.5;
const MOST_PER_MM = 400;
/** 72 and 96 per inch, and one per millimetre, are what programs write that know of no scale. */
const MEANINGLESS_PER_INCH = [25.4, 72, 96];

/** A stated scale, or null where it is none, or one that is written without knowing. */
export function asResolution(perMmX: number, perMmY: number): Resolution | null {
  const sound = [perMmX, perMmY].every((v) => v >= LEAST_PER_MM && v <= MOST_PER_MM);
  if (!sound || MEANINGLESS_PER_INCH.some((ppi) => Math.abs(perMmX * 25.4 - ppi) < 0.5)) return null;
  return { perMmX, perMmY, sigma: PRIORS.sigmaResolution };
}

/** The resolution that a PNG (pHYs) or a JPEG (JFIF) states for itself, as stored; null when it says none. */
export function readResolution(bytes: Uint8Array): Resolution | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (isPng(bytes)) return readPhys(view);
  return isJpeg(bytes) ? readJfif(view) : null;
}

/** Source: PNG specification, 11.3.4.3. Chunks before the pixels only. */
function readPhys(view: DataView): Resolution | null {
  let at = 8;
  while (at + 21 <= view.byteLength) {
    const length = view.getUint32(at);
    const kind = view.getUint32(at + 4);
    if (kind === PHYS && length === 9 && view.getUint8(at + 16) === 1)
      return asResolution(view.getUint32(at + 8) / 1000, view.getUint32(at + 12) / 1000);
    if (kind === IDAT) return null;
    at += 12 + length;
  }
  return null;
}
const PHYS = 0x70485973;
const IDAT = 0x49444154;

/** Source: ITU-T T.871 (JFIF): the first segment after the start of the image. */
function readJfif(view: DataView): Resolution | null {
  if (view.byteLength < 20 || view.getUint16(2) !== APP0 || view.getUint32(6) !== JFIF) return null;
  const unit = view.getUint8(13);
  const perMm = unit === 1 ? 1 / 25.4 : unit === 2 ? 0.1 : null;
  return perMm === null ? null : asResolution(view.getUint16(14) * perMm, view.getUint16(16) * perMm);
}
const APP0 = 0xffe0;
const JFIF = 0x4a464946;
