import { describe, expect, it } from 'vitest';
import { keysOf, WORKSHOP_CALIPER } from '.';

describe('the simulated caliper', () => {
  it('types what it shows, and Enter', () => {
    expect(keysOf(84, WORKSHOP_CALIPER, () => 0)).toEqual(['8', '4', '.', '0', '0', 'Enter']);
    expect(keysOf(84, WORKSHOP_CALIPER, () => -1.2).join('')).toBe('83.99Enter');
    expect(keysOf(25.4, { ...WORKSHOP_CALIPER, unit: 'in' }, () => 0).join('')).toBe('1.0000Enter');
  });
});
