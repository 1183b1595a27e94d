import { describe, expect, it } from 'vitest';
import { findDifferences } from './findDifferences';

const [W, H] = [320, 200];

/** White paper with black boxes: left, top, right, bottom. */
function page(...boxes: [number, number, number, number][]): Uint8ClampedArray {
  const data = new Uint8ClampedArray(W * H * 4).fill(255);
  for (const [l, t, r, b] of boxes)
    for (let y = t; y < b; y++) for (let x = l; x < r; x++) data.set([0, 0, 0], 4 * (y * W + x));
  return data;
}

describe('findDifferences', () => {
  const bar: [number, number, number, number] = [40, 40, 120, 60];

  it('names what came, what went and what changed, the largest first', () => {
    const now = page(bar, [200, 40, 280, 100], [40, 150, 60, 170]);
    const before = page(bar, [150, 150, 190, 170], [50, 150, 70, 170]);
    const places = findDifferences(now, before, W, H, 10);
    expect(places.map((p) => p.kind)).toEqual(['come', 'gone', 'changed']);
    expect(places[0]).toMatchObject({ left: 200, top: 40, width: 80, pixels: 80 * 60 });
    expect(places[1]!.pixels).toBeGreaterThan(0.9 * 40 * 20);
  });

  it('takes an edge that wandered by a pixel for none, and what is seen in one of both alone', () => {
    const shifted: [number, number, number, number] = [40, 40, 120, 61];
    expect(findDifferences(page(bar), page(shifted), W, H, 10)).toEqual([]);
    const hidden = page();
    for (let k = 3; k < hidden.length; k += 4) hidden[k] = 0;
    expect(findDifferences(page(bar), hidden, W, H, 10)).toEqual([]);
  });

  it('lists no more than it is asked for', () => {
    const many = Array.from({ length: 9 }, (_, k): [number, number, number, number] => [
      20 + 32 * k,
      20,
      30 + 32 * k,
      40,
    ]);
    expect(findDifferences(page(...many), page(), W, H, 4)).toHaveLength(4);
    expect(findDifferences(page(), page(), W, H, 4)).toEqual([]);
  });
});
