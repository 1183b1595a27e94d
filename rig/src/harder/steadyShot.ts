import { numbers } from '../render/noise';
import type { Film, Scene } from '../scene';

/** A small picture held as people hold a phone over a bench, of nothing yet; and the numbers that go on from its seed. */
export function steadyShot(seed: number, film: Partial<Film> = {}): Omit<Scene, 'items'> & { next(): number } {
  const next = numbers(seed * 9973 + 5);
  for (let k = 0; k < 5; k++) next();
  const distanceMm = 105 + 40 * next();
  return {
    seed,
    benchTone: 0.2,
    lightFrom: 2 * Math.PI * next(),
    camera: {
      widthPx: 1200,
      heightPx: 900,
      cPx: 1150,
      centre: [600 + 6 * (next() - 0.5), 450 + 6 * (next() - 0.5)],
      radial: [0.03, -0.04, 0],
      decentring: [0, 0],
      target: [0, 0],
      distanceMm,
      tilt: 0.2 * next(),
      tiltTowards: 2 * Math.PI * next(),
      roll: next(),
    },
    film: {
      blurPx: 0.7 + 0.5 * next(),
      noise: 1.5 + 2 * next(),
      sharpening: 0.6 * next(),
      toneCurve: 0.3 * next(),
      vignette: 0.1,
      gain: [0.85 + 0.3 * next(), 1, 0.85 + 0.3 * next()],
      isMosaic: next() < 0.6,
      colourBlurPx: 1.5 * next(),
      ...film,
    },
    next,
  };
}
