import { describe, expect, it } from 'vitest';
import { newPart, type Part } from '../../sketch';
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
});
