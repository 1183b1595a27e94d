import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pointAt, smoothOver, vec } from '.';

describe('a smooth line over places', () => {
  it('is the parabola that the places lie on', () => {
    const height = (x: number) => 3 - 0.02 * (x - 4) ** 2;
    const line = smoothOver([-30, -11, 2, 25].map((x) => vec(x, height(x))))!;
    for (const piece of line)
      for (const t of [0, 0.2, 0.5, 0.9, 1]) {
        const { x, y } = pointAt(piece, t);
        expect(y).toBeCloseTo(height(x), 10);
      }
  });

  it('goes through each place, onwards throughout and without a kink', () => {
    const places = fc
      .array(fc.tuple(fc.double({ min: 0.1, max: 30, noNaN: true }), fc.double({ min: -5, max: 5, noNaN: true })), {
        minLength: 3,
        maxLength: 9,
      })
      .map((steps) => {
        let x = 0;
        return steps.map(([dx, y]) => {
          x += dx;
          return vec(x, y);
        });
      });
    fc.assert(
      fc.property(places, (through) => {
        const line = smoothOver(through)!;
        for (const [k, piece] of line.entries()) {
          expect(pointAt(piece, 0)).toEqual(through[k]);
          const ways = Array.from({ length: 9 }, (_, n) => pointAt(piece, n / 8).x);
          expect(ways.every((x, n) => n === 0 || x > ways[n - 1]!)).toBe(true);
          const next = line[k + 1];
          if (piece.kind !== 'curve' || next?.kind !== 'curve') continue;
          const before = (piece.to.y - piece.handleTo.y) / (piece.to.x - piece.handleTo.x);
          const after = (next.handleFrom.y - next.from.y) / (next.handleFrom.x - next.from.x);
          expect(after).toBeCloseTo(before, 6);
        }
      }),
    );
  });

  it('is straight between two, and none where one lies behind the one before', () => {
    expect(smoothOver([vec(0, 0), vec(10, 1)])).toEqual([{ kind: 'line', from: vec(0, 0), to: vec(10, 1) }]);
    expect(smoothOver([vec(0, 0), vec(10, 1), vec(10, 3)])).toBeNull();
    expect(smoothOver([vec(0, 0)])).toBeNull();
  });
});
