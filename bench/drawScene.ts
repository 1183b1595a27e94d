import {
  CAMERA,
  type CalibrationInput,
  type CameraHold,
  cameraPrior,
  type PictureFacts,
  type PlanePick,
} from '../core/src/calibration';
import { normalRandom, type Random, seededRandom } from '../core/src/numeric';
import { buildCamera, type Camera, pictureOf } from '../rig/src/camera';

/** Scatter of half a stroke, px: what rows/strokes.ts measures on rendered rules, 0.039 to 0.053. */
export const GRADUATION_SIGMA_PX = 0.046;

/** A scene drawn from the stated priors, by geometry alone: what the estimator is told, and what is true. */
export interface DrawnScene {
  input: CalibrationInput;
  camera: Camera;
  normal: Random;
  /** A pick of a place on a plane, with its scatter; null outside the picture. */
  pickOf(x: number, y: number, plane: PlaneName, sigmaPx?: number): PlanePick | null;
  /** How high the planes truly lie, mm. */
  heights: Record<PlaneName, number>;
  /** Camera constant focused far away, px. */
  farC: number;
}

export type PlaneName = 'reference' | 'face';

export const FACTS: PictureFacts = {
  widthPx: 4032,
  heightPx: 3024,
  focal35Mm: 27,
  focalMm: 5.6,
  doubts: [],
  resolution: null,
};
/** Scatter of a pick under the loupe, px: what the edge locator tells of a clear edge, twice over. */
export const PICK_SIGMA_PX = 0.15;
const HEIGHTS = { reference: { heightMm: 1, plusMinusMm: 0.1 }, face: { heightMm: 2, plusMinusMm: 0.1 } };
/** Beyond this tilt no one calls it a photograph of a flat thing, and parts leave the frame, rad. */
const MOST_TILT = (40 * Math.PI) / 180;

/**
 * Draws one scene, the camera with what the estimator does not model as well. Distance 300 to 500 mm; tilt and
 * distortion as their priors have them, or evenly up to a bound, the tilt (degrees) any way round.
 */
export function drawScene(
  seed: number,
  hold: CameraHold,
  bounds: { tilt: number; k1?: number } | undefined = undefined,
  faceMm: number = HEIGHTS.face.heightMm,
): DrawnScene {
  const told = { ...HEIGHTS, face: { ...HEIGHTS.face, heightMm: faceMm } };
  const random = seededRandom(seed * 7919 + 13);
  const normal = normalRandom(random);
  const prior = cameraPrior(FACTS, hold);
  const draw = (k: number) => prior.mean[k]! + prior.sigma[k]! * normal();
  let a = 0;
  let b = 0;
  do {
    a = draw(CAMERA.a);
    b = draw(CAMERA.b);
  } while (Math.hypot(a, b) > MOST_TILT);
  if (bounds) {
    const shrink = (((bounds.tilt * Math.PI) / 180) * random()) / Math.hypot(a, b);
    [a, b] = [a * shrink, b * shrink];
  }
  const k1 = bounds?.k1 === undefined ? draw(CAMERA.k1) : bounds.k1 * (2 * random() - 1);
  const distanceMm = 300 + 200 * random();
  const focal = FACTS.focalMm ?? 0;
  const farC = Math.exp(draw(CAMERA.lnC));
  const camera = buildCamera({
    widthPx: FACTS.widthPx,
    heightPx: FACTS.heightPx,
    cPx: farC / (1 - focal / distanceMm),
    centre: [draw(CAMERA.cx), draw(CAMERA.cy)],
    radial: [k1, draw(CAMERA.k2), 0.004 * normal()],
    decentring: [0.0003 * normal(), 0.0003 * normal()],
    target: [0, 0],
    distanceMm,
    tilt: Math.hypot(a, b),
    tiltTowards: Math.atan2(a, -b),
    roll: 0,
  });
  const heightOf = { reference: 0, face: 0 };
  for (const plane of ['reference', 'face'] as const)
    heightOf[plane] = told[plane].heightMm + (told[plane].plusMinusMm / 2) * normal();
  return {
    camera,
    normal,
    heights: heightOf,
    farC,
    input: {
      facts: FACTS,
      lens: 'photo',
      believeResolution: false,
      hold,
      planes: [
        { id: 'reference', ...told.reference },
        { id: 'face', ...told.face },
      ],
      references: [],
    },
    pickOf(x, y, plane, sigmaPx = PICK_SIGMA_PX) {
      const at = pictureOf(camera, { x, y, z: heightOf[plane] });
      if (!at || at[0] < 0 || at[1] < 0 || at[0] > FACTS.widthPx || at[1] > FACTS.heightPx) return null;
      return {
        uPx: at[0] + sigmaPx * normal(),
        vPx: at[1] + sigmaPx * normal(),
        sigmaPx,
        plane,
      };
    },
  };
}
