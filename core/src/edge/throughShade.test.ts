import { describe, expect, it } from 'vitest';
import { seededRandom } from '../numeric';
import { type MeanLight, throughShade } from './throughShade';

const STEP_PX = 0.5;
const REACH_PX = 8;

/** Light across an edge, blurred by plain summation on a fine grid. */
function across(lightAt: (x: number) => number, blurPx: number, scatter = 0, seed = 1): MeanLight {
  const random = seededRandom(seed);
  const light = Float64Array.from({ length: 2 * (REACH_PX / STEP_PX) + 1 }, (_, k) => {
    const at = k * STEP_PX - REACH_PX;
    let [sum, weights] = [0, 0];
    for (let d = -6; d <= 6; d += 0.02) {
      const weight = Math.exp(-0.5 * (d / blurPx) ** 2);
      sum += weight * lightAt(at + d);
      weights += weight;
    }
    return sum / weights + scatter * (random() + random() + random() - 1.5) * 2;
  });
  return { firstPx: -REACH_PX, spacingPx: STEP_PX, light, noise: Math.max(1e-4, scatter) };
}

/** Ground before the edge that is darker by a wedge, not by what the fit takes for shade. */
const wedge = (edge: number, ground: number, thing: number, share: number, wide: number) => (x: number) =>
  x > edge ? thing : ground * (1 - share * Math.max(0, 1 - (edge - x) / wide));

const GROUND_BEFORE = { none: 0.1, before: 0.9, behind: 0 };

describe('throughShade', () => {
  it.each([
    ['dark on bright', 0.5, 0.1, 0.4],
    ['bright on dark', 0.1, 0.5, -0.7],
    ['a faint step', 0.3, 0.36, 0.2],
  ])('leaves an edge without shade where it is: %s', (_, ground, thing, edge) => {
    const found = throughShade(across(wedge(edge, ground, thing, 0, 1), 1.1), 1.1, GROUND_BEFORE)!;
    expect(Math.abs(found.offsetPx - edge)).toBeLessThan(2 * Math.hypot(found.sigmaPx, 0.1));
    expect(found.sigmaPx).toBeLessThan(0.35);
  });

  it('holds where a shaded edge is, where one step alone would be far off', () => {
    let [held, alone] = [0, 0];
    const cases = [
      [0.3, 0.2],
      [0.3, 0.24],
      [0.3, 0.45],
      [0.25, 0.3],
    ].flatMap(([ground, thing]) =>
      [1, 2, 3].flatMap((wide) => [0.2, 0.4].map((share) => [ground!, thing!, wide, share] as const)),
    );
    cases.forEach(([ground, thing, wide, share], k) => {
      const mean = across(wedge(0.3, ground, thing, share, wide), 1, 0.001, k + 1);
      const found = throughShade(mean, 1, GROUND_BEFORE)!;
      const plain = throughShade(mean, 1, { none: 1, before: 0, behind: 0 });
      if (Math.abs(found.offsetPx - 0.3) < 2 * Math.hypot(found.sigmaPx, 0.1)) held += 1;
      if (plain && Math.abs(plain.offsetPx - 0.3) < 2 * Math.hypot(plain.sigmaPx, 0.1)) alone += 1;
    });
    expect(held).toBeGreaterThanOrEqual(Math.ceil(0.94 * cases.length));
    expect(alone).toBeLessThan(0.6 * cases.length);
  });

  it('is the same seen from the other side', () => {
    const mean = across(wedge(0.3, 0.3, 0.22, 0.35, 2), 1);
    const mirrored = { ...mean, light: mean.light.slice().reverse() };
    const [one, other] = [
      throughShade(mean, 1, GROUND_BEFORE)!,
      throughShade(mirrored, 1, { none: 0.1, before: 0, behind: 0.9 })!,
    ];
    expect(other.offsetPx).toBeCloseTo(-one.offsetPx, 6);
    expect(other.sigmaPx).toBeCloseTo(one.sigmaPx, 6);
    expect(other.likely.behind).toBeCloseTo(one.likely.before, 6);
  });

  it('gives nothing for two edges, and for no edge', () => {
    const two = across((x) => (x < -1 ? 0.1 : x < 3 ? 0.5 : 0.2), 1);
    expect(throughShade(two, 1, GROUND_BEFORE)).toBeNull();
    expect(
      throughShade(
        across(() => 0.3, 1),
        1,
        GROUND_BEFORE,
      ),
    ).toBeNull();
    expect(throughShade({ ...two, light: two.light.slice(0, 8) }, 1, GROUND_BEFORE)).toBeNull();
  });
});
