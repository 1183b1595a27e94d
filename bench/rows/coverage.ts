import {
  type Calibration,
  type CalibrationInput,
  type CameraHold,
  CHECKED_SIGMAS,
  calibrate,
  distance,
  figureOf,
  type Reference,
  type SavedCamera,
} from '../../core/src/calibration';
import { estimate } from '../../core/src/calibration/estimate/estimate';
import { type DrawnScene, drawScene, type PlaneName } from '../drawScene';

/** A way of saying what is known, and where it is measured then. */
export interface KnownWay {
  name: string;
  hold: CameraHold;
  /** Its tilt is barely seen, so that every calibration is drawn hundreds of times: fewer scenes can be had. */
  slow?: boolean;
  /** What its errors shall be, up to which tilt, degrees, and with which distortion at most. */
  errors?: { wanted: string; tilt: number; k1?: number };
  /** A checked camera is known. */
  saved?: boolean;
  /** Where distances are measured; the face where nothing is said. */
  on?: PlaneName;
  /** Height of the face over the table, mm; as `drawScene` has it where nothing is said. */
  faceMm?: number;
  /** Distances lie within this of the middle, mm, which is moved up by so much. */
  reachMm?: number;
  upMm?: number;
  /** What is known in a drawn scene; null where it is not in the picture. */
  say(scene: DrawnScene): Reference[] | null;
}

export interface Coverage {
  scenes: number;
  held: number;
  /** Error of a 100 mm distance, mm: median and 95 % quantile. */
  medianMm: number;
  q95Mm: number;
  /** Median of the ± told, mm per 100 mm. */
  toldMm: number;
  /** Scenes in which more than one solution was shown. */
  several: number;
}

function savedCamera({ camera, normal }: DrawnScene, farC: number): SavedCamera {
  const truth = [Math.log(farC), camera.centre[0], camera.centre[1], camera.radial[0], camera.radial[1]];
  return {
    mean: truth.map((v, k) => v + CHECKED_SIGMAS[k]! * normal()),
    covariance: Array.from({ length: 25 }, (_, n) => (n % 6 === 0 ? CHECKED_SIGMAS[n / 6]! ** 2 : 0)),
  };
}

/**
 * Distances of 60 to 110 mm about the part, compared with their ±: in scenes drawn from the priors, or evenly within the
 * bounds that the way's errors are asked for.
 */
export function measureCoverage(
  way: KnownWay,
  firstSeed: number,
  scenes: number,
  from: 'priors' | 'bounds' = 'priors',
): Coverage {
  const errors: number[] = [];
  const told: number[] = [];
  let held = 0;
  let several = 0;
  const on = way.on ?? 'face';
  for (let seed = firstSeed; errors.length < scenes; seed++) {
    const scene = drawScene(seed, way.hold, from === 'bounds' ? way.errors : undefined, way.faceMm);
    const references = way.say(scene);
    const angle = seed * 2.399;
    const reach = (way.reachMm ?? 85) / 85;
    const half = reach * (30 + ((seed * 0.618) % 1) * 25);
    const up = way.upMm ?? 0;
    const middle: [number, number] = [reach * 30 * Math.cos(seed), up + reach * 25 * Math.sin(seed * 1.7)];
    const ends = [-1, 1].map((s) =>
      scene.pickOf(middle[0] + s * half * Math.cos(angle), middle[1] + s * half * Math.sin(angle), on, CLEAR_PICK_PX),
    );
    const [a, b] = ends;
    if (!references || !a || !b) continue;
    const saved = way.saved ? savedCamera(scene, scene.farC) : null;
    const input = { ...scene.input, saved, references };
    const result = calibrate(input, { seed });
    const found = result.ok ? figureOf(result.calibration, [a, b], distance) : null;
    if (result.ok && result.calibration.otherTilts.length) several += 1;
    if (!found) {
      errors.push(Number.POSITIVE_INFINITY);
      continue;
    }
    // Of several poses shown the true one counts for the error; the ± has to hold whichever is shown first.
    const shown = from === 'bounds' && result.ok ? posesOf(input, result.calibration) : [];
    const others = shown.flatMap((t) => figureOf(t, [a, b], distance)?.value ?? []);
    const error = Math.min(...[found.value, ...others].map((v) => Math.abs(v - 2 * half)));
    if (Math.abs(found.value - 2 * half) <= found.plusMinus) held += 1;
    errors.push((error * 100) / (2 * half));
    told.push((found.plusMinus * 100) / (2 * half));
  }
  errors.sort((p, q) => p - q);
  told.sort((p, q) => p - q);
  return {
    scenes,
    held,
    medianMm: errors[scenes >> 1]!,
    q95Mm: errors[Math.floor(0.95 * scenes)]!,
    toldMm: told[told.length >> 1]!,
    several,
  };
}

/** The further poses that are shown beside a calibration's own. */
function posesOf(input: CalibrationInput, calibration: Calibration): Calibration[] {
  if (calibration.otherTilts.length === 0) return [];
  const found = estimate(input);
  if (!found.ok) return [];
  return found.solutions
    .slice(1)
    .map(({ parameters, covariance }) => ({ ...calibration, parameters, covariance, draws: null }));
}

/** Scatter of a clear edge located under the loupe, px. */
const CLEAR_PICK_PX = 0.06;
