import { describe, expect, it } from 'vitest';
import { derivativesAt, type Patch, secondDerivatives } from '.';

/** A blob of light exp(−d²/2s²) about a place: smoothed by a Gaussian σ it is one of s² + σ², so that all is known. */
const blob = { x: 20.3, y: 18.6, s: 5 };
const SIGMA_PX = 1.8;
const patch: Patch = {
  left: 0,
  top: 0,
  width: 41,
  height: 37,
  light: Float32Array.from({ length: 41 * 37 }, (_, k) =>
    Math.exp(-(((k % 41) - blob.x) ** 2 + (Math.floor(k / 41) - blob.y) ** 2) / (2 * blob.s ** 2)),
  ),
};
const wide = blob.s ** 2 + SIGMA_PX ** 2;
const truth = (x: number, y: number) => {
  const [dx, dy] = [x - blob.x, y - blob.y];
  const light = (blob.s ** 2 / wide) * Math.exp(-(dx * dx + dy * dy) / (2 * wide));
  return {
    byX: (-dx / wide) * light,
    byY: (-dy / wide) * light,
    byXX: (dx * dx - wide) * (light / wide ** 2),
    byXY: dx * dy * (light / wide ** 2),
    byYY: (dy * dy - wide) * (light / wide ** 2),
  };
};
/** The kernel ends at 3 σ and is sampled at whole pixels: a few hundredths of the largest that there is. */
const LARGEST_SECOND = blob.s ** 2 / wide ** 2;
const NEAR = 0.04;

const PLACES = [
  [20, 19],
  [14, 12],
  [27, 21],
  [33, 30],
] as const;

describe('derivatives of smoothed light', () => {
  it.each(PLACES)('are those of the smoothed form itself, at %i, %i', (x, y) => {
    const { byXX, byXY, byYY } = secondDerivatives(patch, SIGMA_PX);
    const k = y * patch.width + x;
    const own = truth(x, y);
    for (const [found, wanted] of [
      [byXX[k]!, own.byXX],
      [byXY[k]!, own.byXY],
      [byYY[k]!, own.byYY],
    ] as const)
      expect(Math.abs(found - wanted)).toBeLessThan(NEAR * LARGEST_SECOND);
  });

  it.each(PLACES)('are told alike for one pixel alone, at %i, %i', (x, y) => {
    const own = truth(x, y);
    const found = derivativesAt(patch, x, y, SIGMA_PX)!;
    expect(Math.abs(found.byX - own.byX)).toBeLessThan(NEAR * LARGEST_SECOND * blob.s);
    expect(Math.abs(found.byY - own.byY)).toBeLessThan(NEAR * LARGEST_SECOND * blob.s);
    const { byXX, byXY, byYY } = secondDerivatives(patch, SIGMA_PX);
    const k = y * patch.width + x;
    expect(found.byXX).toBeCloseTo(byXX[k]!, 6);
    expect(found.byXY).toBeCloseTo(byXY[k]!, 6);
    expect(found.byYY).toBeCloseTo(byYY[k]!, 6);
  });

  it('have no value where the kernel leaves the patch', () => {
    const { byXX, rim } = secondDerivatives(patch, SIGMA_PX);
    expect(rim).toBe(6);
    expect(byXX[5 * patch.width + 20]).toBe(0);
    expect(derivativesAt(patch, 5, 20, SIGMA_PX)).toBeNull();
    expect(derivativesAt(patch, 6, 20, SIGMA_PX)).not.toBeNull();
  });
});
