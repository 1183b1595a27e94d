import type { Form } from '@steady-moth/core/geometry';
import { circle, type Film, type Plate, type Rgb, rectangle, type Scene } from '../scene';
import { steadyShot } from './steadyShot';

/** How a plate differs from what is seen through its holes: in brightness, and in colour at the same brightness. */
export interface HoleStep {
  /** Of luminance, linear light. */
  light: number;
  /** Length of the rest of the difference, linear light. */
  colour: number;
  /** How deep the holes are, mm. Walls look as the face does: where one is seen, only its foot can be. */
  depthMm?: number;
  /** The shadow that the rim casts, where it is not a faint one: how much light it takes, how soft for 1 mm of height, mm. */
  shadow?: { dark: number; softMm: number };
  /** How uneven the table is, as a share of its light; a little where left out. */
  grain?: number;
}

const GROUND: Rgb = [0.3, 0.26, 0.22];
/** Directions of colour that leave luminance as it is, of length 1: red against green, and blue against both. */
const ALONG: readonly Rgb[] = [
  [0.9586, -0.285, 0],
  [-0.0952, -0.0728, 0.9928],
];
const SPACING_MM = 9;

/** A thin plate with six round holes about the middle of the picture, its colours a step apart from the table's. */
export function harderHoles(step: HoleStep, seed: number, film: Partial<Film> = {}): { scene: Scene; plate: Plate } {
  const { next, ...shot } = steadyShot(seed, film);
  const [along, other] = next() < 0.5 ? [ALONG[0]!, ALONG[1]!] : [ALONG[1]!, ALONG[0]!];
  const way = next() < 0.5 && along === ALONG[0] ? -0.6 : 1;
  const share = 0.3 * next();
  const size = Math.hypot(1, share);
  const sign = next() < 0.5 ? -1 : 1;
  const colour = GROUND.map((v, c) =>
    Math.max(0.01, v + (step.colour * way * (along[c]! + share * other[c]!)) / size + sign * step.light),
  ) as unknown as Rgb;
  const holes: Form[] = Array.from({ length: 6 }, (_, k) =>
    circle(SPACING_MM * ((k % 3) - 1), SPACING_MM * (k < 3 ? -0.5 : 0.5), 3 + 4 * next()),
  );
  const plate: Plate = {
    kind: 'plate',
    forms: [rectangle(-20, -14, 20, 14), ...holes],
    lie: { x: 0, y: 0, turn: 0.6 * (next() - 0.5) },
    base: 0,
    thickness: step.depthMm ?? 0.1,
    colour,
    wear: 0,
    finish: 'paper',
  };
  // 20 px per millimetre, as the figure is wanted.
  const camera = { ...shot.camera, distanceMm: shot.camera.cPx / 20, tilt: 0.4 * shot.camera.tilt };
  return {
    plate,
    scene: {
      ...shot,
      camera,
      items: [plate],
      table: { colour: GROUND, grain: step.grain ?? 0.04 },
      shadow: step.shadow ?? { dark: 0.1, softMm: 0.5 },
    },
  };
}
