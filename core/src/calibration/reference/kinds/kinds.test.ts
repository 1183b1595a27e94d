import { describe, expect, it } from 'vitest';
import {
  agreements,
  type Calibration,
  type CalibrationInput,
  calibrate,
  distance,
  figureOf,
  outlier,
  type Reference,
  type TurnedDiameter,
} from '../..';
import { layOutUnknowns } from '../../estimate/layOutUnknowns';
import { posedProblem } from '../../estimate/posedProblem';
import { cameraPrior } from '../../model/priors';
import { inputOf, SETUP, seenBy } from './yardsticks.test-data';

const seen = seenBy(SETUP, 4);
const solved = (input: CalibrationInput): Calibration => {
  const result = calibrate(input);
  if (!result.ok) throw new Error(result.reason);
  return result.calibration;
};
const SPANS = [
  [-50, 0, 100, 0],
  [0, -40, 0, 100],
  [-40, -30, 80, 60],
];
/** Errors and ± of three distances of 100 mm. */
const hundreds = (calibration: Calibration) =>
  SPANS.map(([x, y, dx, dy]) => {
    const ends = [seen.pick(x!, y!, 0, 0.01), seen.pick(x! + dx!, y! + dy!, 0, 0.01)].map((p) => ({
      ...p,
      plane: 'table',
    }));
    const found = figureOf(calibration, ends, distance);
    return { off: Math.abs((found?.value ?? 0) - 100), plusMinus: found?.plusMinus ?? 0 };
  });

const coin = seen.disc('coin', 70, 40, 23.25, 2.33);
const paper = seen.sheet('paper', -100, -70, 210, 148);
const mat = seen.grid('mat', -90, -70, 10, 19, 14);
const rule = seen.ruler('rule', -75, -60, 150);
const corner = seen.lines('square', [
  ['x', [-60, -50], [60, -50]],
  ['x', [-60, 50], [60, 50]],
  ['y', [-60, -50], [-60, 50]],
  ['y', [60, -50], [60, 50]],
]);
const pair = seen.equal('equal', [
  [
    [-60, -50],
    [60, -50],
  ],
  [
    [-60, 50],
    [60, 50],
  ],
  [
    [-60, -60],
    [-60, 60],
  ],
  [
    [60, -60],
    [60, 60],
  ],
]);

const turned: TurnedDiameter = {
  id: 'turned',
  kind: 'turned-diameter',
  plane: 'table',
  silhouettes: [
    [seen.pick(-30, -15, 0, 0.1), seen.pick(30, -14, 0, 0.1)],
    [seen.pick(-30, 16, 0, 0.1), seen.pick(30, 15, 0, 0.1)],
  ],
  diameterMm: 29,
  plusMinusMm: 0.05,
};

const span: Reference = {
  id: 'span',
  kind: 'turned-span',
  plane: 'table',
  silhouettes: turned.silhouettes,
  from: seen.pick(-28, -15, 0, 0.1),
  to: seen.pick(27, -14, 0, 0.1),
  lengthMm: 54,
  plusMinusMm: 0.05,
};

describe('each kind of yardstick', () => {
  it.each<[string, Reference]>([
    ['known length', seen.length('a', [-50, -30], [50, -20])],
    ['ruler', rule],
    ['coin', coin],
    ['coin of two rims', seen.twoRims('c', 70, 40, 23.25, 2.33)],
    ['disc of two rims of unknown size', { ...seen.twoRims('c', 70, 40, 40, 3), diameterMm: null }],
    ['circle of unknown size', { ...seen.disc('c', -20, 10, 40, 0), diameterMm: null }],
    ['sheet', paper],
    ['grid', mat],
    ['square lines', corner],
    ['equal lengths', pair],
    ['diameter of a turned part', turned],
    ['length along a turned part', span],
  ])('%s has derivatives as differences find them', (_, y) => {
    const input: CalibrationInput = {
      ...inputOf({ ...y, plane: 'face' }),
      planes: [{ id: 'face', heightMm: 2, plusMinusMm: 0.2 }],
    };
    const unknowns = layOutUnknowns(input);
    const problem = posedProblem(input, cameraPrior(input.facts, 'free'), unknowns, null);
    const rows = (p: Float64Array) => {
      const out: { residual: number; by: Float64Array }[] = [];
      const placed = problem.residuals(p, {
        add(residual, indices, derivatives) {
          const by = new Float64Array(p.length);
          for (let k = 0; k < indices.length; k++) by[indices[k]!]! += derivatives[k]!;
          out.push({ residual, by });
        },
      });
      expect(placed).toBe(true);
      return out;
    };
    const parameters = new Float64Array(unknowns.size).fill(0.004);
    parameters.set([Math.log(3150), 2000, 1530, 0.02, -0.01, 0.17, -0.09, Math.log(335), 2.1]);
    const at = unknowns.own[y.id]!;
    if (y.kind === 'disc') parameters.set([68.3, 41.2, y.diameterMm === null ? Math.log(21) : 0.01, 0.03], at);
    if (y.kind === 'equal-lengths') parameters[at] = Math.log(118);
    const base = rows(parameters);
    for (let k = 0; k < parameters.length; k++) {
      const step = 1e-6 * Math.max(1, Math.abs(parameters[k]!));
      const more = parameters.slice();
      const less = parameters.slice();
      more[k]! += step;
      less[k]! -= step;
      const [up, down] = [rows(more), rows(less)];
      base.forEach(({ by }, n) => {
        const slope = (up[n]!.residual - down[n]!.residual) / (2 * step);
        expect(Math.abs(by[k]! - slope)).toBeLessThan(2e-4 * (1 + Math.abs(slope)));
      });
    }
  });

  it.each<[string, Reference[], number]>([
    ['a grid', [mat], 0.06],
    ['a measured sheet', [paper], 0.1],
    ['a ruler and a coin', [rule, coin], 0.4],
    ['a ruler and a square frame', [rule, corner], 0.7],
    ['a known length and equal lengths', [seen.length('a', [-60, -55], [60, -55]), pair], 3],
    [
      'a known length and a circle',
      [seen.length('a', [-60, -55], [60, -55]), { ...seen.disc('c', -20, 10, 80, 0), diameterMm: null }],
      12,
    ],
  ])('%s gives the truth within a small ±', (_, references, most) => {
    for (const { off, plusMinus } of hundreds(solved(inputOf(...references)))) {
      expect(off).toBeLessThan(1.3 * plusMinus);
      expect(plusMinus).toBeLessThan(most);
    }
  });

  it('shows both poses that one coin leaves open, one of them true', () => {
    const near = seenBy({ ...SETUP, tilt: 0.1, distanceMm: 300 }, 9);
    const calibration = solved(inputOf(near.disc('coin', 20, 10, 23.25, 0)));
    expect(calibration.otherTilts.length).toBeGreaterThan(0);
    const tilts = [calibration.tiltRad, ...calibration.otherTilts.map(({ a, b }) => Math.hypot(a, b))];
    expect(Math.min(...tilts.map((t) => Math.abs(t - 0.1)))).toBeLessThan(0.05);
  });

  it('holds the truth by one coin of two rims, however light bends them', () => {
    let held = 0;
    let all = 0;
    for (let seed = 1; seed <= 12; seed++) {
      const own = seenBy({ ...SETUP, tilt: 0.03 * (seed % 8), tiltTowards: seed, distanceMm: 260 }, seed);
      const bent = 0.0015 * Math.sin(3 * seed);
      const calibration = solved(inputOf(own.twoRims('coin', 45, 25, 24.25, 1.9, bent)));
      for (const [x, y, dx, dy] of SPANS) {
        const ends = [own.pick(x!, y!, 0, 0.01), own.pick(x! + dx!, y! + dy!, 0, 0.01)];
        const found = figureOf(
          calibration,
          ends.map((p) => ({ ...p, plane: 'table' })),
          distance,
        );
        all += 1;
        if (Math.abs(found!.value - 100) <= found!.plusMinus) held += 1;
        // Narrow enough to be of use: the foot tells which way it is tilted.
        expect(found!.plusMinus).toBeLessThan(13);
      }
    }
    expect(held).toBeGreaterThanOrEqual(Math.floor(0.9 * all));
  });

  it('takes a close coin for two circles and not for one', () => {
    const close = seenBy({ ...SETUP, distanceMm: 180, tilt: 0.3 }, 12);
    const references = [close.ruler('rule', -50, -40, 100), close.disc('coin', 30, 15, 23.25, 2.33)];
    const two = agreements(inputOf(...references)).coin;
    const flat = agreements(inputOf(references[0]!, { ...references[1], thicknessMm: 0 } as Reference)).coin;
    expect(two?.fits).toBe(true);
    expect(Math.abs(flat?.deviationMm ?? 0)).toBeGreaterThan(3 * Math.abs(two?.deviationMm ?? 1));
  });

  it('steps over places that lie far out', () => {
    const torn = {
      ...mat,
      crossings: mat.crossings.map((c, k) => (k % 12 ? c : { ...c, pick: { ...c.pick, uPx: c.pick.uPx + 4 } })),
    };
    for (const { off } of hundreds(solved(inputOf(torn)))) expect(off).toBeLessThan(0.06);
  });
});

describe('what the yardsticks say of each other', () => {
  const wrong = { ...coin, diameterMm: 24 } as Reference;
  it('finds a coin of another size, and nothing else', () => {
    const two = agreements(inputOf(rule, wrong));
    expect(two.coin?.fits).toBe(false);
    expect(two.coin?.deviationShare).toBeCloseTo(23.25 / 24 - 1, 2);
    const input = inputOf(rule, wrong, paper, mat);
    expect(outlier(input, agreements(input))).toBe('coin');
    const sound = inputOf(rule, coin, paper, mat, corner, pair);
    for (const [id, a] of Object.entries(agreements(sound)))
      expect([id, Math.abs(a?.deviationMm ?? 9) < 1.5 * (a?.plusMinusMm ?? 0)]).toEqual([id, true]);
    expect(outlier(inputOf(rule, coin), agreements(inputOf(rule, coin)))).toBeNull();
  });
});
