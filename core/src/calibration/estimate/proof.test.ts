import { describe, expect, it } from 'vitest';
import {
  type Calibration,
  type CalibrationInput,
  calibrate,
  deviationsOf,
  findExplanations,
  grownBy,
  planeMap,
  planeMapper,
  plusMinusMap,
  positionOf,
  type SpotCheck,
  scaleTo,
} from '..';
import { inputOf, SETUP, seenBy } from '../reference/kinds/yardsticks.test-data';

const seen = seenBy(SETUP, 21);
const rule = seen.ruler('rule', -75, -60, 150);
const coin = seen.disc('coin', 70, 40, 23.25, 2.33);
const mat = seen.grid('mat', -90, -70, 10, 19, 14);
const solved = (input: CalibrationInput): Calibration => {
  const result = calibrate(input);
  if (!result.ok) throw new Error(result.reason);
  return result.calibration;
};
const on = (x: number, y: number, z = 0, plane = 'table') => ({ ...seen.pick(x, y, z, 0.05), plane });
const spot = (a: [number, number], b: [number, number], lengthMm?: number, z = 0, plane = 'table'): SpotCheck => ({
  from: on(...a, z, plane),
  to: on(...b, z, plane),
  lengthMm: lengthMm ?? Math.hypot(b[0] - a[0], b[1] - a[1]),
  plusMinusMm: 0.03,
});
const ACROSS = spot([-50, 10], [50, 12]);
const UP = spot([10, -40], [12, 45]);

describe('what would repair spot checks', () => {
  it('is nothing where all fit', () => {
    expect(findExplanations(inputOf(rule, mat), [ACROSS, UP])).toEqual([]);
  });

  it('is the wrong size of a yardstick, with the figure', () => {
    const wrong = {
      ...rule,
      lengthMm: 152,
      graduations: rule.graduations && { ...rule.graduations, spacingMm: 152 / 150 },
    };
    const found = findExplanations(inputOf(wrong), [ACROSS, UP]);
    const size = found.find((r) => r.kind === 'size');
    expect(size?.kind === 'size' && Math.abs(size.sizeMm.value - 150)).toBeLessThan(0.3);
    const factor = found.at(-1);
    if (factor?.kind !== 'factor') throw new Error('no factor');
    expect(Math.abs(factor.factor.value - 150 / 152)).toBeLessThan(factor.factor.plusMinus);
    expect(factor.factor.plusMinus).toBeLessThan(0.005);
  });

  it('is a yardstick that the others do without', () => {
    const input = inputOf(mat, { ...coin, diameterMm: 20 });
    const kinds = findExplanations({ ...input, references: [{ ...mat, plusMinusShare: 0.02 }, input.references[1]!] }, [
      ACROSS,
      UP,
    ]);
    expect(kinds).toContainEqual({ kind: 'leave-out', reference: 'coin' });
  });

  it('is one misread check among good ones', () => {
    const found = findExplanations(inputOf(mat), [ACROSS, UP, spot([-40, -30], [40, 30], 103)]);
    expect(found).toContainEqual({ kind: 'spot', spot: 2 });
  });

  it('is the height of the face', () => {
    const input: CalibrationInput = { ...inputOf(mat), planes: [{ id: 'face', heightMm: 0, plusMinusMm: 0 }] };
    const high = [spot([-50, 10], [50, 12], undefined, 12, 'face'), spot([10, -40], [12, 45], undefined, 12, 'face')];
    const height = findExplanations(input, high).find((r) => r.kind === 'height');
    expect(height?.kind === 'height' && Math.abs(height.heightMm.value - 12)).toBeLessThan(0.5);
  });

  it('is a lens that is not the one in the file', () => {
    const zoomed = seenBy({ ...SETUP, cPx: 4600, distanceMm: 480, tilt: 0.35 }, 5);
    const check = (a: [number, number], b: [number, number]): SpotCheck => ({
      from: { ...zoomed.pick(...a, 0, 0.05), plane: 'table' },
      to: { ...zoomed.pick(...b, 0, 0.05), plane: 'table' },
      lengthMm: Math.hypot(b[0] - a[0], b[1] - a[1]),
      plusMinusMm: 0.03,
    });
    const checks = [check([-80, 60], [60, 70]), check([80, -40], [75, 60]), check([-80, -40], [-75, 60])];
    const found = findExplanations(inputOf(zoomed.ruler('r', -75, -55, 150)), checks);
    const lens = found.find((r) => r.kind === 'lens');
    expect(lens?.kind === 'lens' && lens.share.value).toBeGreaterThan(1.2);
  });
});

describe('how far to trust it', () => {
  it('tells each place: as many as were observed, most within two σ', () => {
    const all = deviationsOf(inputOf(rule, coin));
    const graduations = rule.graduations;
    const places =
      (graduations?.graduations.length ?? 0) * 2 + (graduations?.edge.length ?? 0) + (graduations?.far.length ?? 0);
    expect(all.filter((d) => d.reference === 'rule')).toHaveLength(places);
    expect(all.filter((d) => d.reference === 'coin')).toHaveLength(coin.rim.length);
    expect(all.filter((d) => Math.abs(d.offSigmas) < 2).length / all.length).toBeGreaterThan(0.9);
  });

  it('maps the ± over the picture: least beside the ruler, more in the far corner', () => {
    const { mm, uPx, vPx } = plusMinusMap(solved(inputOf(rule)), 'table', inputOf().facts, { columns: 4, rows: 3 });
    expect([uPx.length, vPx.length, mm.length]).toEqual([4, 3, 3]);
    const beside = Math.min(...(mm[2] as number[]));
    expect(Math.max(...(mm[0] as number[]))).toBeGreaterThan(1.5 * beside);
  });
});

describe('a wanted length, and a factor', () => {
  const calibration = solved(inputOf(mat));
  const middle = { uPx: 2016, vPx: 1512 };
  it('make all lengths grow alike, on every plane, without moving the picture', () => {
    const model = scaleTo(calibration, { from: on(-50, 0), to: on(50, 0), lengthMm: 12 });
    expect(model?.factor).toBeCloseTo(0.12, 3);
    if (!model) return;
    const zero = on(0, 0);
    const [plain, small] = [calibration, model.calibration].map((t) =>
      planeMapper(planeMap(t, { zero, axis: null }, 'table', middle)),
    );
    for (const p of [seen.pick(60, 30), seen.pick(-20, -50)]) {
      const [a, b] = [plain!.toPart(p), small!.toPart(p)];
      expect(b?.xMm).toBeCloseTo((a?.xMm ?? 0) * model.factor, 6);
      expect(b?.yMm).toBeCloseTo((a?.yMm ?? 0) * model.factor, 6);
      const back = b && small!.toPicture(b);
      expect(back?.uPx).toBeCloseTo(p.uPx, 4);
    }
  });
  it('have no answer for picks in one place', () => {
    const p = on(0, 0);
    expect(scaleTo(calibration, { from: p, to: p, lengthMm: 12 })).toBeNull();
    expect(grownBy(calibration, 2).cameraHeightMm).toBeCloseTo(2 * calibration.cameraHeightMm, 9);
  });
});

describe('a datum of edges and holes', () => {
  const calibration = solved(inputOf(mat));
  const rim = (x: number, y: number, r: number) =>
    Array.from({ length: 24 }, (_, k) => on(x + r * Math.cos(k * 0.2618), y + r * Math.sin(k * 0.2618)));
  it('puts zero where edges cross and X through the centres of two holes', () => {
    const crossing = [on(-30, -20), on(40, -20), on(-10, 5), on(-10, 50)];
    const axis = { from: { rim: rim(-20, 10, 4) }, to: { rim: rim(30, 40, 6) }, along: 'x' as const };
    const at = positionOf(calibration, { zero: { crossing }, axis }, on(25, 15));
    const turn = Math.atan2(30, 50);
    const [dx, dy] = [35, 35];
    const truth = [Math.cos(turn) * dx + Math.sin(turn) * dy, Math.cos(turn) * dy - Math.sin(turn) * dx];
    expect(Math.abs((at?.x.value ?? 0) - truth[0]!)).toBeLessThan(1.5 * (at?.x.plusMinus ?? 0));
    expect(Math.abs((at?.y.value ?? 0) - truth[1]!)).toBeLessThan(1.5 * (at?.y.plusMinus ?? 0));
    expect(at?.x.plusMinus).toBeLessThan(0.1);
    const centred = { edges: [on(-30, 12), on(30, 16), on(30, -16), on(-30, -12)] };
    // Edges that converge: the line between them halves their angle, whichever way each was picked.
    const between = { from: { ...centred, end: 0 as const }, to: { ...centred, end: 1 as const }, along: 'x' as const };
    const beside = positionOf(calibration, { zero: { ...centred, end: 0 }, axis: between }, on(60, 0));
    expect(Math.abs(beside?.y.value ?? 9)).toBeLessThan(0.05);
    expect(beside?.y.plusMinus).toBeLessThan(0.2);
    const zero = positionOf(calibration, { zero: { rim: rim(0, 0, 5) }, axis: null }, on(0, 0));
    expect(Math.hypot(zero?.x.value ?? 9, zero?.y.value ?? 9)).toBeLessThan(0.03);
  });
});
