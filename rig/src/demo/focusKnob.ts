import { rectangle, type Scene } from '../scene';

const degrees = (d: number): number => (d * Math.PI) / 180;

/** A quarter round from the grip's rim over to its face, in chords. */
const ROUND: [number, number][] = Array.from({ length: 7 }, (_, k) => {
  const a = (k * Math.PI) / 12;
  return [33 + 3 * Math.sin(a), 10 + 3 * Math.cos(a)];
});

/** The focus knob's true profile: places along the axis and the radius there, mm. */
export const FOCUS_KNOB: [number, number][] = [[0, 15], [4, 15], [5.5, 9], [12, 9], [14, 13], ...ROUND];

const AXIS_MM = 15;

/** Demo picture 5: a turned knob lying on its side; a stick of 12.00 mm lies with its face in the plane of the axis. */
export const FOCUS_KNOB_SCENE: Scene = {
  seed: 53,
  benchTone: 0.22,
  lightFrom: degrees(115),
  items: [
    {
      kind: 'turned',
      profile: FOCUS_KNOB,
      colour: [0.26, 0.15, 0.05],
      lie: { x: -20, y: 8, turn: degrees(4) },
      base: 0,
      thickness: 2 * AXIS_MM,
    },
    {
      kind: 'plate',
      forms: [rectangle(0, 0, 90, 12)],
      lie: { x: -46, y: -32, turn: degrees(2.5) },
      base: 0,
      thickness: AXIS_MM,
      colour: [0.5, 0.4, 0.27],
      wear: 0,
      finish: 'plywood',
    },
  ],
  camera: {
    widthPx: 4032,
    heightPx: 3024,
    cPx: 6300,
    centre: [2016 - 12, 1512 - 9],
    radial: [-0.02, 0.01, 0],
    decentring: [0.0001, -0.0001],
    target: [-2, -4],
    distanceMm: 250,
    tilt: degrees(2.5),
    tiltTowards: degrees(-60),
    roll: degrees(0.8),
  },
  film: { blurPx: 0.9, noise: 2.2, sharpening: 0.25, toneCurve: 0.25, vignette: 0.1 },
};
