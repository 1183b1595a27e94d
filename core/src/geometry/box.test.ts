import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boxAround, boxCorners } from '.';

const box = fc
  .tuple(fc.integer(), fc.integer(), fc.nat(), fc.nat())
  .map(([left, bottom, w, h]) => ({ left, bottom, right: left + w, top: bottom + h }));

describe('boxes', () => {
  it('hold the corners of all that they are put round, and no more', () => {
    fc.assert(
      fc.property(fc.array(box, { minLength: 1, maxLength: 5 }), (boxes) => {
        const all = boxAround(boxes);
        const places = boxes.flatMap(boxCorners);
        expect(all).toEqual({
          left: Math.min(...places.map((p) => p.x)),
          right: Math.max(...places.map((p) => p.x)),
          bottom: Math.min(...places.map((p) => p.y)),
          top: Math.max(...places.map((p) => p.y)),
        });
      }),
    );
    expect(boxAround([])).toBeNull();
  });
});
