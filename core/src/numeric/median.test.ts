import { expect, test } from 'vitest';
import { medianOf } from './median';

test('half of the values lie below it, and they stay in their order', () => {
  const values = [9, -1, 100, 3, 5];
  expect(medianOf(values)).toBe(5);
  expect(values).toEqual([9, -1, 100, 3, 5]);
});

test('of an even number it is the upper one of the two in the middle; of none, what is said', () => {
  expect(medianOf([4, 1, 3, 2])).toBe(3);
  expect(medianOf([])).toBeNaN();
  expect(medianOf([], 0)).toBe(0);
});
