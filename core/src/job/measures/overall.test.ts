import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Segment, Vec2 } from '../../geometry';
import { leadingOf, overallAlong } from './overall';

const turn = (angle: number, [x, y]: readonly [number, number]): Vec2 => ({
  x: Math.cos(angle) * x - Math.sin(angle) * y + 31,
  y: Math.sin(angle) * x + Math.cos(angle) * y - 12,
});

/** A rectangle with rounded corners of different radii, turned, as it is drawn by its corners alone. */
function rounded(a: number, b: number, radii: readonly number[], angle: number): Segment[] {
  const at = (x: number, y: number) => turn(angle, [x, y]);
  const corners: [number, number][] = [
    [0, 0],
    [a, 0],
    [a, b],
    [0, b],
  ];
  const ways: [number, number][] = [
    [1, 0],
    [0, 1],
    [-1, 0],
    [0, -1],
  ];
  return corners.flatMap(([x, y], k): Segment[] => {
    const [on, back] = [ways[k]!, ways[(k + 3) % 4]!];
    const [nx, ny] = corners[(k + 1) % 4]!;
    const [r, next] = [radii[k]!, radii[(k + 1) % 4]!];
    const middle: [number, number] = [x + r * (on[0] - back[0]), y + r * (on[1] - back[1])];
    const via = r * Math.SQRT1_2;
    return [
      {
        kind: 'arc',
        from: at(x - r * back[0], y - r * back[1]),
        via: at(middle[0] - via * (on[0] - back[0]), middle[1] - via * (on[1] - back[1])),
        to: at(x + r * on[0], y + r * on[1]),
      },
      { kind: 'line', from: at(x + r * on[0], y + r * on[1]), to: at(nx - next * on[0], ny - next * on[1]) },
    ];
  });
}

describe('the overall size of a form', () => {
  it('is what a caliper reads along and across it, however it lies and however its corners are rounded', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 30, max: 200, noNaN: true }),
        fc.double({ min: 30, max: 200, noNaN: true }),
        fc.array(fc.double({ min: 0.5, max: 12, noNaN: true }), { minLength: 4, maxLength: 4 }),
        fc.double({ min: -4, max: 4, noNaN: true }),
        (a, b, radii, angle) => {
          const form = rounded(a, b, radii, angle);
          const leading = leadingOf(form)!;
          const [p, q] = overallAlong(form[leading.lead]!, form);
          expect([p, q].sort((m, n) => m - n)).toEqual([a, b].sort((m, n) => m - n).map((v) => expect.closeTo(v, 7)));
          // The pieces that it names are enough to tell it.
          const [r, s] = overallAlong(
            form[leading.lead]!,
            leading.reach.map((k) => form[k]!),
          );
          expect([r, s]).toEqual([expect.closeTo(p, 9), expect.closeTo(q, 9)]);
        },
      ),
    );
  });

  it('counts a bulge, and is laid by the piece along which it takes the least room', () => {
    const at = (x: number, y: number) => turn(0.4, [x, y]);
    const bowed: Segment[] = [
      { kind: 'line', from: at(0, 0), to: at(100, 0) },
      { kind: 'arc', from: at(100, 0), via: at(112, 20), to: at(100, 40) },
      { kind: 'line', from: at(100, 40), to: at(0, 40) },
      { kind: 'line', from: at(0, 40), to: at(0, 0) },
    ];
    const [long, wide] = overallAlong(bowed[leadingOf(bowed)!.lead]!, bowed);
    expect([long, wide].sort((p, q) => q - p)).toEqual([expect.closeTo(112, 6), expect.closeTo(40, 6)]);
    // Its slanting side is a lead as well, and a worse one.
    const cut: Segment[] = [
      { kind: 'line', from: at(0, 0), to: at(60, 0) },
      { kind: 'line', from: at(60, 0), to: at(100, 40) },
      { kind: 'line', from: at(100, 40), to: at(0, 40) },
      { kind: 'line', from: at(0, 40), to: at(0, 0) },
    ];
    const sizes = overallAlong(cut[leadingOf(cut)!.lead]!, cut);
    expect(sizes.sort((p, q) => q - p)).toEqual([expect.closeTo(100, 6), expect.closeTo(40, 6)]);
  });

  it('is not told of a form without a straight piece', () => {
    const at = (x: number, y: number) => ({ x, y });
    const round: Segment[] = [
      { kind: 'arc', from: at(0, 0), via: at(10, 10), to: at(20, 0) },
      { kind: 'arc', from: at(20, 0), via: at(10, -10), to: at(0, 0) },
    ];
    expect(leadingOf(round)).toBeNull();
  });
});
