import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readFormula } from './formula';

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
