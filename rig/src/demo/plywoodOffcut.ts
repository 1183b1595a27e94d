import type { Form } from '@steady-moth/core/geometry';
import { joined, type Scene } from '../scene';

const degrees = (d: number): number => (d * Math.PI) / 180;
const line = (x0: number, y0: number, x1: number, y1: number) =>
  ({ kind: 'line', from: { x: x0, y: y0 }, to: { x: x1, y: y1 } }) as const;

/** The offcut's true outline, mm: a board with a corner sawn off and a notch. */
const PLYWOOD_OFFCUT: Form[] = [
  joined([
    line(0, 0, 210, 0),
    line(210, 0, 210, 96),
    line(210, 96, 168, 140),
    line(168, 140, 84, 140),
    line(84, 140, 84, 118),
    line(84, 118, 46, 118),
    line(46, 118, 46, 140),
    line(46, 140, 0, 140),
    line(0, 140, 0, 0),
  ]),
];

const PLYWOOD_FLAWS = [
  { x: 62, y: 48, radius: 9 },
  { x: 150, y: 86, radius: 6 },
];

/** Demo picture 6: a plywood offcut with two knots, a wooden rule beside it. */
export const PLYWOOD_OFFCUT_SCENE: Scene = {
  seed: 67,
  benchTone: 0.12,
  lightFrom: degrees(135),
  items: [
    {
      kind: 'plate',
      forms: PLYWOOD_OFFCUT,
      flaws: PLYWOOD_FLAWS,
      lie: { x: -104, y: -50, turn: degrees(1.8) },
      base: 0,
      thickness: 6,
      colour: [0.56, 0.4, 0.22],
      wear: 0,
      finish: 'plywood',
    },
    {
      kind: 'rule',
      lengthMm: 200,
      widthMm: 25,
      spacing: 1,
      lie: { x: -98, y: -62, turn: degrees(-1.2) },
      base: 0,
      thickness: 1,
      look: { ground: [0.5, 0.36, 0.2], ink: [0.16, 0.1, 0.06], brushed: 0.12 },
    },
  ],
  camera: {
    widthPx: 4032,
    heightPx: 3024,
    cPx: 3080,
    centre: [2016 + 9, 1512 + 4],
    radial: [0.045, -0.06, 0.01],
    decentring: [0.0002, 0.0001],
    target: [2, 0],
    distanceMm: 218,
    tilt: degrees(7),
    tiltTowards: degrees(-100),
    roll: degrees(-1),
  },
  film: { blurPx: 0.9, noise: 2.2, sharpening: 0.25, toneCurve: 0.25, vignette: 0.12 },
};
