import { describe, expect, it } from 'vitest';
import { type CalibrationInput, calibrate, distance, figureOf, type KnownLength } from '..';
import { inputOf } from '../reference/kinds/yardsticks.test-data';

const pick = (uPx: number, vPx: number) => ({ uPx, vPx, sigmaPx: 0.15 });
const length = (
  id: string,
  plane: string,
  from: ReturnType<typeof pick>,
  to: ReturnType<typeof pick>,
  lengthMm: number,
  plusMinusMm: number | null,
): KnownLength => ({ id, kind: 'known-length', plane, from, to, lengthMm, plusMinusMm });

/*
 * Three lengths round a part as a camera tilted by 30° sees them, drawn from the priors (bench/drawScene, seed 43). A
 * tilt of 8° explains them as well; every descent from near flat-on ends there.
 */
const THREE: CalibrationInput = {
  ...inputOf(
    length('rule', 'reference', pick(1400.8, 2171.032), pick(2666.7, 1930.608), 150.043, null),
    length('across', 'face', pick(2573.861, 1743.547), pick(2600.719, 934.31), 90.011, 0.05),
    length('opposite', 'face', pick(1512.058, 996.279), pick(2598.925, 981.97), 119.978, 0.05),
  ),
  planes: [
    { id: 'reference', heightMm: 1, plusMinusMm: 0.1 },
    { id: 'face', heightMm: 2, plusMinusMm: 0.1 },
  ],
};

describe('three lengths that two poses explain', () => {
  it('show both poses', () => {
    const result = calibrate(THREE);
    if (!result.ok) throw new Error(result.reason);
    const tilts = [result.calibration.tiltRad, ...result.calibration.otherTilts.map(({ a, b }) => Math.hypot(a, b))];
    const degrees = tilts.map((t) => Math.round((180 / Math.PI) * t)).sort((a, b) => a - b);
    expect(degrees).toEqual([8, 27]);
  });

  it('hold the truth within a ± that knows of both', () => {
    const result = calibrate(THREE, { seed: 43 });
    if (!result.ok) throw new Error(result.reason);
    const ends = [pick(1637.342, 1582.546), pick(2508.597, 1491.246)].map((p) => ({ ...p, plane: 'face' }));
    const found = figureOf(result.calibration, ends, distance);
    expect(Math.abs((found?.value ?? 0) - 100)).toBeLessThan(found?.plusMinus ?? 0);
  });
});
