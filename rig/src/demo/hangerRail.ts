import type { Form } from '@steady-moth/core/geometry';
import type { CameraSetup } from '../camera';
import { circle, joined, type Scene } from '../scene';

const degrees = (d: number): number => (d * Math.PI) / 180;
const line = (x0: number, y0: number, x1: number, y1: number) =>
  ({ kind: 'line', from: { x: x0, y: y0 }, to: { x: x1, y: y1 } }) as const;

/** Where the hanger rail's holes are along it, mm, and how large. */
const HANGER_RAIL_HOLES: [x: number, radius: number][] = [
  [20, 4],
  [95, 3],
  [165, 3],
  [190, 6],
  [215, 3],
  [285, 3],
  [360, 4],
];

/** The hanger rail's true outline, mm: a long strip with its corners cut off, and its holes. */
const HANGER_RAIL: Form[] = [
  joined([
    line(12, 0, 368, 0),
    line(368, 0, 380, 12),
    line(380, 12, 380, 44),
    line(380, 44, 0, 44),
    line(0, 44, 0, 12),
    line(0, 12, 12, 0),
  ]),
  ...HANGER_RAIL_HOLES.map(([x, radius]) => circle(x, 22, 2 * radius)),
];

/** The rail lies where it lies, a rule of 400 mm along it; the camera was moved and turned between both pictures. */
function railFrom(seed: number, camera: Partial<CameraSetup>): Scene {
  return {
    seed,
    benchTone: 0.14,
    lightFrom: degrees(120),
    items: [
      {
        kind: 'plate',
        forms: HANGER_RAIL,
        lie: { x: -190, y: -12, turn: degrees(1.2) },
        base: 0,
        thickness: 4,
        colour: [0.56, 0.4, 0.22],
        wear: 0,
        finish: 'plywood',
      },
      {
        kind: 'rule',
        lengthMm: 400,
        widthMm: 25,
        spacing: 1,
        lie: { x: -202, y: -28, turn: degrees(0.9) },
        base: 0,
        thickness: 1,
      },
    ],
    camera: {
      widthPx: 4032,
      heightPx: 3024,
      cPx: 3080,
      centre: [2016 + 9, 1512 + 4],
      radial: [0.045, -0.06, 0.01],
      decentring: [0.0002, 0.0001],
      target: [0, 0],
      distanceMm: 195,
      tilt: 0,
      tiltTowards: 0,
      roll: 0,
      ...camera,
    },
    film: { blurPx: 0.9, noise: 2.2, sharpening: 0.25, toneCurve: 0.25, vignette: 0.12 },
  };
}

/** Demo pictures 7 and 8: both ends of a rail that is longer than the frame. */
export const HANGER_RAIL_LEFT_SCENE = railFrom(71, {
  target: [-88, -6],
  tilt: degrees(5),
  tiltTowards: degrees(150),
  roll: degrees(1.5),
});
export const HANGER_RAIL_RIGHT_SCENE = railFrom(73, {
  target: [92, -2],
  distanceMm: 201,
  tilt: degrees(6),
  tiltTowards: degrees(20),
  roll: degrees(-3),
});
