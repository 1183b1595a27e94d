import type { Rule } from '@steady-moth/rig/scene';
import { describe, expect, it } from 'vitest';
import type { Pick } from '../calibration';
import type { Pixels } from '../raster';
import { findRuler } from '.';
import { cutOut, openDemo, painted } from './demo.test-data';

const latch = await openDemo('latch-plate', 'rule');
const offcut = await openDemo('plywood-offcut', 'rule');
type Demo = typeof latch;

/** The other long edge as it is found by one click. */
function farIn({ place }: Demo, pixels: Pixels, x = 50): Pick[] {
  const found = findRuler(pixels, place(x, -2));
  if (!found.ok) throw new Error(found.reason);
  return found.graduations.far;
}

/** How far places lie off the upper edge of the ruler's far side, as the simulated camera pictures it, px. */
function offs({ at, item }: Demo, places: readonly Pick[]): number[] {
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
