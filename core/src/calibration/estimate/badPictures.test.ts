import { describe, expect, it } from 'vitest';
import { calibrate, distance, figureOf, plusMinusMap } from '..';
import { inputOf, SETUP, seenBy } from '../reference/kinds/yardsticks.test-data';

describe('pictures and picks that cannot be right', () => {
  it('have no figure beyond the horizon, and say where the plane is not seen', () => {
    const steep = seenBy({ ...SETUP, cPx: 1500, tilt: 1.1, tiltTowards: -Math.PI / 2, distanceMm: 300 }, 2);
    const found = calibrate(inputOf(steep.grid('g', -60, -60, 10, 12, 9)));
    if (!found.ok) throw new Error(found.reason);
    const sky = { uPx: 2010, vPx: 20, sigmaPx: 0.1, plane: 'table' };
    const here = { ...steep.pick(0, 0), plane: 'table' };
    expect(figureOf(found.calibration, [here, sky], distance)).toBeNull();
    const { mm } = plusMinusMap(found.calibration, 'table', inputOf().facts, { columns: 4, rows: 6 });
    expect(mm[0]).toEqual([null, null, null, null]);
    expect(mm[3]!.slice(1, 3)).not.toContain(null);
  });

  it('leave the tilt unseen where all picks lie on one line, and the ± says so', () => {
    const seen = seenBy(SETUP, 3);
    const line = [-70, -30, 20].map((x, k) => seen.length(`l${k}`, [x, 0], [x + 35, 0]));
    const found = calibrate(inputOf(...line));
    if (!found.ok) throw new Error(found.reason);
    const up = [seen.pick(0, -50), seen.pick(0, 50)].map((p) => ({ ...p, plane: 'table' }));
    expect(figureOf(found.calibration, up, distance)?.plusMinus).toBeGreaterThan(2);
  });

  it('are refused with their reason where they lie in one place or in one row', () => {
    const seen = seenBy(SETUP, 3);
    const mat = seen.grid('g', -60, -60, 10, 12, 9);
    const row = { ...mat, crossings: mat.crossings.filter((c) => c.j === 0) };
    expect(calibrate(inputOf(row))).toEqual({ ok: false, reason: 'picks-coincide', reference: 'g' });
    const dot = seen.disc('c', 0, 0, 20, 0);
    const point = { ...dot, rim: dot.rim.map(() => dot.rim[0]!) };
    expect(calibrate(inputOf(point))).toMatchObject({ ok: false, reason: 'picks-coincide' });
    const hints = seen.lines('s', [
      ['x', [0, 0], [50, 0]],
      ['y', [0, 0], [0, 50]],
    ]);
    expect(calibrate(inputOf(hints))).toEqual({ ok: false, reason: 'no-yardstick' });
  });
});
