import {
  calibrate,
  distance,
  figureOf,
  type PictureFacts,
  type PlanePick,
  type Reference,
} from '../../core/src/calibration';
import { locateEdge, locateLine } from '../../core/src/edge';
import { normalRandom, seededRandom } from '../../core/src/numeric';
import type { Pixels } from '../../core/src/raster';
import { pictureOf } from '../../rig/src/camera';
import { LATCH_PLATE_SCENE } from '../../rig/src/demo';
import { setStage, shoot } from '../../rig/src/render';
import { type Scene, toScene } from '../../rig/src/scene';
import type { Coverage } from './coverage';

const FACTS: PictureFacts = {
  widthPx: 4032,
  heightPx: 3024,
  focal35Mm: 27,
  focalMm: 5.6,
  doubts: [],
  resolution: null,
};
const HEIGHTS = { rule: 1, plate: 2 };

/**
 * The latch plate and its rule, photographed anew from other places by the simulated camera: readings and caliper
 * lengths are picked from the pixels by the locator, then the plate's overall width is measured.
 */
export function measureRendered(firstSeed: number, scenes: number): Coverage & { q95PickPx: number } {
  const errors: number[] = [];
  const told: number[] = [];
  const pickErrors: number[] = [];
  let held = 0;
  let seed = firstSeed;
  for (; errors.length < scenes; seed++) {
    const scene = vary(seed);
    const stage = setStage(scene);
    const [plate, rule] = scene.items;
    const look = (
      item: typeof plate,
      x: number,
      y: number,
      kind: 'edge' | 'line',
      plane: 'reference' | 'face',
    ): PlanePick | null => {
      const [sx, sy] = toScene(item!.lie, x, y);
      const at = pictureOf(stage.camera, { x: sx, y: sy, z: item!.base + item!.thickness });
      if (!at || at[0] < 60 || at[1] < 60 || at[0] > 3970 || at[1] > 2960) return null;
      const frame = { left: Math.round(at[0]) - 45, top: Math.round(at[1]) - 45, width: 90, height: 90 };
      const pixels = rgba(shoot(stage, frame).pixels, 90);
      const found = (kind === 'edge' ? locateEdge : locateLine)(pixels, at[0] - frame.left, at[1] - frame.top, {
        searchPx: 8,
      });
      if (!found) return null;
      const across = Math.abs(
        (found.uPx + frame.left - at[0]) * Math.cos(found.normal) +
          (found.vPx + frame.top - at[1]) * Math.sin(found.normal),
      );
      pickErrors.push(across);
      return { uPx: found.uPx + frame.left, vPx: found.vPx + frame.top, sigmaPx: found.sigmaPx, plane };
    };
    const span = (
      id: string,
      a: PlanePick | null,
      b: PlanePick | null,
      lengthMm: number,
      plusMinusMm: number | null,
    ): Reference | null =>
      a && b && { id, kind: 'known-length', plane: a.plane, from: a, to: b, lengthMm, plusMinusMm };
    const references = [
      span('rule', look(rule, 0, -2, 'line', 'reference'), look(rule, 150, -2, 'line', 'reference'), 150, null),
      span('up', look(plate, 30, 0, 'edge', 'face'), look(plate, 30, 47.5, 'edge', 'face'), 47.5, 0.04),
      span('up right', look(plate, 70, 0, 'edge', 'face'), look(plate, 70, 47.5, 'edge', 'face'), 47.5, 0.04),
      span('notch', look(plate, 0, 36, 'edge', 'face'), look(plate, 84, 36, 'edge', 'face'), 84, 0.04),
    ];
    const ends = [look(plate, 0, 20, 'edge', 'face'), look(plate, 90, 20, 'edge', 'face')];
    if (references.some((y) => !y) || !ends[0] || !ends[1]) continue;
    const result = calibrate({
      facts: FACTS,
      lens: 'photo',
      believeResolution: false,
      hold: 'free',
      planes: [
        { id: 'reference', heightMm: HEIGHTS.rule, plusMinusMm: 0.05 },
        { id: 'face', heightMm: HEIGHTS.plate, plusMinusMm: 0.05 },
      ],
      references: references as Reference[],
    });
    const found = result.ok ? figureOf(result.calibration, [ends[0], ends[1]], distance) : null;
    const error = found ? Math.abs(found.value - 90) : Number.POSITIVE_INFINITY;
    if (found && error <= found.plusMinus) held += 1;
    errors.push(error / 0.9);
    told.push((found?.plusMinus ?? Number.POSITIVE_INFINITY) / 0.9);
  }
  for (const list of [errors, told, pickErrors]) list.sort((a, b) => a - b);
  return {
    scenes,
    held,
    medianMm: errors[scenes >> 1]!,
    q95Mm: errors[Math.floor(0.95 * scenes)]!,
    toldMm: told[scenes >> 1]!,
    several: 0,
    q95PickPx: pickErrors[Math.floor(0.95 * pickErrors.length)]!,
  };
}

/** The demo scene from another place: tilt to 15°, 170 to 260 mm away, the camera within its priors. */
function vary(seed: number): Scene {
  const random = seededRandom(seed * 31 + 5);
  const normal = normalRandom(random);
  const distanceMm = 170 + 90 * random();
  return {
    ...LATCH_PLATE_SCENE,
    seed: 1000 + seed,
    camera: {
      ...LATCH_PLATE_SCENE.camera,
      cPx: LATCH_PLATE_SCENE.camera.cPx * (1 + 0.02 * normal()),
      radial: [0.04 * normal(), 0.02 * normal(), 0.004 * normal()],
      distanceMm,
      tilt: (15 * random() * Math.PI) / 180,
      tiltTowards: 2 * Math.PI * random(),
      roll: 0.1 * normal(),
    },
  };
}

function rgba(rgb: Uint8Array, size: number): Pixels {
  const data = new Uint8ClampedArray(size * size * 4).fill(255);
  for (let k = 0; k < size * size; k++) data.set(rgb.subarray(3 * k, 3 * k + 3), 4 * k);
  return { width: size, height: size, data };
}
