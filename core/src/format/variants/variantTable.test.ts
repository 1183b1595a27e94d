import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newPart, type Part } from '../../sketch';
import { readFormula } from '../../units';
import { readVariantTable, writeVariantTable } from './variantTable';

const part: Part = {
  ...newPart(),
  parameters: [
    { id: 'p1', name: 'pitch', value: { text: '42', unit: 'mm' } },
    { id: 'p2', name: 'hole', value: { text: '1/4', unit: 'in' } },
  ],
  variants: [
    { id: 'v1', name: 'M6, "wide"', overrides: { p1: { text: 'hole * 8', unit: 'mm' } } },
    { id: 'v2', name: 'M5', overrides: { p2: { text: '5.5', unit: 'mm' } } },
  ],
};

const read = (text: string, of = part) => {
  let count = 0;
  return readVariantTable(text, of, 'mm', () => `n${count++}`);
};

describe('a table of variants', () => {
  it('is written with what was drawn first, and read again as it was', () => {
    const text = writeVariantTable(part, 'mm');
    expect(text).toBe('variant,pitch,hole\r\nas drawn,42,1/4 in\r\n"M6, ""wide""",hole * 8,\r\nM5,,5.5\r\n');
    expect(read(text)).toEqual({ ok: true, variants: part.variants });
  });

  it('takes columns in any order, further variants, and empty rows', () => {
    expect(read('\uFEFFvariant,hole,pitch\n\nM8,9 mm,50\n')).toEqual({
      ok: true,
      variants: [
        { id: 'n0', name: 'M8', overrides: { p2: { text: '9 mm', unit: 'mm' }, p1: { text: '50', unit: 'mm' } } },
      ],
    });
  });

  it('says what is wrong with it, and where', () => {
    expect(read('')).toEqual({ ok: false, reason: 'no-table' });
    expect(read('variant,width\nA,3\n')).toEqual({ ok: false, reason: 'no-such-parameter', name: 'width' });
    expect(read('variant,pitch\nA,3\nA,4\n')).toEqual({ ok: false, reason: 'named-twice', name: 'A', row: 3 });
    expect(read('variant,pitch\nA,wide\n')).toEqual({ ok: false, reason: 'no-formula', name: 'pitch', row: 2 });
    expect(read(`variant,pitch\n${'A,3\n'.repeat(300)}`)).toEqual({ ok: false, reason: 'too-large' });
  });

  it('comes back meaning what it meant: other units, formulas, a variant that is called as drawn', () => {
    const formula = fc.constantFrom(
      '3',
      '2 1/2',
      '1/4',
      'pitch * 2',
      'pitch + 2',
      '10 mm',
      'sqrt(4) + hole',
      '1,5',
      '2 in',
    );
    const name = fc.constantFrom('as drawn', 'As drawn', 'A, "b"', 'x;y', '-1', '=1+1', 'line', 'Ü');
    const cell = fc.option(fc.record({ text: formula, unit: fc.constantFrom('mm' as const, 'in' as const) }));
    fc.assert(
      fc.property(
        fc.uniqueArray(name, { maxLength: 4 }),
        fc.array(fc.tuple(cell, cell), { minLength: 4, maxLength: 4 }),
        fc.constantFrom('mm' as const, 'in' as const),
        (names, cells, unit) => {
          const variants = names.map((own, k) => ({
            id: `v${k}`,
            name: own,
            overrides: Object.fromEntries(['p1', 'p2'].flatMap((p, c) => (cells[k]![c] ? [[p, cells[k]![c]!]] : []))),
          }));
          const own: Part = { ...part, variants };
          const again = readVariantTable(writeVariantTable(own, unit), own, unit, () => 'new');
          if (!again.ok) throw new Error(again.reason);
          expect(again.variants.map((v) => v.name)).toEqual(names);
          const means = ({ text, unit: of }: { text: string; unit: 'mm' | 'in' }) => {
            const found = readFormula(text, of, () => 7);
            if (!found.ok) throw new Error(text);
            return found.mm;
          };
          for (const [k, { overrides }] of again.variants.entries()) {
            const meant = variants[k]!.overrides;
            expect(Object.keys(overrides).sort()).toEqual(Object.keys(meant).sort());
            for (const id of Object.keys(meant)) expect(means(overrides[id]!)).toBeCloseTo(means(meant[id]!), 9);
          }
        },
      ),
      { numRuns: 80 },
    );
  });
});
