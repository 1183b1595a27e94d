import { describe, expect, it } from 'vitest';
import { normalRandom, seededRandom } from '../numeric';
import type { Pixels } from '../raster';
import { erf } from './erf';
import { locateEdge, locateEdges } from './locate';

const SIZE = 110;
type Rgb = readonly [number, number, number];
/** Equally bright, linear light: 0.2126 r + 0.7152 g + 0.0722 b is 0.25 in both. */
const TEAL: Rgb = [0.08, 0.283, 0.43];
const TAN: Rgb = [0.42, 0.205, 0.195];

/**
 * A border of two colours through the middle, across `angle`, and beyond it another edge where the light falls off.
 * Noise 2 of 255 in each colour.
 */
function border(seed: number, shadowAt: number | null) {
  const random = seededRandom(seed);
  const normal = normalRandom(random);
  const angle = 2 * Math.PI * random();
  const [cx, cy] = [SIZE / 2 + random(), SIZE / 2 + random()];
  const away = (u: number, v: number) => (u - cx) * Math.cos(angle) + (v - cy) * Math.sin(angle);
  const data = new Uint8ClampedArray(4 * SIZE * SIZE).fill(255);
  const step = (d: number) => 0.5 * (1 + erf(d / (Math.SQRT2 * 1.1)));
  for (let k = 0; k < SIZE * SIZE; k++) {
    const d = away((k % SIZE) + 0.5, Math.floor(k / SIZE) + 0.5);
    const shade = shadowAt === null ? 1 : 1 - 0.6 * step(d - shadowAt);
    for (let c = 0; c < 3; c++) {
      const light = shade * (TEAL[c]! + (TAN[c]! - TEAL[c]!) * step(d));
      data[4 * k + c] = 255 * (1.055 * light ** (1 / 2.4) - 0.055) + 2 * normal();
    }
  }
  const pixels: Pixels = { width: SIZE, height: SIZE, data };
  return { pixels, away, at: { uPx: cx + 2 * random() - 1, vPx: cy + 2 * random() - 1 } };
}

const SCENES = Array.from({ length: 25 }, (_, k) => k + 1);

describe('an edge between two colours that are equally bright', () => {
  it('is found where it is, within its ±', () => {
    let held = 0;
    for (const seed of SCENES) {
      const { pixels, away, at } = border(seed, null);
      const found = locateEdge(pixels, at.uPx, at.vPx);
      if (!found) throw new Error(`scene ${seed}`);
      const off = Math.abs(away(found.uPx, found.vPx));
      expect(off, `scene ${seed}`).toBeLessThan(0.25);
      if (off <= 2 * found.sigmaPx) held += 1;
    }
    expect(held).toBeGreaterThanOrEqual(23);
  });

  it('is kept where the edge of a shadow, far stronger in brightness, runs 6 px beside it, and that is listed', () => {
    for (const seed of SCENES) {
      const { pixels, away, at } = border(seed, 6);
      const [own, ...others] = locateEdges(pixels, at.uPx, at.vPx);
      if (!own) throw new Error(`scene ${seed}`);
      expect(Math.abs(away(own.uPx, own.vPx)), `scene ${seed}`).toBeLessThan(0.35);
      expect(
        others.map((e) => Math.round(away(e.uPx, e.vPx))),
        `scene ${seed}`,
      ).toContain(6);
    }
  });
});
