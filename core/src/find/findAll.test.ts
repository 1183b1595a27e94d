import { describe, expect, it } from 'vitest';
import { openDemo, painted } from './demo.test-data';
import { findAll } from './findAll';

const kinds = (pixels: Parameters<typeof findAll>[0]) => findAll(pixels).map((thing) => thing.kind);

describe('a picture searched as a whole', () => {
  it('tells a ruler and its length, and nothing once the ruler is gone', async () => {
    const { pixels, place } = await openDemo('latch-plate', 'rule');
    const found = findAll(pixels);
    expect(found).toHaveLength(1);
    const [ruler] = found;
    if (ruler?.kind !== 'ruler') throw new Error('no ruler');
    expect(ruler.found.count).toBe(150);
    expect(ruler.found.family).toMatchObject({ unit: 'mm', spacingMm: 1 });
    const corners = [place(-8, -4), place(160, 32)];
    const [left, top] = [Math.min(...corners.map((c) => c.uPx)), Math.min(...corners.map((c) => c.vPx))];
    const [width, height] = [
      Math.max(...corners.map((c) => c.uPx)) - left,
      Math.max(...corners.map((c) => c.vPx)) - top,
    ];
    expect(kinds(painted(pixels, left - 200, top - 300, width + 400, height + 600))).toEqual([]);
  });

  it('tells a sheet and the coin on it, and takes no hole of the part for a coin', async () => {
    const { pixels, place } = await openDemo('lamp-gasket', 'coin');
    const found = findAll(pixels);
    expect(found.map((thing) => thing.kind)).toEqual(['sheet', 'disc']);
    const [sheet, disc] = found;
    if (sheet?.kind !== 'sheet' || disc?.kind !== 'disc') throw new Error('neither');
    expect(sheet.found.ratio).toBeGreaterThan(1.35);
    expect(sheet.found.ratio).toBeLessThan(1.5);
    const middle = place(0, 0);
    const { x, y, a, b } = disc.found.ellipse;
    expect(Math.hypot(x - middle.uPx, y - middle.vPx)).toBeLessThan(8);
    const rim = place(22.25 / 2, 0);
    const radius = Math.hypot(rim.uPx - middle.uPx, rim.vPx - middle.vPx);
    expect(Math.sqrt(a * b) / radius).toBeGreaterThan(0.97);
    expect(Math.sqrt(a * b) / radius).toBeLessThan(1.03);
  });

  it('tells a cutting mat by its grid', async () => {
    const { pixels } = await openDemo('baffle-pattern', 'mat');
    expect(kinds(pixels)).toEqual(['grid']);
  });

  it('finds nothing on a part turned on a lathe with a block beside it', async () => {
    const { pixels } = await openDemo('focus-knob', 'turned');
    expect(kinds(pixels)).toEqual([]);
  });
});
