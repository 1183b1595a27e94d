import { describe, expect, it } from 'vitest';
import { bowFrom, bowText } from './bowText';

describe('a line over a body as it is typed', () => {
  it('is read in order of x, with either minus and either point', () => {
    expect(bowFrom('30 \u22122,5; -30 -2.5; 0 0', 'mm')).toEqual([
      { x: -30, y: -2.5 },
      { x: 0, y: 0 },
      { x: 30, y: -2.5 },
    ]);
    expect(bowFrom('-1 -1/8; 1 0;', 'in')).toEqual([
      { x: -25.4, y: -3.175 },
      { x: 25.4, y: 0 },
    ]);
  });

  it('is none with one place, with half of one, or with two over each other', () => {
    for (const text of ['', '3 4', '3 4; 5', '3 4; 3 5', '3 4; a b', '1 2 3; 4 5 6'])
      expect(bowFrom(text, 'mm')).toBeNull();
  });

  it.each(['mm', 'in'] as const)('comes back as it was written, in %s', (unit) => {
    const places = [
      { x: -31.75, y: -3.81 },
      { x: 0, y: 0 },
      { x: 12.7, y: -1.27 },
    ];
    for (const [k, p] of bowFrom(bowText(places, unit), unit)!.entries()) {
      expect(p.x).toBeCloseTo(places[k]!.x, 2);
      expect(p.y).toBeCloseTo(places[k]!.y, 2);
    }
  });
});
