import type { Form } from '@steady-moth/core/geometry';
import { arc, circle, joined, type Plate, type Rule, type Scene, slot } from '../scene';

const QUARTER = Math.PI / 2;
const degrees = (d: number): number => (d * Math.PI) / 180;

/** The latch plate's true forms, mm: outer edge, two holes, the slot. */
const LATCH_PLATE: Form[] = [
  joined([
    arc(4, 4, 4, Math.PI, 3 * QUARTER),
    arc(76, 14, 14, 3 * QUARTER, 4 * QUARTER),
    { kind: 'line', from: { x: 90, y: 24 }, to: { x: 84, y: 28 } },
    arc(79.5, 43, 4.5, 0, QUARTER),
    arc(4.5, 43, 4.5, QUARTER, Math.PI),
  ]),
  circle(11, 35.5, 9),
  circle(72, 34.5, 7.2),
  slot(41, 16.5, 22, 7),
];

const PLATE: Plate = {
  kind: 'plate',
  forms: LATCH_PLATE,
  lie: { x: -52, y: -2, turn: degrees(-4.5) },
  base: 0,
  thickness: 2,
  colour: [0.052, 0.115, 0.135],
  wear: 0.3,
};

const RULE: Rule = {
  kind: 'rule',
  lengthMm: 150,
  widthMm: 19,
  spacing: 1,
  lie: { x: -76, y: -14, turn: degrees(-2.2) },
  base: 0,
  thickness: 1,
  look: { ground: [0.42, 0.43, 0.44], ink: [0.17, 0.17, 0.18], brushed: 0.2 },
};

/** Demo picture 1: the latch plate, a rule of brushed steel with worn strokes beside it, the camera tilted. */
export const LATCH_PLATE_SCENE: Scene = {
  seed: 11,
  benchTone: 0.2,
  lightFrom: degrees(125),
  items: [PLATE, RULE],
  camera: {
    widthPx: 4032,
    heightPx: 3024,
    cPx: 3050,
    centre: [2016 + 11, 1512 - 17],
    radial: [0.045, -0.06, 0.01],
    decentring: [0.0002, -0.0001],
    target: [-3, 3],
    distanceMm: 172,
    tilt: degrees(6.5),
    tiltTowards: degrees(-70),
    roll: degrees(1.2),
  },
  film: { blurPx: 0.9, noise: 2.2, sharpening: 0.25, toneCurve: 0.25, vignette: 0.12 },
};
