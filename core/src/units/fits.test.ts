import { describe, expect, it } from 'vitest';
import { limitsOf, readFormula } from '.';

const none = () => null;

describe('fits', () => {
  // From the tables of the standard, and of any book of tables: limits in micrometres from the nominal size.
  it.each([
    [10, 'H', 7, 0, 15],
    [10, 'g', 6, -14, -5],
    [25, 'f', 7, -41, -20],
    [25, 'H', 8, 0, 33],
    [40, 'k', 6, 2, 18],
    [50, 'p', 6, 26, 42],
    [8, 'js', 6, -4.5, 4.5],
    [3, 'h', 9, -25, 0],
    [100, 'G', 7, 12, 47],
    [200, 'd', 10, -355, -170],
    [15, 'K', 7, -12, 6],
    [15, 'M', 7, -18, 0],
    [15, 'N', 7, -23, -5],
    [15, 'P', 7, -29, -11],
    [15, 'K', 6, -9, 2],
    [15, 'N', 9, -43, 0],
    [2, 'K', 7, -10, 0],
    [2, 'P', 7, -16, -6],
    [40, 'P', 9, -88, -26],
    [300, 'M', 6, -41, -9],
    [25, 'r', 6, 28, 41],
    [60, 'r', 6, 41, 60],
    [70, 's', 6, 59, 78],
    [450, 's', 7, 232, 295],
    [400, 'H', 13, 0, 890],
    [20, 'h', 12, -210, 0],
  ])('%d %s%d', (nominal, letter, grade, least, most) => {
    const limits = limitsOf(nominal, letter, grade);
    expect((limits!.least - nominal) * 1000).toBeCloseTo(least, 6);
    expect((limits!.most - nominal) * 1000).toBeCloseTo(most, 6);
  });

  it('stand behind a size in a formula', () => {
    expect(readFormula('10 H7', 'mm', none)).toMatchObject({ ok: true, mm: expect.closeTo(10.0075, 9) });
    expect(readFormula('bore g6 + 1', 'mm', (n) => (n === 'bore' ? 10 : null))).toMatchObject({
      ok: true,
      mm: expect.closeTo(10.9905, 9),
    });
    expect(readFormula('(4 + 6) js6', 'mm', none)).toMatchObject({ ok: true, mm: 10 });
    expect(readFormula('501 H7', 'mm', none)).toEqual({ ok: false, fault: { reason: 'no-fit' } });
    expect(readFormula('10h6', 'mm', none)).toMatchObject({ ok: true, mm: expect.closeTo(9.9955, 9) });
    expect(readFormula('10e7', 'mm', none)).toMatchObject({ ok: true, mm: expect.closeTo(9.9675, 9) });
    expect(readFormula('10 H4', 'mm', none)).toMatchObject({ ok: false });
    expect(readFormula('10 * 10 mm * 2 mm H7', 'mm', none)).toMatchObject({ ok: false });
  });
});
