import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planeMap, planeMapper } from '../datum/datum';
import { calibrate } from '../estimate/calibrate';
import type { CalibrationInput } from '../estimate/calibrationInput';
import { distance, figureOf } from '../uncertainty/figure';
import { backProject, placePoint } from './backProject';
import { prepareCamera } from './camera';
import { project } from './project';
import { newProjection } from './projection';

const page = fc
  .tuple(
    fc.double({ min: 1, max: 50, noNaN: true }),
    fc.double({ min: -0.02, max: 0.02, noNaN: true }),
    fc.double({ min: -0.01, max: 0.01, noNaN: true }),
  )
  .map(([perMm, ratio, shear]) => Float64Array.of(Math.log(perMm), 1000, 800, ratio, shear, 0, 0, Math.log(250)));
const at = fc.double({ min: -100, max: 100, noNaN: true });
const height = fc.double({ min: -5, max: 20, noNaN: true });

const scan = (change: Partial<CalibrationInput> = {}): CalibrationInput => ({
  facts: {
    widthPx: 2480,
    heightPx: 3508,
    focal35Mm: null,
    focalMm: null,
    doubts: [],
    resolution: { perMmX: 300 / 25.4, perMmY: 300 / 25.4, sigma: 0.0025 },
  },
  lens: 'page',
  believeResolution: true,
  hold: 'free',
  planes: [
    { id: 'reference', heightMm: 0, plusMinusMm: 0 },
    { id: 'face', heightMm: 0, plusMinusMm: 0 },
  ],
  references: [],
  ...change,
});
const pick = (uPx: number, vPx: number) => ({ uPx, vPx, sigmaPx: 0.01, plane: 'face' });

describe('a page', () => {
  it('goes to the picture and back, with derivatives that differences confirm', () => {
    fc.assert(
      fc.property(page, at, at, height, (parameters, x, y, z) => {
        const out = newProjection();
        const camera = prepareCamera(parameters, 'page');
        project(camera, x, y, z, out);
        const [u, v] = out.picture;
        const back = new Float64Array(2);
        expect(backProject(camera, u!, v!, z, back)).toBe(true);
        expect(Math.hypot(back[0]! - x, back[1]! - y)).toBeLessThan(1e-8);
        const placed = placePoint(camera, u!, v!, z);
        if (!placed) throw new Error('no place');
        for (let k = 0; k < 8; k++) {
          const step = k === 1 || k === 2 ? 1e-3 : 1e-7;
          const moved = parameters.slice();
          moved[k]! += step;
          const there = new Float64Array(2);
          backProject(prepareCamera(moved, 'page'), u!, v!, z, there);
          for (const c of [0, 1]) expect((there[c]! - back[c]!) / step).toBeCloseTo(placed.byCamera[8 * c + k]!, 2);
        }
      }),
    );
  });

  it('is true by the resolution of its file alone, and says how true', () => {
    const found = calibrate(scan());
    if (!found.ok) throw new Error(found.reason);
    const tenCm = figureOf(found.calibration, [pick(500, 500), pick(500 + 100 * (300 / 25.4), 500)], distance);
    expect(tenCm?.value).toBeCloseTo(100, 6);
    // Half a percent of a hundred millimetres.
    expect(tenCm?.plusMinus).toBeCloseTo(0.5, 2);
    expect(found.calibration.tiltRad).toBe(0);
  });

  it('believes a known length more than the file, and carries it across through one scale', () => {
    const wide = {
      id: 'y',
      kind: 'known-length' as const,
      plane: 'face',
      from: pick(100, 1000),
      to: pick(2100, 1000),
      lengthMm: 170,
      plusMinusMm: 0.02,
    };
    const found = calibrate(scan({ believeResolution: false, references: [wide] }));
    if (!found.ok) throw new Error(found.reason);
    const mmPerPx = 170 / 2000;
    const along = figureOf(found.calibration, [pick(0, 0), pick(1000, 0)], distance);
    const down = figureOf(found.calibration, [pick(0, 0), pick(0, 1000)], distance);
    expect(along?.value).toBeCloseTo(1000 * mmPerPx, 2);
    expect(down?.value).toBeCloseTo(1000 * mmPerPx, 2);
    // The other way is only as good as the two scales are alike: ± 0.5 %.
    expect(along?.plusMinus).toBeLessThan(0.02);
    expect(down?.plusMinus).toBeGreaterThan(0.4);
    expect(down?.plusMinus).toBeLessThan(0.5);
  });

  it('is not true when nothing is known of it', () => {
    const result = calibrate(scan({ believeResolution: false }));
    expect(result).toMatchObject({ ok: false, reason: 'no-yardstick' });
  });

  it('shows a thing from behind with X the other way, and lengths as they are', () => {
    const found = calibrate(scan());
    if (!found.ok) throw new Error(found.reason);
    const middle = { uPx: 1240, vPx: 1754 };
    const plain = planeMapper(planeMap(found.calibration, { zero: null, axis: null }, 'face', middle));
    const behind = planeMapper(planeMap(found.calibration, { zero: null, axis: null, flip: true }, 'face', middle));
    const place = { uPx: 1700, vPx: 900 };
    const [a, b] = [plain.toPart(place), behind.toPart(place)];
    expect(b?.xMm).toBeCloseTo(-(a?.xMm as number), 9);
    expect(b?.yMm).toBeCloseTo(a?.yMm as number, 9);
    const again = behind.toPicture(b as { xMm: number; yMm: number });
    expect(again?.uPx).toBeCloseTo(1700, 6);
  });
});
