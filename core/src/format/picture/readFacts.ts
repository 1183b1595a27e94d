import exifr from 'exifr';
import type { PictureFacts } from '../../truing';

/** Facts of a picture, and the quarter turns that its file asks for. */
export interface FileFacts {
  /** Size and lens once upright. */
  facts: PictureFacts;
  /** EXIF orientation, 1 to 8; 1 is upright. */
  orientation: number;
}

/** EXIF as far as it is used here, with its numbers as they are. */
const PICK = [
  'Orientation',
  'FocalLength',
  'FocalLengthIn35mmFormat',
  'DigitalZoomRatio',
  'ExifImageWidth',
  'ExifImageHeight',
];
/** A stored size that differs more than this from the one that EXIF tells means a cropped or resized file. */
const SAME_SHAPE = 0.02;

/**
 * Reads what a picture file says of its camera. A file without EXIF, or with a broken one, says nothing, and that is
 * no fault.
 */
export async function readFacts(bytes: Uint8Array, widthPx: number, heightPx: number): Promise<FileFacts> {
  const exif = await readExif(bytes);
  const orientation = wholeIn(exif.Orientation, 1, 8) ?? 1;
  const turned = orientation >= 5;
  const shape =
    numberIn(exif.ExifImageWidth, 1, 1e6) && numberIn(exif.ExifImageHeight, 1, 1e6)
      ? exif.ExifImageWidth / exif.ExifImageHeight
      : null;
  const own = widthPx / heightPx;
  const otherShape = shape !== null && Math.min(Math.abs(shape / own - 1), Math.abs(shape * own - 1)) > SAME_SHAPE;
  const zoomed = (numberIn(exif.DigitalZoomRatio, 0, 1000) ?? 1) > 1.01;
  return {
    orientation,
    facts: {
      widthPx: turned ? heightPx : widthPx,
      heightPx: turned ? widthPx : heightPx,
      focal35Mm: numberIn(exif.FocalLengthIn35mmFormat, 5, 2000),
      focalMm: numberIn(exif.FocalLength, 0.5, 2000),
      cropped: otherShape || zoomed,
    },
  };
}

type Exif = Record<string, number>;

async function readExif(bytes: Uint8Array): Promise<Exif> {
  try {
    return ((await exifr.parse(bytes, { pick: PICK, translateValues: false })) ?? {}) as Exif;
  } catch {
    return {};
  }
}

function numberIn(value: unknown, least: number, most: number): number | null {
  return typeof value === 'number' && value >= least && value <= most ? value : null;
}

function wholeIn(value: unknown, least: number, most: number): number | null {
  const found = numberIn(value, least, most);
  return found !== null && Number.isInteger(found) ? found : null;
}
