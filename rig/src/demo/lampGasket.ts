import type { Form, Segment } from '@steady-moth/core/geometry';
import { arc, chain, circle, type Scene } from '../scene';

const QUARTER = Math.PI / 2;
const degrees = (d: number): number => (d * Math.PI) / 180;

/** Lobes of radius 12 stand 22 from the middle; between them the rim is hollowed out with a radius of 10. */
const LOBE = 12;
const OUT = 22;
const HOLLOW = 10;

function lobe(k: number): Segment[] {
  const turn = k * QUARTER;
  const [c, s] = [Math.round(Math.cos(turn)), Math.round(Math.sin(turn))];
  const middle = { x: OUT * c, y: OUT * s };
  const hollow = { x: OUT * (c - s), y: OUT * (c + s) };
  const on = (angle: number) => ({
    x: hollow.x + HOLLOW * Math.cos(angle),
    y: hollow.y + HOLLOW * Math.sin(angle),
  });
  return [
    arc(middle.x, middle.y, LOBE, turn - QUARTER, turn + QUARTER),
    { kind: 'arc', from: on(turn - QUARTER), via: on(turn - 1.5 * QUARTER), to: on(turn - 2 * QUARTER) },
  ];
}

/** The lamp gasket's true forms, mm: four lobes, a bore and four holes. */
const LAMP_GASKET: Form[] = [
  chain([0, 1, 2, 3].flatMap(lobe)),
  circle(0, 0, 28),
  circle(25, 0, 5),
  circle(0, 25, 5),
  circle(-25, 0, 5),
  circle(0, -25, 5),
];

/** Demo picture 2: a rubber gasket on a sheet of paper, a coin of two metals beside it, in a hard light. */
export const LAMP_GASKET_SCENE: Scene = {
  seed: 23,
  benchTone: 0.17,
  lightFrom: degrees(60),
  shadow: { dark: 0.6, softMm: 0.2 },
  items: [
    {
      kind: 'sheet',
      widthMm: 148,
      heightMm: 105,
      lie: { x: -76, y: -50, turn: degrees(2.4) },
      base: 0,
      thickness: 0.1,
    },
    {
      kind: 'plate',
      forms: LAMP_GASKET,
      lie: { x: -14, y: 3, turn: degrees(18) },
      base: 0.1,
      thickness: 2,
      colour: [0.045, 0.043, 0.042],
      wear: 0,
      finish: 'rubber',
    },
    {
      kind: 'coin',
      diameterMm: 22.25,
      colour: [0.52, 0.51, 0.48],
      core: { diameterMm: 15.4, colour: [0.46, 0.34, 0.13] },
      isMilled: true,
      lie: { x: 49, y: -21, turn: degrees(35) },
      base: 0.1,
      thickness: 2.14,
    },
  ],
  camera: {
    widthPx: 4032,
    heightPx: 3024,
    cPx: 3120,
    centre: [2016 - 8, 1512 + 12],
    radial: [0.05, -0.07, 0.012],
    decentring: [-0.0001, 0.0002],
    target: [0, 1],
    distanceMm: 176,
    tilt: degrees(5),
    tiltTowards: degrees(-115),
    roll: degrees(-1.4),
  },
  film: { blurPx: 0.85, noise: 2, sharpening: 0.25, toneCurve: 0.25, vignette: 0.12 },
};
