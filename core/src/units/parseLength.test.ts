import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseLength, parsePlace, parseReadings } from './parseLength';

const mm = (text: string, unit: 'mm' | 'in' = 'mm') => {
  const found = parseLength(text, unit);
  return found.ok ? found.mm : found.reason;
};

describe('parseLength', () => {
  it.each([
    ['12', 12],
    ['12 mm', 12],
    ['12mm', 12],
    ['1,2 cm', 12],
    ['1.2 cm', 12],
    ['.5', 0.5],
    ['1 3/8 in', 34.925],
    ['1-3/8"', 34.925],
    ['3/8 in', 9.525],
    ['5\' 6 1/2"', 1689.1],
    ['5′ 6 1⁄2″', 1689.1],
    ["5' 6", 1676.4],
    ['½ in', 12.7],
    ['1 m 20 cm', 1200],
    ['40 thou', 1.016],
    ['250 µm', 0.25],
  ])('reads %s', (text, wanted) => {
    expect(mm(text)).toBeCloseTo(wanted, 9);
  });

  it('takes a bare figure in the unit of the job', () => {
    expect(mm('11 1/4', 'in')).toBeCloseTo(285.75, 9);
    expect(mm('11 1/4', 'mm')).toBeCloseTo(11.25, 9);
    expect(mm('12 mm', 'in')).toBe(12);
  });

  it.each([
    ['Ø 8', 8, 'diameter'],
    ['R 4', 4, 'radius'],
    ['r4', 4, 'radius'],
    ['⌀8 mm', 8, 'diameter'],
  ])('knows what %s stands for', (text, value, role) => {
    expect(parseLength(text, 'mm')).toMatchObject({ ok: true, mm: value, role });
  });

  it.each([
    ['150 ± 0.05', 150, 0.05],
    ['150 +- 0.05 mm', 150, 0.05],
    ['6 in ± 0.01', 152.4, 0.254],
    ['6 in ± 0.1 mm', 152.4, 0.1],
  ])('takes an own ± in %s', (text, value, spread) => {
    const found = parseLength(text, 'mm');
    expect(found.ok && [found.mm, found.plusMinusMm]).toEqual([expect.closeTo(value, 9), expect.closeTo(spread, 9)]);
  });

  it.each([
    ['', 'empty'],
    ['   ', 'empty'],
    ['0', 'zero'],
    ['0.000', 'zero'],
    ['-5', 'negative'],
    ['−5 mm', 'negative'],
    ['abc', 'not-a-length'],
    ['1/0', 'division-by-zero'],
    ['12 mmm', 'not-a-length'],
    ['12 parsec', 'not-a-length'],
    ['1e9', 'not-a-length'],
    ['20 cm 1 m', 'not-a-length'],
    ['1.2.3', 'not-a-length'],
    ['99999', 'too-large'],
    ['12 ± 20', 'bad-uncertainty'],
    ['12 ± x', 'bad-uncertainty'],
    ['12 ± 1 ± 1', 'bad-uncertainty'],
  ])('refuses "%s" as %s', (text, reason) => {
    expect(mm(text)).toBe(reason);
  });

  it('never throws, and never gives a figure that is not above zero', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        const found = parseLength(text, 'mm');
        return !found.ok || (Number.isFinite(found.mm) && found.mm > 0);
      }),
    );
  });

  it('reads back any decimal with either mark', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9_999_000 }), (thousandths) => {
        const text = (thousandths / 1000).toFixed(3);
        expect(mm(text)).toBeCloseTo(thousandths / 1000, 9);
        expect(mm(text.replace('.', ','))).toBeCloseTo(thousandths / 1000, 9);
      }),
    );
  });
});

describe('parsePlace', () => {
  it('allows zero and what lies below it', () => {
    expect(parsePlace('0', 'mm')).toBe(0);
    expect(parsePlace('-12,5', 'mm')).toBe(-12.5);
    expect(parsePlace('x', 'mm')).toBeNull();
  });

  it.each([
    ['31 to 43', 12],
    ['43 to 31', 12],
    ['from 0 to 150', 150],
    ['1 to 6 in', 127],
    ['1 1/4 to 6 in', 120.65],
    ['3,1..4,3 cm', 12],
    ['0 to 150 ± 0.05', 150],
  ])('takes two readings: %s', (text, mm) => {
    const found = parseLength(text, 'mm');
    expect(found.ok && found.mm).toBeCloseTo(mm, 9);
  });

  it('refuses readings that are none, or one and the same', () => {
    expect(parseLength('3 to', 'mm').ok).toBe(false);
    expect(parseLength('3 to 5 to 7', 'mm').ok).toBe(false);
    expect(parseLength('3 to 3', 'mm')).toEqual({ ok: false, reason: 'zero' });
  });
});

describe('parseReadings', () => {
  it.each([
    ['31 to 43', 31, 43],
    ['from 43 to 31 ± 0.1', 43, 31],
    ['1 to 6 in', 25.4, 152.4],
    ['12', null, null],
    ['3 to 5 to 7', null, null],
    ['here to there', null, null],
  ])('%s', (text, fromMm, toMm) => {
    const found = parseReadings(text, 'mm');
    if (fromMm === null || toMm === null) expect(found).toBeNull();
    else expect([found?.fromMm, found?.toMm]).toEqual([expect.closeTo(fromMm, 9), expect.closeTo(toMm, 9)]);
  });
});
