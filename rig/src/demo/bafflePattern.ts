import type { Form } from '@steady-moth/core/geometry';
import { arc, circle, joined, type Scene, slot } from '../scene';

const degrees = (d: number): number => (d * Math.PI) / 180;

/** The baffle pattern's true forms, mm: a fan of 70 degrees between radii of 60 and 150, with slots and a hole. */
const BAFFLE_PATTERN: Form[] = [
  joined([arc(0, -100, 150, degrees(55), degrees(125)), reversedArc(0, -100, 60, degrees(55), degrees(125))]),
  slot(0, 0, 40, 8),
  circle(-42, 22, 6),
  circle(42, 22, 6),
];

function reversedArc(cx: number, cy: number, r: number, from: number, to: number) {
  const forward = arc(cx, cy, r, from, to);
  return forward.kind === 'arc' ? { ...forward, from: forward.to, to: forward.from } : forward;
}

/** Demo picture 3: a paper pattern on a grid mat. */
export const BAFFLE_PATTERN_SCENE: Scene = {
  seed: 37,
  benchTone: 0.2,
  lightFrom: degrees(150),
  items: [
    {
      kind: 'mat',
      widthMm: 280,
      heightMm: 200,
      pitchMm: 10,
      colour: [0.035, 0.1, 0.075],
      lie: { x: -138, y: -98, turn: degrees(-1.6) },
      base: 0,
      thickness: 2,
    },
    {
      kind: 'plate',
      forms: BAFFLE_PATTERN,
      lie: { x: 4, y: -2, turn: degrees(7) },
      base: 2,
      thickness: 0.2,
      colour: [0.66, 0.6, 0.46],
      wear: 0,
      finish: 'paper',
    },
  ],
  camera: {
    widthPx: 4032,
    heightPx: 3024,
    cPx: 3060,
    centre: [2016 + 6, 1512 + 9],
    radial: [0.04, -0.05, 0.008],
    decentring: [0.0001, 0.0001],
    target: [2, -3],
    distanceMm: 246,
    tilt: degrees(11),
    tiltTowards: degrees(-80),
    roll: degrees(1.8),
  },
  film: { blurPx: 0.95, noise: 2.2, sharpening: 0.25, toneCurve: 0.25, vignette: 0.12 },
};
