import { describe, expect, it } from 'vitest';
import { type CheckPicture, calibrate, checkCamera, distance, figureOf } from '..';
import { inputOf, SETUP, seenBy } from '../reference/kinds/yardsticks.test-data';

const FOCAL_MM = 5.6;
const FACTS = inputOf().facts;
/** The lens focused far away; each picture lengthens it by its own distance. */
const LENS = {
  ...SETUP,
  cPx: 3060,
  centre: [2031, 1498] as [number, number],
  radial: [0.06, -0.05, 0] as [number, number, number],
};
const view = (tilt: number, tiltTowards: number, distanceMm: number, seed: number) =>
  seenBy({ ...LENS, cPx: LENS.cPx / (1 - FOCAL_MM / distanceMm), tilt, tiltTowards, distanceMm }, seed);
const shot = (...args: Parameters<typeof view>): CheckPicture => ({
  facts: FACTS,
  grid: view(...args).grid('g', -90, -65, 10, 19, 14),
});
const SHOTS = [
  shot(0.05, 0, 260, 1),
  shot(0.4, 0.3, 280, 2),
  shot(0.4, 1.9, 300, 3),
  shot(0.45, 3.4, 270, 4),
  shot(0.4, 5, 320, 5),
];

describe('a camera from pictures of a grid', () => {
  const found = checkCamera(SHOTS);
  it('finds the lens of the simulated camera', () => {
    if (!found.ok) throw new Error(found.reason);
    const { mean, covariance } = found.camera;
    const truth = [Math.log(LENS.cPx), ...LENS.centre, LENS.radial[0], LENS.radial[1]];
    truth.forEach((value, k) => {
      expect(Math.abs(mean[k]! - value)).toBeLessThan(3 * Math.sqrt(covariance[6 * k]!));
    });
    expect(found.plusMinusShare).toBeLessThan(0.006);
    expect(found.rmsPx).toBeLessThan(0.15);
  });

  it('makes the ± of one ruler smaller, and keeps it true', () => {
    if (!found.ok) throw new Error(found.reason);
    const later = view(0.2, 1, 350, 9);
    const plain = inputOf(later.ruler('rule', -75, -60, 150));
    const figures = [plain, { ...plain, saved: found.camera }].map((input) => {
      const result = calibrate(input);
      if (!result.ok) throw new Error(result.reason);
      const ends = [later.pick(-40, -20, 0, 0.01), later.pick(30, 51, 0, 0.01)].map((p) => ({ ...p, plane: 'table' }));
      return figureOf(result.calibration, ends, distance);
    });
    const truth = Math.hypot(70, 71);
    expect(Math.abs((figures[1]?.value ?? 0) - truth)).toBeLessThan(figures[1]?.plusMinus ?? 0);
    expect(figures[1]?.plusMinus).toBeLessThan(0.75 * (figures[0]?.plusMinus ?? 0));
  });

  it('says what is wrong', () => {
    expect(checkCamera(SHOTS.slice(0, 3))).toEqual({ ok: false, reason: 'too-few' });
    const other = { ...SHOTS[1]!, facts: { ...FACTS, widthPx: 4000 } };
    expect(checkCamera([...SHOTS.slice(0, 3), other])).toEqual({ ok: false, reason: 'another-size', picture: 3 });
    const zoomed = { ...SHOTS[1]!, facts: { ...FACTS, focal35Mm: 54 } };
    expect(checkCamera([...SHOTS.slice(0, 3), zoomed])).toEqual({ ok: false, reason: 'another-zoom', picture: 3 });
    expect(checkCamera([SHOTS[1]!, SHOTS[1]!, SHOTS[1]!, SHOTS[1]!])).toEqual({ ok: false, reason: 'too-alike' });
    const alike = [1, 2, 3, 4].map((seed) => shot(0.01, 0, 300, seed));
    expect(checkCamera(alike)).toMatchObject({ ok: false, reason: 'too-alike' });
  });
});
