import { describe, expect, it } from 'vitest';
import { typedOver } from './useTyped';

describe('a field whose value changes', () => {
  it('shows the new one where nobody typed', () => {
    expect(typedOver('79.98', '79.98', '80.01')).toBe('80.01');
  });

  it('keeps what is being typed while the part settles, once and again', () => {
    const typing = typedOver('8', '79.98', '80.01');
    expect(typing).toBe('8');
    expect(typedOver('80.5', '80.01', '80.02')).toBe('80.5');
  });

  it('shows what was made of what was given out', () => {
    expect(typedOver('3 1/2', '3 1/2', '3.5')).toBe('3.5');
  });
});
