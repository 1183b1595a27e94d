import sharp from 'sharp';
import type { Shot } from '../render';
import type { Scan } from '../scan';

/** What a camera writes beside its pixels. */
export interface ShotFacts {
  /** Camera constant over picture diagonal gives the 35 mm equivalent; EXIF keeps it as a whole number. */
  focal35Mm?: number;
  focalMm?: number;
  /** EXIF orientation, 1 to 8. */
  orientation?: number;
}

/** Encodes a shot as JPEG with EXIF, as a phone does. */
export async function writeJpeg(shot: Shot, quality: number, facts: ShotFacts = {}): Promise<Uint8Array> {
  const raw = sharp(shot.pixels, { raw: { width: shot.width, height: shot.height, channels: 3 } });
  const exif: Record<string, string> = {};
  if (facts.focal35Mm) exif.FocalLengthIn35mmFilm = String(facts.focal35Mm);
  if (facts.focalMm) exif.FocalLength = `${Math.round(facts.focalMm * 100)}/100`;
  const orientation = facts.orientation ? { orientation: facts.orientation } : {};
  const bytes = await raw
    .withMetadata(orientation)
    .withExif({ IFD0: { Make: 'Simulated', Model: 'Bench camera' }, IFD2: exif })
    .withMetadata(orientation)
    .jpeg({ quality, chromaSubsampling: '4:2:0' })
    .toBuffer();
  return new Uint8Array(bytes);
}

export async function writePng(shot: Shot): Promise<Uint8Array> {
  return new Uint8Array(
    await sharp(shot.pixels, { raw: { width: shot.width, height: shot.height, channels: 3 } })
      .png()
      .toBuffer(),
  );
}

/** Encodes a scan as JPEG that states its resolution, as scanners' software does. */
export async function writeScan(scan: Scan, perInch: number, quality: number): Promise<Uint8Array> {
  const raw = sharp(scan.pixels, { raw: { width: scan.width, height: scan.height, channels: 3 } });
  return new Uint8Array(
    await raw.withMetadata({ density: perInch }).jpeg({ quality, chromaSubsampling: '4:4:4' }).toBuffer(),
  );
}
