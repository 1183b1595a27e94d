import type { Vec2 } from '@steady-moth/core/geometry';
import { describe, expect, expectTypeOf, it } from 'vitest';
import { type BoardPlace, boardPlace, offBoard, onBoard, type ScreenPlace } from './place';

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
