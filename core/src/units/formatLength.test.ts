import { describe, expect, it } from 'vitest';
import { writeFigure, writeLength } from './formatLength';

describe('writeLength', () => {
  it.each([
    [93.4912, 0.061, 'mm', '93.491', '0.061'],
    [93.4912, 0.61, 'mm', '93.49', '0.61'],
    [93.4912, 6.1, 'mm', '93.5', '6.1'],
    [93.4912, 61, 'mm', '93', '61'],
    [93.4912, 0.00031, 'mm', '93.491', '0.000'],
    [25.4, 0.0254, 'in', '1.0000', '0.0010'],
    [-3, null, 'mm', '−3.000', null],
    [-0.0001, null, 'mm', '0.000', null],
  ] as const)('writes %d ± %d in %s', (value, spread, unit, text, spreadText) => {
    expect(writeLength(value, spread, unit)).toEqual({ value: text, plusMinus: spreadText });
  });

  it('says so when the ± is not known', () => {
    expect(writeFigure(12.34, Number.POSITIVE_INFINITY, 3)).toEqual({ value: '12.3', plusMinus: 'unknown' });
  });
});
