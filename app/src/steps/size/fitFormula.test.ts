import { readFormula } from '@steady-moth/core/units';
import { describe, expect, it } from 'vitest';
import { type Fit, fitFormula } from './fitFormula';

const FIT: Fit = { by: 'clearance', mate: '11.98 ± 0.02', side: 'hole', clearance: '0.1', grade: 'H7' };
const made = (fit: Partial<Fit>, unit: 'mm' | 'in' = 'mm') => {
  const text = fitFormula({ ...FIT, ...fit });
  const read =
    text === null ? null : readFormula(text, unit, (name) => (name === 'shaft' ? { mm: 8, plusMinusMm: 0.05 } : null));
  return read?.ok ? read.mm : null;
};

describe('a fit as a formula', () => {
  it('clears what goes in at its largest, and what goes round at its least', () => {
    expect(made({})).toBeCloseTo(12.1, 9);
    expect(made({ side: 'peg' })).toBeCloseTo(11.86, 9);
    expect(made({ mate: 'shaft', clearance: '0.2 + 0.05' })).toBeCloseTo(8.3, 9);
    expect(made({ side: 'peg', clearance: '0.2 + 0.05' })).toBeCloseTo(11.71, 9);
    expect(made({ mate: '1/2 ± 0.001', clearance: '0.01' }, 'in')).toBeCloseTo(12.7 + 0.011 * 25.4, 9);
  });

  it('takes the middle of a class of ISO 286', () => {
    // 12 H7 is 12.000 to 12.018 (ISO 286-2).
    expect(made({ by: 'class', mate: '12' })).toBeCloseTo(12.009, 9);
    expect(made({ by: 'class', mate: 'shaft + 4' })).toBeCloseTo(12.009, 9);
    expect(made({ by: 'class', mate: '12', grade: 'Q99' })).toBeNull();
  });

  it('is none while something of it is missing', () => {
    expect(fitFormula({ ...FIT, mate: ' ' })).toBeNull();
    expect(fitFormula({ ...FIT, clearance: '' })).toBeNull();
    expect(fitFormula({ ...FIT, by: 'class', grade: '' })).toBeNull();
  });

  it('halves what is measured across where a radius is decided', () => {
    const fit = { by: 'clearance', mate: '28.5 ± 0.1', side: 'hole', clearance: '0.2', grade: 'H7' } as const;
    const text = fitFormula(fit, 'radius')!;
    const read = readFormula(text, 'mm', () => null);
    expect(read).toMatchObject({ ok: true, mm: expect.closeTo(14.4, 9) });
    const byClass = readFormula(fitFormula({ ...fit, by: 'class', mate: '10' }, 'radius')!, 'mm', () => null);
    expect(byClass).toMatchObject({ ok: true, mm: expect.closeTo(5.00375, 9) });
  });
});
