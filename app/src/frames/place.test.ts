import { boxAround, boxCorners, type Vec2 } from '@steady-moth/core/geometry';
import fc from 'fast-check';
import { describe, expect, expectTypeOf, it } from 'vitest';
import { type BoardPlace, boardPlace, offBoard, onBoard, type ScreenPlace } from './place';

const box = fc
  .tuple(fc.integer(), fc.integer(), fc.nat(), fc.nat())
  .map(([left, bottom, w, h]) => ({ left, bottom, right: left + w, top: bottom + h }));

describe('places', () => {
  it('of the part, the board and the screen are told apart by the compiler', () => {
    expectTypeOf<ScreenPlace>().not.toMatchTypeOf<Vec2>();
    expectTypeOf<BoardPlace>().not.toMatchTypeOf<Vec2>();
    expectTypeOf<ScreenPlace>().not.toMatchTypeOf<BoardPlace>();
    expectTypeOf<Vec2>().not.toMatchTypeOf<ScreenPlace>();
    expectTypeOf<Vec2>().not.toMatchTypeOf<BoardPlace>();
  });

  it('have y up on the part and down on the board', () => {
    expect(onBoard({ x: 3, y: 4 })).toEqual({ x: 3, y: -4 });
    expect(offBoard(boardPlace(3, -4))).toEqual({ x: 3, y: 4 });
  });
});

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
