import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readFormula, readNumber } from './formula';

const known: Record<string, number> = { wall: 3, plate_t: 2, big: 50 };
const read = (text: string, unit: 'mm' | 'in' = 'mm') =>
  readFormula(text, unit, (name) => (Object.hasOwn(known, name) ? known[name]! : null));
const mm = (text: string, unit: 'mm' | 'in' = 'mm') => {
  const found = read(text, unit);
  return found.ok ? found.mm : found.fault.reason;
};

describe('a formula', () => {
  it.each([
    ['12', 12],
    ['1 3/8 in', 34.925],
    ['wall * 2 + 0.4', 6.4],
    ['plate_t*2+0.4', 4.4],
    ['(wall + 1) * 2', 8],
    ['1/4 in + wall', 9.35],
    ['big / 4 - wall', 9.5],
    ['big * wall / big', 3],
    ['-(wall - 5)', 2],
    ['2 + 3', 5],
    ['wall × 2', 6],
    ['1,5 * wall', 4.5],
    ['2 1/2 * wall', 7.5],
    ['1 1/2 in + wall', 41.1],
    ['1e2', 100],
    ['2.5e-1 * wall', 0.75],
    ['sqrt(wall * wall + plate_t * plate_t + 12 mm * wall)', 7],
    ['sqrt(16) * wall', 12],
    ['wall / sin(30)', 6],
    ['wall / sin(30°)', 6],
    ['wall * tan(45)', 3],
    ['wall * cos(acos(0.5))', 1.5],
    ['wall * pi', 3 * Math.PI],
    ['round(2.6) * wall', 9],
  ])('%s comes to a length', (text, wanted) => {
    expect(mm(text)).toBeCloseTo(wanted, 9);
  });

  it('counts bare figures in its unit where they are lengths, and not where they multiply', () => {
    expect(mm('wall + 1', 'in')).toBeCloseTo(28.4, 9);
    expect(mm('2 * wall', 'in')).toBeCloseTo(6, 9);
    expect(mm('2 * 3', 'in')).toBeCloseTo(152.4, 9);
  });

  it.each([
    ['', 'empty'],
    ['wall *', 'unreadable'],
    ['(wall', 'unreadable'],
    ['wall wall', 'unreadable'],
    ['2 $ 3', 'unreadable'],
    ['alert(1)', 'unknown-name'],
    ['constructor + 1', 'unknown-name'],
    ['wall / 0', 'divides-by-zero'],
    ['wall / (wall - wall)', 'divides-by-zero'],
    ['wall * wall', 'no-length'],
    ['wall / wall', 'no-length'],
    ['big * 99999', 'too-large'],
    ['sqrt(2 - 3) * wall', 'no-root'],
    ['sin(wall)', 'no-number'],
    ['10h4', 'unreadable'],
    ['2 1/0 * wall', 'no-length'],
    [`${'('.repeat(60)}1${')'.repeat(60)}`, 'unreadable'],
  ])('%s says why it is none', (text, wanted) => {
    expect(mm(text)).toBe(wanted);
  });

  it('agrees with the same worked out by hand', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 1, max: 40 }),
        fc.constantFrom('+', '-'),
        (a, b, c, sign) => {
          const wanted = (sign === '+' ? a * b + c : a * b - c) * 1;
          expect(mm(`${a} mm * ${b} ${sign} ${c}`)).toBeCloseTo(wanted, 9);
          expect(mm(`(${a} ${sign} wall) * ${b} - ${c} mm`)).toBeCloseTo((sign === '+' ? a + 3 : a - 3) * b - c, 9);
        },
      ),
    );
  });

  it('reads anything without a fault of its own', () => {
    fc.assert(fc.property(fc.string({ maxLength: 60 }), (text) => void read(text)));
  });
});

describe('a ± that was typed', () => {
  const shaft = { mm: 11.98, plusMinusMm: 0.02 };
  const comesTo = (text: string) => {
    const found = readFormula(text, 'mm', (name) => (name === 'shaft' ? shaft : name === 'wall' ? 3 : null));
    return found.ok ? [found.mm, found.plusMinusMm] : found.fault.reason;
  };
  const near = (mm: number, plusMinus: number) => [expect.closeTo(mm, 9), expect.closeTo(plusMinus, 9)];

  it('goes through a formula at its worst, and gives what it comes to at most and at least', () => {
    expect(comesTo('11.98 ± 0.02')).toEqual(near(11.98, 0.02));
    expect(comesTo('shaft + wall')).toEqual(near(14.98, 0.02));
    expect(comesTo('shaft * 2 - wall')).toEqual(near(20.96, 0.04));
    expect(comesTo('shaft * shaft / wall')).toEqual(near(11.98 ** 2 / 3, (2 * 11.98 * 0.02) / 3));
    expect(comesTo('wall * wall / shaft')).toEqual(near(9 / 11.98, (9 / 11.98 / 11.98) * 0.02));
    expect(comesTo('most(shaft) + 0.1')).toEqual(near(12.1, 0));
    expect(comesTo('least(shaft * 2) - 0.1')).toEqual(near(23.82, 0));
    expect(comesTo('most(wall)')).toEqual(near(3, 0));
    // A fit is as wide as its limits are apart.
    expect(comesTo('most(10 H7)')).toEqual(near(10.015, 0));
    expect(comesTo('most(11.98 ± 0.02) + 0.1')).toEqual(near(12.1, 0));
    expect(comesTo('least(2 * (12 +- 0.1)) - 0.2')).toEqual(near(23.6, 0));
    expect(comesTo('most(1/2 in +/- 0.1 mm)')).toEqual(near(12.8, 0));
    expect(comesTo('wall ± 0.3 + 1')).toEqual(near(4, 0.3));
    expect(comesTo('most(shaft')).toBe('unreadable');
    expect(comesTo('most')).toBe('unknown-name');
  });
});

describe('a bare number', () => {
  // Typed as 3, as 2 mm, and as holes * 2.
  const lengths: Record<string, number> = { holes: 3, wall: 2, all: 6, width: 80 };
  const figures: Record<string, number> = { holes: 3, all: 6 };
  const of = (known: Record<string, number>) => (name: string) => (Object.hasOwn(known, name) ? known[name]! : null);
  const number = (text: string) => {
    const found = readNumber(text, of(lengths), of(figures));
    return found.ok ? found.value : found.fault.reason;
  };

  it.each([
    ['4', 4],
    ['-12.5', -12.5],
    ['holes', 3],
    ['holes * 2 + 1', 7],
    ['(all - 1) * holes', 15],
    ['width / wall', 40],
    ['width / wall + 1', 41],
    ['1 + width / (2 mm)', 41],
    ['360 / holes', 120],
  ])('%s comes to one', (text, wanted) => {
    expect(number(text)).toBeCloseTo(wanted, 9);
  });

  it.each([
    ['', 'empty'],
    ['wall', 'no-number'],
    ['3 mm', 'no-number'],
    ['width * wall', 'no-number'],
    ['nothing', 'unknown-name'],
    ['4 of them', 'unreadable'],
    ['holes / 0', 'divides-by-zero'],
  ])('%s says why it is none', (text, wanted) => {
    expect(number(text)).toBe(wanted);
  });
});
