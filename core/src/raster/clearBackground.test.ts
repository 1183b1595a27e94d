import { describe, expect, it } from 'vitest';
import { buildClearTable, clearBackground } from './clearBackground';

const WOOD: [number, number, number] = [150, 120, 90];
const cleared = (tolerance: number, ...colours: number[][]): number[] => {
  const data = Uint8ClampedArray.from(colours.flatMap((c) => [...c, 255]));
  clearBackground(data, buildClearTable({ colour: WOOD, tolerance }));
  return colours.map((_, k) => data[4 * k + 3]!);
};

describe('clearBackground', () => {
  it('takes the colour and its shadow, and leaves another colour as it was', () => {
    const [own, shadow, teal] = cleared(0.2, WOOD, [105, 84, 63], [40, 90, 100]);
    expect([own, shadow, teal]).toEqual([0, 0, 255]);
  });

  it('takes nothing at a tolerance of 0 but the colour itself', () => {
    expect(cleared(0, WOOD, [170, 140, 110], [0, 0, 0])[0]).toBeLessThan(90);
    expect(cleared(0, [170, 140, 110], [0, 0, 0])).toEqual([255, 255]);
  });

  it('keeps the rim sharp: the more unlike, the more stays, from clear to whole within a few steps', () => {
    const steps = Array.from({ length: 40 }, (_, k) => [150 - 3 * k, 120 - k, 90 + k]);
    const alphas = cleared(0.15, ...steps);
    for (let k = 1; k < alphas.length; k++) expect(alphas[k]).toBeGreaterThanOrEqual(alphas[k - 1]!);
    expect(alphas.filter((a) => a > 0 && a < 255).length).toBeLessThan(8);
    expect(alphas[0]).toBe(0);
    expect(alphas.at(-1)).toBe(255);
  });

  it('never makes the transparent visible, and never changes a colour', () => {
    const data = Uint8ClampedArray.of(0, 0, 0, 0, 10, 20, 30, 255);
    clearBackground(data, buildClearTable({ colour: WOOD, tolerance: 0.1 }));
    expect([...data]).toEqual([0, 0, 0, 0, 10, 20, 30, 255]);
  });
});
