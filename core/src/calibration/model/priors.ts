import { CAMERA } from './camera';
import { PAGE_PARAMETERS as PAGE } from './page';

/** What a file tells of the camera that took it. */
export interface PictureFacts {
  widthPx: number;
  heightPx: number;
  /** 35 mm equivalent from EXIF, mm; null when the file does not say. */
  focal35Mm: number | null;
  /** Focal length from EXIF, mm; null when the file does not say. */
  focalMm: number | null;
  /** What makes the file doubtful as a camera's own picture; with any of them its middle may not be the lens's. */
  doubts: FileDoubt[];
  /** What the file says of its own scale; null when it says nothing. */
  resolution: Resolution | null;
}

/** Why a file may not be what came out of the camera, or its words not be true. */
export type FileDoubt = 'cropped' | 'zoomed' | 'stabilised' | 'no-lens' | 'odd-lens';

/** Doubts with which the middle of the picture need not be the middle of the lens. */
const MOVES_THE_MIDDLE: readonly FileDoubt[] = ['cropped', 'zoomed', 'stabilised'];

/** Pixels per millimetre as a file states them, and how far that is believed: σ as a share. */
export interface Resolution {
  perMmX: number;
  perMmY: number;
  sigma: number;
}

/** How the person held the camera, as far as they say. */
export type CameraHold = 'flat-on' | 'free';

/** σ of everything that is assumed before anything is measured. */
export const PRIORS = {
  /** ln c with a 35 mm equivalent: an integer, read as diagonal or width by different makers. */
  sigmaLnCFromExif: 0.04,
  /** ln c without: 17 to 70 mm equivalent within 2σ. */
  sigmaLnCBroad: 0.35,
  /** c over the picture's diagonal when the file says nothing: a 35 mm equivalent of 34. */
  broadCOverDiagonal: 0.79,
  /** Principal point, share of the diagonal. */
  sigmaCentre: 0.01,
  sigmaCentreCropped: 0.05,
  sigmaK1: 0.05,
  sigmaK2: 0.02,
  /** Tilt per axis, rad. */
  sigmaTiltFlatOn: (3 * Math.PI) / 180,
  sigmaTiltFree: (20 * Math.PI) / 180,
  /** Pages: how true a scanner's stated resolution is, its shear, rad, and what nobody stated. */
  sigmaResolution: 0.0025,
  sigmaShear: (0.01 * Math.PI) / 180,
  pagePerMm: 8,
  sigmaLnPageScale: 3,
  /** Two scales of a page that nobody stated: x over y. */
  sigmaLnPageRatio: 0.0025,
  /** The same when the person says that both scales are free. */
  sigmaLnPageRatioFree: 0.7,
  /** From a scanner's glass to its lens, mm; it matters only for what lies above the glass. */
  glassToLensMm: 250,
  sigmaLnGlass: 0.5,
  /** Distance, mm, and its σ as a logarithm: so broad that the references alone decide it. */
  distanceMm: 400,
  sigmaLnD: 2,
} as const;

const FRAME_DIAGONAL_35_MM = Math.hypot(36, 24);
const FRAME_WIDTH_35_MM = 36;

export interface CameraPrior {
  mean: Float64Array;
  sigma: Float64Array;
  /** Focal length in mm when known: c then lengthens with focus, c = f·D / (D − f). */
  focalMm: number | null;
}

/** What is assumed of a photograph's camera before any reference is read. */
export function cameraPrior(facts: PictureFacts, hold: CameraHold): CameraPrior {
  const { widthPx, heightPx, focal35Mm } = facts;
  const diagonal = Math.hypot(widthPx, heightPx);
  const c = cameraConstantPx(facts);
  const tilt = hold === 'flat-on' ? PRIORS.sigmaTiltFlatOn : PRIORS.sigmaTiltFree;
  const centre =
    diagonal *
    (facts.doubts.some((d) => MOVES_THE_MIDDLE.includes(d)) ? PRIORS.sigmaCentreCropped : PRIORS.sigmaCentre);
  const mean = new Float64Array(8);
  const sigma = new Float64Array(8);
  const set = (index: number, value: number, spread: number) => {
    mean[index] = value;
    sigma[index] = spread;
  };
  set(CAMERA.lnC, Math.log(c), focal35Mm ? PRIORS.sigmaLnCFromExif : PRIORS.sigmaLnCBroad);
  set(CAMERA.cx, widthPx / 2, centre);
  set(CAMERA.cy, heightPx / 2, centre);
  set(CAMERA.k1, 0, PRIORS.sigmaK1);
  set(CAMERA.k2, 0, PRIORS.sigmaK2);
  set(CAMERA.a, 0, tilt);
  set(CAMERA.b, 0, tilt);
  set(CAMERA.lnD, Math.log(PRIORS.distanceMm), PRIORS.sigmaLnD);
  return { mean, sigma, focalMm: focal35Mm ? facts.focalMm : null };
}

/** What a file tells of its camera's constant c, or what is usual, px. */
export function cameraConstantPx({ widthPx, heightPx, focal35Mm }: PictureFacts): number {
  const diagonal = Math.hypot(widthPx, heightPx);
  return focal35Mm
    ? cFromEquivalent(focal35Mm, Math.max(widthPx, heightPx), diagonal)
    : PRIORS.broadCOverDiagonal * diagonal;
}

/** Between the two readings that makers use: by the diagonal and by the long side, the geometric mean of both. */
function cFromEquivalent(focal35Mm: number, longPx: number, diagonalPx: number): number {
  const byDiagonal = (focal35Mm / FRAME_DIAGONAL_35_MM) * diagonalPx;
  const byWidth = (focal35Mm / FRAME_WIDTH_35_MM) * longPx;
  return Math.sqrt(byDiagonal * byWidth);
}

/**
 * What is assumed of a page: its scale from the file where that is believed, else almost nothing; both of its scales
 * alike; hardly any shear.
 */
export function pagePrior(
  { widthPx, heightPx, resolution }: PictureFacts,
  believed: boolean,
  freeRatio: boolean,
): CameraPrior {
  const mean = new Float64Array(8);
  // What a page does not have is held still by a σ that nothing moves.
  const sigma = new Float64Array(8).fill(STILL_SIGMA);
  const stated = believed ? resolution : null;
  const spread = stated ? Math.max(stated.sigma, STILL_SIGMA) : null;
  mean[PAGE.lnScale] = Math.log(stated?.perMmX ?? PRIORS.pagePerMm);
  sigma[PAGE.lnScale] = spread ?? PRIORS.sigmaLnPageScale;
  mean[PAGE.u0] = widthPx / 2;
  mean[PAGE.v0] = heightPx / 2;
  mean[PAGE.lnRatio] = stated ? Math.log(stated.perMmY / stated.perMmX) : 0;
  sigma[PAGE.lnRatio] = spread === null ? PRIORS.sigmaLnPageRatio : Math.SQRT2 * spread;
  if (freeRatio) sigma[PAGE.lnRatio] = PRIORS.sigmaLnPageRatioFree;
  sigma[PAGE.shear] = spread !== null && spread < PRIORS.sigmaResolution ? STILL_SIGMA : PRIORS.sigmaShear;
  mean[PAGE.lnD] = Math.log(PRIORS.glassToLensMm);
  sigma[PAGE.lnD] = PRIORS.sigmaLnGlass;
  return { mean, sigma, focalMm: null };
}

const STILL_SIGMA = 1e-7;
