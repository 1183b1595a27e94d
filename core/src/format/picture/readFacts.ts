import exifr from 'exifr';
import type { FileDoubt, PictureFacts, Resolution } from '../../calibration';
import { asResolution, readResolution } from './readResolution';

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
  'CompositeImage',
  'ExifImageWidth',
  'ExifImageHeight',
  'XResolution',
  'YResolution',
  'ResolutionUnit',
];
/** A stored size that differs more than this from the one that EXIF tells means a cropped or resized file. */
const SAME_SHAPE = 0.02;
/** 35 mm equivalent over the focal length itself: beyond these no camera of a workshop or a pocket is built. */
const LEAST_SENSOR_FACTOR = 0.4;
const MOST_SENSOR_FACTOR = 20;

/**
 * Reads what a picture file says of its camera and its scale. A file without EXIF, or with a broken one, says nothing,
 * and that is no fault; one that contradicts itself is not believed.
 */
export async function readFacts(bytes: Uint8Array, widthPx: number, heightPx: number): Promise<FileFacts> {
  const exif = await readExif(bytes);
  const orientation = wholeIn(exif.Orientation, 1, 8) ?? 1;
  const turned = orientation >= 5;
  const stated = readResolution(bytes) ?? exifResolution(exif);
  const focal35Mm = numberIn(exif.FocalLengthIn35mmFormat, 5, 2000);
  const focalMm = numberIn(exif.FocalLength, 0.5, 2000);
  // A zero says that the camera did not know; any other figure that no lens can have is a mistake.
  const impossible = (told: unknown, believed: number | null) =>
    typeof told === 'number' && told > 0 && believed === null;
  const odd =
    isOddLens(focal35Mm, focalMm) ||
    impossible(exif.FocalLengthIn35mmFormat, focal35Mm) ||
    impossible(exif.FocalLength, focalMm);
  const doubts: FileDoubt[] = [];
  if (isOtherShape(exif, widthPx / heightPx)) doubts.push('cropped');
  if ((numberIn(exif.DigitalZoomRatio, 0, 1000) ?? 1) > 1.01) doubts.push('zoomed');
  // EXIF 2.32: 2 and 3 say that several frames were laid together, each moved and cropped to fit.
  if ((wholeIn(exif.CompositeImage, 2, 3) ?? 0) > 1) doubts.push('stabilised');
  if (odd) doubts.push('odd-lens');
  else if (focal35Mm === null && focalMm === null) doubts.push('no-lens');
  return {
    orientation,
    facts: {
      widthPx: turned ? heightPx : widthPx,
      heightPx: turned ? widthPx : heightPx,
      focal35Mm: odd ? null : focal35Mm,
      focalMm: odd ? null : focalMm,
      doubts,
      resolution: stated && turned ? { ...stated, perMmX: stated.perMmY, perMmY: stated.perMmX } : stated,
    },
  };
}

function isOddLens(focal35Mm: number | null, focalMm: number | null): boolean {
  if (focal35Mm === null || focalMm === null) return false;
  const factor = focal35Mm / focalMm;
  return factor < LEAST_SENSOR_FACTOR || factor > MOST_SENSOR_FACTOR;
}

function isOtherShape(exif: Exif, own: number): boolean {
  const width = numberIn(exif.ExifImageWidth, 1, 1e6);
  const height = numberIn(exif.ExifImageHeight, 1, 1e6);
  if (width === null || height === null) return false;
  const shape = width / height;
  return Math.min(Math.abs(shape / own - 1), Math.abs(shape * own - 1)) > SAME_SHAPE;
}

function exifResolution({ XResolution, YResolution, ResolutionUnit }: Exif): Resolution | null {
  // TIFF 6.0: 1 is no unit, 2 the inch, 3 the centimetre.
  const perMm = ResolutionUnit === 2 ? 1 / 25.4 : ResolutionUnit === 3 ? 0.1 : null;
  return perMm === null ? null : asResolution(Number(XResolution) * perMm, Number(YResolution) * perMm);
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
