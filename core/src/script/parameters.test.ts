import { describe, expect, it } from 'vitest';
import { sampleJob } from '../job/sample.test-data';
import { scopeOf } from '../sketch';
import { listParameters, withParameters } from './parameters';

const mm = (text: string) => ({ text, unit: 'mm' as const });
function job() {
  const own = sampleJob();
  own.part.parameters = [
    { id: 'w', name: 'wall', value: mm('2') },
    { id: 'g', name: 'gap', value: mm('wall / 2') },
  ];
  own.part.variants = [{ id: 'v', name: 'thick', overrides: { w: mm('4') } }];
  return own;
}
const valuesOf = (ask: Parameters<typeof withParameters>[1]) => {
  const made = withParameters(job(), ask);
  return made.ok ? Object.fromEntries(scopeOf(made.job.part).values) : made;
};

describe('parameters from a script', () => {
  it('are those of a variant, and what is set comes after it', () => {
    expect(valuesOf({ variant: null, set: {} })).toEqual({ wall: 2, gap: 1 });
    expect(valuesOf({ variant: 'thick', set: {} })).toEqual({ wall: 4, gap: 2 });
    expect(valuesOf({ variant: 'thick', set: { gap: 'wall * 3' } })).toEqual({ wall: 4, gap: 12 });
  });

  it('that are not there, or come to nothing, are refused by name', () => {
    expect(valuesOf({ variant: 'thin', set: {} })).toEqual({ ok: false, reason: 'no-such-variant', name: 'thin' });
    expect(valuesOf({ variant: null, set: { depth: '3' } })).toMatchObject({
      reason: 'no-such-parameter',
      name: 'depth',
    });
    expect(valuesOf({ variant: null, set: { wall: 'gap' } })).toMatchObject({ reason: 'no-formula', name: 'wall' });
  });

  it('are listed with their formulas, and for each variant', () => {
    expect(listParameters(job())).toEqual({
      parameters: [
        { name: 'wall', formula: '2', unit: 'mm', mm: 2 },
        { name: 'gap', formula: 'wall / 2', unit: 'mm', mm: 1 },
      ],
      variants: [{ name: 'thick', values: { wall: 4, gap: 2 } }],
    });
  });
});
