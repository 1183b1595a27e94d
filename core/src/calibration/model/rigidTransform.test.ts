import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newPlacedPoint } from './backProject';
import { readRigidTransform, rigidOnto, transformedBack, transformPoint } from './rigidTransform';

const mm = fc.double({ min: -400, max: 400, noNaN: true });
const turn = fc.double({ min: -3, max: 3, noNaN: true });
const moved = ([t, x, y]: readonly [number, number, number], px: number, py: number): [number, number] => [
  Math.cos(t) * px - Math.sin(t) * py + x,
  Math.sin(t) * px + Math.cos(t) * py + y,
];

describe('a move of one picture onto another', () => {
  it('is found again from places that it moved, any two or more that lie apart', () => {
    fc.assert(
      fc.property(turn, mm, mm, fc.array(fc.tuple(mm, mm), { minLength: 2, maxLength: 6 }), (t, x, y, places) => {
        const [first, second] = places;
        fc.pre(Math.hypot(first![0] - second![0], first![1] - second![1]) > 5);
        const onto = places.flatMap(([px, py]) => moved([t, x, y], px, py));
        const found = rigidOnto(places.flat(), onto);
        expect(found).not.toBeNull();
        for (const [px, py] of places) {
          const [ax, ay] = moved(found as [number, number, number], px, py);
          const [bx, by] = moved([t, x, y], px, py);
          expect(Math.hypot(ax - bx, ay - by)).toBeLessThan(1e-6);
        }
      }),
    );
  });

  it('is none from one place, or from places that are one', () => {
    expect(rigidOnto([1, 2], [3, 4])).toBeNull();
    expect(rigidOnto([1, 2, 1.1, 2.1], [3, 4, 3.1, 4.1])).toBeNull();
  });

  it('and its way back leave a place where it was, and turn its slopes with it', () => {
    fc.assert(
      fc.property(turn, mm, mm, mm, mm, (t, x, y, px, py) => {
        const move = readRigidTransform([9, t, x, y], 1);
        const point = newPlacedPoint();
        point.place.set([px, py]);
        point.byHeight.set([1, 0]);
        transformPoint(point, move);
        const [bx, by] = transformedBack(move, point.place[0]!, point.place[1]!);
        expect(Math.hypot(bx - px, by - py)).toBeLessThan(1e-9);
        expect(point.byHeight[0]).toBeCloseTo(Math.cos(t), 12);
        expect(point.byHeight[1]).toBeCloseTo(Math.sin(t), 12);
      }),
    );
  });
});
