import { describe, expect, it } from 'vitest';
import { openDemo } from '../find/demo.test-data';
import { normalRandom, seededRandom } from '../numeric';
import type { Pixels } from '../raster';
import { erf } from './erf';
import { type Located, locateEdges } from './locate';

const SIZE = 110;
const DARK = 0.2;
const FIRST = 0.15;

const rise = (d: number, blurPx: number) => (1 + erf(d / (Math.SQRT2 * blurPx))) / 2;

/** Two parallel edges by their closed form, the second one `gapPx` to the light side of the first, with noise of 3. */
function twoEdges(seed: number, gapPx: number, second: number, blurPx: number) {
  const random = seededRandom(seed);
  const normal = normalRandom(random);
  const angle = 2 * Math.PI * random();
  const [cx, cy] = [SIZE / 2 + random(), SIZE / 2 + random()];
  const away = ({ uPx, vPx }: { uPx: number; vPx: number }) =>
    (uPx - cx) * Math.cos(angle) + (vPx - cy) * Math.sin(angle);
  const data = new Uint8ClampedArray(SIZE * SIZE * 4).fill(255);
  for (let y = 0; y < SIZE; y++)
    for (let x = 0; x < SIZE; x++) {
      const d = away({ uPx: x + 0.5, vPx: y + 0.5 });
      const light = DARK + FIRST * rise(d, blurPx) + second * rise(d - gapPx, blurPx);
      const s = 255 * (1.055 * light ** (1 / 2.4) - 0.055) + 3 * normal();
      data.fill(s, (y * SIZE + x) * 4, (y * SIZE + x) * 4 + 3);
    }
  const pixels: Pixels = { width: SIZE, height: SIZE, data };
  return { pixels, away, at: { uPx: cx, vPx: cy } };
}

const rms = (values: readonly number[]) => Math.sqrt(values.reduce((s, v) => s + v * v, 0) / values.length);
const SCENES = Array.from({ length: 30 }, (_, k) => k + 1);

describe('locateEdges', () => {
  it.each([
    ['brightening twice', 3, 0.12],
    ['brightening twice', 5, 0.12],
    ['brightening twice', 8, 0.12],
    ['brightening and darkening', 3, -0.12],
    ['brightening and darkening', 5, -0.12],
    ['brightening and darkening', 8, -0.12],
  ])('tells two edges apart, %s, %d px apart, without drawing one to the other', (_, gapPx, second) => {
    const first: number[] = [];
    const other: number[] = [];
    let held = 0;
    for (const seed of SCENES) {
      const { pixels, away, at } = twoEdges(seed, gapPx, second, 0.8);
      const found = locateEdges(pixels, at.uPx, at.vPx);
      expect(found.length, `scene ${seed}`).toBe(2);
      const off = (e: Located, edge: number) => away(e) - edge;
      const [a, b] = Math.abs(away(found[0]!)) < gapPx / 2 ? [0, gapPx] : [gapPx, 0];
      first.push(off(found[0]!, a));
      other.push(off(found[1]!, b));
      if (Math.abs(off(found[0]!, a)) <= 2 * found[0]!.sigmaPx) held += 1;
    }
    expect(rms(first)).toBeLessThan(gapPx < 4 ? 0.13 : 0.07);
    expect(rms(other)).toBeLessThan(gapPx < 4 ? 0.16 : 0.1);
    expect(held).toBeGreaterThanOrEqual(26);
  });

  it('gives the one that was pointed at first', () => {
    const { pixels, away, at } = twoEdges(5, 6, 0.12, 0.9);
    const beyond = locateEdges(pixels, at.uPx, at.vPx).find((e) => away(e) > 3) as Located;
    expect(away(locateEdges(pixels, beyond.uPx, beyond.vPx)[0]!)).toBeCloseTo(6, 0);
  });

  it.each([0.7, 1.2, 2])('sees no second edge in a single one of blur %d', (blurPx) => {
    for (const seed of SCENES) {
      const { pixels, at } = twoEdges(seed + 100, 20, 0, blurPx);
      expect(locateEdges(pixels, at.uPx, at.vPx).length, `scene ${seed}`).toBe(1);
    }
  });

  it('finds nothing where there is nothing', () => {
    const data = new Uint8ClampedArray(SIZE * SIZE * 4).fill(120);
    expect(locateEdges({ width: SIZE, height: SIZE, data }, 50, 50)).toEqual([]);
  });

  it('tells the face edge of a plate from its foot 1.8 px beside it', async () => {
    const { pixels, at } = await openDemo('latch-plate', 'plate');
    for (const x of [30, 60]) {
      const [face, foot] = [at(x, 0), at(x, 0, 0)];
      const [own, other] = locateEdges(pixels, face[0] + 0.5, face[1] + 0.5, { searchPx: 20 }) as [Located, Located];
      const across = (e: Located, [u, v]: [number, number]) =>
        (e.uPx - u) * Math.cos(own.normal) + (e.vPx - v) * Math.sin(own.normal);
      expect(Math.abs(across(own, face))).toBeLessThan(2 * own.sigmaPx + 0.1);
      // The foot lies in the shadow that the plate throws on the bench: less sharp, and no nearer to the face for that.
      expect(Math.abs(across(other, foot))).toBeLessThan(0.8);
      expect(Math.abs(across(other, face))).toBeGreaterThan(1.5);
    }
  });
});
