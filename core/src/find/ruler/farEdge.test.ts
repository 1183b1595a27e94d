import type { Rule } from '@steady-moth/rig/scene';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { PixelPick } from '../../calibration';
import { seededRandom } from '../../numeric';
import type { Pixels } from '../../raster';
import { findRuler } from '..';
import { cutOut, openDemo, painted } from '../demo.test-data';

const latch = await openDemo('latch-plate', 'rule');
const offcut = await openDemo('plywood-offcut', 'rule');
type Demo = typeof latch;

/** The other long edge as it is found by one click. */
function farIn({ place }: Demo, pixels: Pixels, x = 50): PixelPick[] {
  const found = findRuler(pixels, place(x, -2));
  if (!found.ok) throw new Error(found.reason);
  return found.graduations.far;
}

/** How far places lie off the upper edge of the ruler's far side, as the simulated camera pictures it, px. */
function offs({ at, item }: Demo, places: readonly PixelPick[]): number[] {
  const { lengthMm, widthMm } = item as Rule;
  const pieces = Array.from({ length: lengthMm + 12 }, (_, k) => [at(k - 6, -widthMm), at(k - 5, -widthMm)] as const);
  return places.map(({ uPx, vPx }) => {
    const near = ([[ax, ay], [bx, by]]: (typeof pieces)[number]) =>
      Math.hypot((ax + bx) / 2 - uPx, (ay + by) / 2 - vPx);
    const [[ax, ay], [bx, by]] = pieces.reduce((best, piece) => (near(piece) < near(best) ? piece : best));
    return ((bx - ax) * (vPx - ay) - (by - ay) * (uPx - ax)) / Math.hypot(bx - ax, by - ay);
  });
}

const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;

/** A dark line of so many px over a picture, straight from place to place of a thing. */
function ruled({ at }: Demo, pixels: Pixels, from: [number, number], to: [number, number], widePx: number): Pixels {
  const data = new Uint8ClampedArray(pixels.data);
  const [a, b] = [at(...from), at(...to)];
  const steps = Math.ceil(Math.hypot(b[0] - a[0], b[1] - a[1]) * 2);
  for (let k = 0; k <= steps; k++)
    for (let w = 0; w < widePx; w++) {
      const u = Math.round(a[0] + ((b[0] - a[0]) * k) / steps);
      const v = Math.round(a[1] + ((b[1] - a[1]) * k) / steps) + w;
      data.fill(40, (v * pixels.width + u) * 4, (v * pixels.width + u) * 4 + 3);
    }
  return { ...pixels, data };
}

describe("a ruler's other long edge", () => {
  it.each([
    ['the latch plate', latch, 50],
    ['the latch plate, clicked elsewhere', latch, 120],
    ['the offcut', offcut, 80],
  ] as const)('is its upper one, and not its foot: %s', (_, demo, x) => {
    const far = farIn(demo, demo.pixels, x);
    expect(far.length).toBeGreaterThan(30);
    const away = offs(demo, far);
    expect(Math.abs(mean(away))).toBeLessThan(0.1);
    expect(Math.max(...away.map(Math.abs))).toBeLessThan(0.4);
    for (const { sigmaPx } of far) expect(sigmaPx).toBeLessThan(0.2);
  });

  it('is told from a line printed along the ruler', () => {
    const far = farIn(latch, ruled(latch, latch.pixels, [-4, -12], [154, -12], 5));
    expect(far.length).toBeGreaterThan(30);
    expect(Math.abs(mean(offs(latch, far)))).toBeLessThan(0.1);
  });

  it('is found beside a hand that covers a third of it', () => {
    const [u, v] = latch.at(60, -22);
    const far = farIn(latch, painted(latch.pixels, u, v - 170, 850, 200, 200));
    expect(far.length).toBeGreaterThan(20);
    const away = offs(latch, far);
    expect(away.filter((o) => Math.abs(o) > 0.6)).toEqual([]);
  });

  it('is none where it lies out of the picture', () => {
    const [[, left], [, right]] = [latch.at(0, -15), latch.at(150, -15)];
    const cut = cutOut(latch.pixels, 0, 0, latch.pixels.width, Math.round(Math.min(left, right)));
    expect(farIn(latch, cut)).toEqual([]);
  });
});

type Rgb = readonly [number, number, number];

interface Drawn {
  ground: Rgb;
  table: Rgb;
  /** Bands of grain along the ruler: how much lighter or darker than its ground, and how wide, px. */
  grain: { share: number; widePx: number };
  /** A shadow beyond the far edge: how much of the table's light is left, and how wide, px. */
  shadow: { light: number; widePx: number };
  turn: number;
  seed: number;
}

const [WIDE, PERIOD, STROKES] = [130, 7, 90];

/** A rule of 90 strokes by its closed form, each px the mean of 3 × 3 places. */
function drawRule({ ground, table, grain, shadow, turn, seed }: Drawn) {
  const [width, height] = [900, 560];
  const random = seededRandom(seed);
  const bands = Array.from({ length: 80 }, () => 1 + grain.share * (2 * random() - 1));
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const lightOf = (x: number, y: number): Rgb => {
    const [t, down] = [c * x + s * y, c * y - s * x + WIDE / 2];
    if (Math.abs(t) < 330 && down > 0 && down < WIDE) {
      const near = Math.round(t / PERIOD);
      const deep = near % 10 === 0 ? 42 : near % 5 === 0 ? 32 : 22;
      const isInk = Math.abs(near) <= STROKES / 2 && Math.abs(t - near * PERIOD) < 0.9 && down > 1 && down < deep;
      const light = bands[Math.floor(down / grain.widePx)]! * (isInk ? 0.35 : 1);
      return [ground[0] * light, ground[1] * light, ground[2] * light];
    }
    const isShaded = Math.abs(t) < 340 && down >= WIDE && down < WIDE + shadow.widePx;
    const light = isShaded ? shadow.light : 1;
    return [table[0] * light, table[1] * light, table[2] * light];
  };
  const data = new Uint8ClampedArray(width * height * 4).fill(255);
  for (let v = 0; v < height; v++)
    for (let u = 0; u < width; u++) {
      const sum = [0, 0, 0];
      for (const dv of [-1, 0, 1])
        for (const du of [-1, 0, 1]) {
          const light = lightOf(u + 0.5 + du / 2 - width / 2, v + 0.5 + dv / 2 - height / 2);
          for (let k = 0; k < 3; k++) sum[k]! += light[k]! / 9;
        }
      for (let k = 0; k < 3; k++)
        data[(v * width + u) * 4 + k] = 255 * (sum[k]! <= 0 ? 0 : sum[k]! ** (1 / 2.2)) + 5 * (random() - 0.5);
    }
  const place = (t: number, down: number) => ({
    uPx: width / 2 + c * t - s * (down - WIDE / 2),
    vPx: height / 2 + s * t + c * (down - WIDE / 2),
  });
  /** How far a place lies beyond the far edge, px. */
  const beyond = ({ uPx, vPx }: PixelPick) => c * (vPx - height / 2) - s * (uPx - width / 2) - WIDE / 2;
  return { pixels: { width, height, data } as Pixels, place, beyond };
}

describe('the other long edge of a drawn ruler', () => {
  const light = fc.double({ min: 0.08, max: 0.7, noNaN: true });
  const color = fc.tuple(light, light, light);

  it('is its own, or none, whatever its grain, its color and the shadow beside it', () => {
    let [found, counted] = [0, 0];
    fc.assert(
      fc.property(
        fc.record({
          ground: color,
          table: color,
          grain: fc.record({
            share: fc.double({ min: 0, max: 0.15, noNaN: true }),
            widePx: fc.double({ min: 2, max: 20, noNaN: true }),
          }),
          shadow: fc.record({
            light: fc.double({ min: 0.3, max: 1, noNaN: true }),
            widePx: fc.double({ min: 0, max: 12, noNaN: true }),
          }),
          turn: fc.double({ min: -0.25, max: 0.25, noNaN: true }),
          seed: fc.integer({ min: 1, max: 1e6 }),
        }),
        (drawn) => {
          const { pixels, place, beyond } = drawRule(drawn);
          const result = findRuler(pixels, place(0, 8));
          if (!result.ok) return;
          counted += 1;
          const far = result.graduations.far.map(beyond);
          if (!far.length) return;
          found += 1;
          expect(Math.abs(mean(far))).toBeLessThan(1);
          expect(far.filter((off) => Math.abs(off) > 2).length).toBeLessThan(0.1 * far.length);
        },
      ),
      { numRuns: 12, seed: 12 },
    );
    // Of most rulers that are found it is found as well.
    expect(found).toBeGreaterThan(0.8 * counted);
    expect(counted).toBeGreaterThan(6);
  });
});
