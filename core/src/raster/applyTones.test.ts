import { describe, expect, it } from 'vitest';
import { applyTones, histogram } from './applyTones';

const gray = (...values: number[]) => Uint8ClampedArray.from(values.flatMap((v) => [v, v, v, 255]));

describe('applyTones', () => {
  it('makes the darkest black and the lightest white, the middle by gamma', () => {
    const data = gray(0, 51, 102, 153, 204, 255);
    applyTones(data, { dark: 0.2, light: 0.8, gamma: 1, gray: false });
    expect([...data].filter((_, k) => k % 4 === 0)).toEqual([0, 0, 85, 170, 255, 255]);
    const bright = gray(64);
    applyTones(bright, { dark: 0, light: 1, gamma: 2, gray: false });
    expect(bright[0]).toBe(Math.round(255 * Math.sqrt(64 / 255)));
  });

  it('leaves what is plain, and what is clear, as it is', () => {
    const data = Uint8ClampedArray.of(1, 2, 3, 0, 200, 100, 50, 255);
    const before = data.slice();
    applyTones(data, { dark: 0, light: 1, gamma: 1, gray: false });
    expect(data).toEqual(before);
    applyTones(data, { dark: 0, light: 1, gamma: 1, gray: true });
    expect(data[3]).toBe(0);
    expect(data[4]).toBe(data[5]);
    // Luminance of the standard colours (Rec. 709), rounded down.
    expect(data[4]).toBe(Math.floor((200 * 54 + 100 * 183 + 50 * 19) / 256));
  });

  it('survives a span of nothing', () => {
    const data = gray(100, 130);
    applyTones(data, { dark: 0.45, light: 0.45, gamma: 1, gray: false });
    expect([data[0], data[4]]).toEqual([0, 255]);
  });
});

describe('histogram', () => {
  it('counts brightnesses, the commonest as 1', () => {
    const found = histogram({ data: gray(0, 0, 255, 128, 128, 128, 128) });
    expect([found[0], found[32], found[63], found[10]]).toEqual([0.5, 1, 0.25, 0]);
  });
});
