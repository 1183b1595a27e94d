import { CAMERA } from './camera';

/** What a file tells of the camera that took it. */
export interface PictureFacts {
  widthPx: number;
  heightPx: number;
  /** 35 mm equivalent from EXIF, mm; null when the file does not say. */
  focal35Mm: number | null;
  /** Focal length from EXIF, mm; null when the file does not say. */
  focalMm: number | null;
  /** The file looks cropped, digitally zoomed or stabilised: its middle is then not the lens's. */
  cropped: boolean;
}

/** How the person held the camera, as far as they say. */
export type Hold = 'flat-on' | 'free';

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
  /** Distance, mm, and its σ as a logarithm: so broad that the yardsticks alone decide it. */
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

/** What is assumed of a photograph's camera before any yardstick is read. */
export function cameraPrior(facts: PictureFacts, hold: Hold): CameraPrior {
  const { widthPx, heightPx, focal35Mm } = facts;
  const diagonal = Math.hypot(widthPx, heightPx);
  const c = focal35Mm
    ? cFromEquivalent(focal35Mm, Math.max(widthPx, heightPx), diagonal)
    : PRIORS.broadCOverDiagonal * diagonal;
  const tilt = hold === 'flat-on' ? PRIORS.sigmaTiltFlatOn : PRIORS.sigmaTiltFree;
  const centre = diagonal * (facts.cropped ? PRIORS.sigmaCentreCropped : PRIORS.sigmaCentre);
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

/** Between the two readings that makers use: by the diagonal and by the long side, the geometric mean of both. */
function cFromEquivalent(focal35Mm: number, longPx: number, diagonalPx: number): number {
  const byDiagonal = (focal35Mm / FRAME_DIAGONAL_35_MM) * diagonalPx;
  const byWidth = (focal35Mm / FRAME_WIDTH_35_MM) * longPx;
  return Math.sqrt(byDiagonal * byWidth);
}
