import { expect, it } from 'vitest';
import { markDifference } from './markDifference';

const row = (...grays: (number | null)[]) =>
  Uint8ClampedArray.from(grays.flatMap((g) => (g === null ? [0, 0, 0, 0] : [g, g, g, 255])));

it('marks what has gone and what has come, and nothing where either picture ends', () => {
  const now = row(240, 20, 240, 200, 20, null);
  const share = markDifference(now, row(20, 240, 236, 210, null, 20));
  const colour = (k: number) => [...now.subarray(4 * k, 4 * k + 3)];
  expect(colour(0)).toEqual([0x9c, 0x34, 0x26]);
  expect(colour(1)).toEqual([0x25, 0x6f, 0x62]);
  for (const k of [2, 3, 4]) expect(new Set(colour(k)).size).toBe(1);
  expect(now[4 * 5 + 3]).toBe(0);
  expect(share).toBeCloseTo(2 / 4, 9);
});
