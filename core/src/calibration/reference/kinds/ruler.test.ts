import { describe, expect, it } from 'vitest';
import { calibrate, distance, figureOf, rulerWidths } from '../..';
import { type Ruler, subsampledGraduations } from './ruler';
import { inputOf as input, SETUP, seenBy } from './yardsticks.test-data';

const { pick: seen, ruler: rulerAt } = seenBy(SETUP, 4);
const pick = (x: number, y: number, sigmaPx: number) => seen(x, y, 0, sigmaPx);
const ruler = rulerAt('rule', -75, -55, 150) as Ruler;

describe('a ruler by its strokes', () => {
  it('shows the tilt, along and across, that its two readings do not see', () => {
    const two = calibrate(input({ ...ruler, graduations: null }));
    const lines = calibrate(input(ruler));
    if (!two.ok || !lines.ok) throw new Error();
    expect(Math.max(...two.calibration.tiltPlusMinusRad)).toBeGreaterThan(0.3);
    expect(Math.max(...lines.calibration.tiltPlusMinusRad)).toBeLessThan(0.03);
    expect(Math.abs(lines.calibration.tiltRad - 0.2)).toBeLessThan(0.015);
    // 100 mm anywhere beside it, in any direction.
    for (const [x, y, dx, dy] of [
      [-50, 0, 100, 0],
      [0, -40, 0, 100],
      [-40, -30, 80, 60],
    ]) {
      const ends = [pick(x!, y!, 0.01), pick(x! + dx!, y! + dy!, 0.01)].map((p) => ({ ...p, plane: 'table' }));
      const found = figureOf(lines.calibration, ends, distance);
      expect(Math.abs((found?.value ?? 0) - 100)).toBeLessThan(found?.plusMinus ?? 0);
      expect(found?.plusMinus).toBeLessThan(0.6);
    }
  });

  it('measured from edge to edge shows the tilt better, and holds the truth', () => {
    const tilted = seenBy({ ...SETUP, tilt: 0.3, tiltTowards: Math.PI / 2 }, 8);
    const rule = tilted.ruler('rule', -75, -55, 150) as Ruler;
    const spreads = [null, { widthMm: 19, plusMinusMm: 0.03 }].map((width) => {
      const result = calibrate(input({ ...rule, width }));
      if (!result.ok) throw new Error();
      expect(Math.abs(result.calibration.tiltRad - 0.3)).toBeLessThan(Math.max(...result.calibration.tiltPlusMinusRad));
      const ends = [tilted.pick(0, -40), tilted.pick(0, 40)].map((p) => ({ ...p, plane: 'table' }));
      const found = figureOf(result.calibration, ends, distance);
      expect(Math.abs((found?.value ?? 0) - 80)).toBeLessThan(found?.plusMinus ?? 0);
      return found?.plusMinus ?? 0;
    });
    expect(spreads[1]).toBeLessThan(0.6 * spreads[0]!);
  });

  it('tells how wide it is by its strokes alone, and so what cannot be its width', () => {
    const widthOf = (widthMm: number | null) =>
      rulerWidths(input({ ...ruler, width: widthMm === null ? null : { widthMm, plusMinusMm: 0.03 } })).rule!;
    const { found, measured } = widthOf(null);
    expect(measured).toBeNull();
    expect(Math.abs(found.value - 19)).toBeLessThan(found.plusMinus);
    expect(found.plusMinus).toBeLessThan(0.5);
    expect(widthOf(19)!.measured?.fits).toBe(true);
    expect(widthOf(20)!.measured).toMatchObject({ fits: false });
    expect(widthOf(19 * 25.4)!.measured?.fits).toBe(false);
    // And a wrong one bends nothing.
    const tilts = [null, 20, 25, 19 * 25.4].map((widthMm) => {
      const said = widthMm === null ? null : { widthMm, plusMinusMm: 0.03 };
      const result = calibrate(input({ ...ruler, width: said }));
      if (!result.ok) throw new Error(result.reason);
      return result.calibration.tiltRad;
    });
    for (const tilt of tilts) expect(Math.abs(tilt - tilts[0]!)).toBeLessThan(0.003);
    expect(rulerWidths(input({ ...ruler, graduations: { ...ruler.graduations, far: [] } }))).toEqual({});
  });

  it('knows the same by fewer strokes that stand for all', () => {
    const few = calibrate(input({ ...ruler, graduations: subsampledGraduations(ruler.graduations) }));
    const all = calibrate(input(ruler));
    if (!few.ok || !all.ok) throw new Error();
    for (const k of [0, 1]) {
      const ratio = few.calibration.tiltPlusMinusRad[k]! / all.calibration.tiltPlusMinusRad[k]!;
      expect(ratio).toBeGreaterThan(0.8);
      expect(ratio).toBeLessThan(1.25);
    }
  });
});
