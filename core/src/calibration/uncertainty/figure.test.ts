import { describe, expect, it } from 'vitest';
import { factorCholesky, normalRandom, seededRandom } from '../../numeric';
import { type Calibration, calibrate, distance, figureOf, type Measure, type PlanePick } from '..';
import { prepareCamera } from '../model/camera';
import { project } from '../model/project';
import { newProjection } from '../model/projection';
import { inputOf, SETUP, seenBy } from '../reference/kinds/yardsticks.test-data';

const { pick, ruler, grid } = seenBy(SETUP, 21);
const calibrated = (...references: Parameters<typeof inputOf>): Calibration => {
  const result = calibrate({ ...inputOf(...references), planes: [{ id: 'step', heightMm: 8, plusMinusMm: 0.4 }] });
  if (!result.ok) throw new Error(result.reason);
  return { ...result.calibration, draws: null };
};
const byRuler = calibrated(ruler('rule', -75, -55, 150));
const byGrid = calibrated(grid('grid', -80, -60, 10, 17, 13));
const at = (x: number, y: number, plane = 'table', sigmaPx = 0.1): PlanePick => {
  const z = plane === 'step' ? 8 : 0;
  return { ...pick(x, y, z, sigmaPx), plane };
};

const angle: Measure = (p) => Math.atan2(p[3]! - p[1]!, p[2]! - p[0]!) - Math.atan2(p[5]! - p[1]!, p[4]! - p[0]!);
const area: Measure = (p) => {
  let sum = 0;
  for (let k = 0; k < p.length; k += 2) {
    const n = (k + 2) % p.length;
    sum += (p[k]! * p[n + 1]! - p[n]! * p[k + 1]!) / 2;
  }
  return sum;
};
const height: Measure = (_, lens) => lens[2]!;

const room = newProjection();

/** Where a ray of the picture meets a plane, by stepping on the model's own projection until it is there. */
function placed(parameters: Float64Array, { uPx, vPx }: PlanePick, z: number): [number, number] {
  const camera = prepareCamera(parameters);
  const off = (x: number, y: number): [number, number] => {
    if (!project(camera, x, y, z, room)) throw new Error('not pictured');
    return [room.picture[0]! - uPx, room.picture[1]! - vPx];
  };
  let [x, y] = [0, 0];
  for (let n = 0; n < 12; n++) {
    const [a, b] = off(x, y);
    const [ax, bx] = off(x + 0.01, y).map((v, k) => (v - [a, b][k]!) / 0.01) as [number, number];
    const [ay, by] = off(x, y + 0.01).map((v, k) => (v - [a, b][k]!) / 0.01) as [number, number];
    const det = ax * by - ay * bx;
    [x, y] = [x - (a * by - b * ay) / det, y - (b * ax - a * bx) / det];
  }
  return [x, y];
}

/** 95 % half width of a measure by drawing the calibration and the picks, and placing each again. */
function byDrawing(
  calibration: Calibration,
  picks: readonly PlanePick[],
  measure: Measure,
): { middle: number; half: number } {
  const size = calibration.parameters.length;
  const l = calibration.covariance.slice();
  if (!factorCholesky(l, size)) throw new Error('not definite');
  const normal = normalRandom(seededRandom(5));
  const values = Array.from({ length: 1500 }, () => {
    const z = Array.from({ length: size }, normal);
    const p = calibration.parameters.map((v, i) => {
      let sum = v;
      for (let k = 0; k <= i; k++) sum += l[i * size + k]! * z[k]!;
      return sum;
    });
    const places = picks.flatMap((pk) => {
      const { index, heightMm } = calibration.planes[pk.plane]!;
      const moved = { ...pk, uPx: pk.uPx + pk.sigmaPx * normal(), vPx: pk.vPx + pk.sigmaPx * normal() };
      return placed(p, moved, index === null ? heightMm : p[index]!);
    });
    return measure(Float64Array.from(places), new Float64Array(3));
  });
  values.sort((a, b) => a - b);
  const middle = values[values.length >> 1]!;
  const away = values.map((v) => Math.abs(v - middle)).sort((a, b) => a - b);
  return { middle, half: away[Math.floor(0.95 * away.length)]! };
}

describe('figureOf', () => {
  it.each<[string, Calibration, PlanePick[], Measure]>([
    ['a distance by a ruler', byRuler, [at(-40, 10), at(50, 30)], distance],
    ['a distance by a grid', byGrid, [at(-40, 10), at(50, 30)], distance],
    ['a distance on a step of uncertain height', byGrid, [at(-40, 10, 'step'), at(50, 30, 'step')], distance],
    ['a distance from the table to a step', byRuler, [at(-40, 10), at(20, 30, 'step')], distance],
    ['an angle', byRuler, [at(0, 0), at(60, 10), at(5, 50)], angle],
    ['an area', byGrid, [at(-30, -20), at(40, -25), at(35, 30), at(-25, 20)], area],
  ])('carries the ± of %s as drawing the truing anew does', (_, calibration, picks, measure) => {
    const found = figureOf(calibration, picks, measure);
    const drawn = byDrawing(calibration, picks, measure);
    expect(found?.value).toBeCloseTo(
      measure(
        Float64Array.from(
          picks.flatMap((p) => placed(calibration.parameters, p, calibration.planes[p.plane]!.heightMm)),
        ),
        new Float64Array(3),
      ),
      6,
    );
    // 1,500 draws tell a 95 % half width to about 4 %; and 2σ stand for 1.96.
    expect((found?.plusMinus ?? 0) / drawn.half).toBeGreaterThan(0.88);
    expect((found?.plusMinus ?? 0) / drawn.half).toBeLessThan(1.16);
  });

  it('does not count what all points share twice: a ratio is surer than its parts', () => {
    const ends = [
      at(-50, 0, 'table', 0.02),
      at(50, 0, 'table', 0.02),
      at(-50, 20, 'table', 0.02),
      at(50, 20, 'table', 0.02),
    ];
    const ratio: Measure = (p) => Math.hypot(p[2]! - p[0]!, p[3]! - p[1]!) / Math.hypot(p[6]! - p[4]!, p[7]! - p[5]!);
    const whole = figureOf(byRuler, ends.slice(0, 2), distance);
    const shared = figureOf(byRuler, ends, ratio);
    const share = (whole?.plusMinus ?? 0) / (whole?.value ?? 1);
    expect(shared?.plusMinus).toBeLessThan(share);
    expect(Math.abs((shared?.value ?? 0) - 1)).toBeLessThan(2 * (shared?.plusMinus ?? 0));
  });

  it('tells how high the lens stands, with the camera as it was set up', () => {
    const found = figureOf(byGrid, [at(0, 0)], height);
    const truth = SETUP.distanceMm * Math.cos(SETUP.tilt);
    expect(Math.abs((found?.value ?? 0) - truth)).toBeLessThan(found?.plusMinus ?? 0);
    const over = figureOf(byGrid, [at(0, 0, 'step')], height);
    expect((found?.value ?? 0) - (over?.value ?? 0)).toBeCloseTo(8, 1);
  });

  it('takes the draws for its ± where a truing has any', () => {
    const normal = normalRandom(seededRandom(9));
    const grown = Array.from({ length: 400 }, () => {
      const p = byGrid.parameters.slice();
      p[7]! += 0.01 * normal();
      return p;
    });
    const found = figureOf(
      { ...byGrid, draws: grown },
      [at(-50, 0, 'table', 1e-4), at(50, 0, 'table', 1e-4)],
      distance,
    );
    // One percent of σ on the distance is one of every length: 1.96 % of 100 mm.
    expect(Math.abs((found?.plusMinus ?? 0) - 1.96)).toBeLessThan(0.25);
    expect(Math.abs((found?.value ?? 0) - 100)).toBeLessThan(0.05);
  });

  it('has no figure for a pick that meets no plane', () => {
    const over = calibrate({
      ...inputOf(grid('grid', -80, -60, 10, 17, 13)),
      planes: [{ id: 'roof', heightMm: 900, plusMinusMm: 0 }],
    });
    if (!over.ok) throw new Error(over.reason);
    expect(figureOf(over.calibration, [{ ...at(0, 0), plane: 'roof' }, at(10, 0)], distance)).toBeNull();
  });
});
