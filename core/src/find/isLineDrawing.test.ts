import { fileURLToPath } from 'node:url';
import { drawDimensioned } from '@steady-moth/rig/harder';
import sharp, { type Sharp } from 'sharp';
import { describe, expect, it } from 'vitest';
import type { Pixels } from '../raster';
import { isLineDrawing } from './isLineDrawing';

const opened = async (image: Sharp): Promise<Pixels> => {
  const { data, info } = await image.ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data: new Uint8ClampedArray(data) };
};
const demo = (name: string) =>
  opened(sharp(fileURLToPath(new URL(`../../../demo/pictures/${name}.jpg`, import.meta.url))));

/** A page of a scanner: black things on white, a little blurred. */
const page = (inside: string) =>
  opened(
    sharp(
      Buffer.from(
        `<svg xmlns="http://www.w3.org/2000/svg" width="1800" height="1300"><rect width="1800" height="1300" fill="#f4f2ec"/>${inside}</svg>`,
      ),
    ).blur(0.8),
  );

describe('what is a line drawing', () => {
  it.each([1, 2, 3, 4, 5, 6])('a dimensioned drawing is: %d', async (seed) => {
    expect(isLineDrawing(await opened(sharp(Buffer.from(drawDimensioned(seed).svg(9)))))).toBe(true);
  });

  it('the scanned drawing of the demo is', async () => {
    expect(isLineDrawing(await demo('funnel-bracket'))).toBe(true);
  });

  it('strokes of a pen are, thick ones too, and axes askew', async () => {
    const strokes =
      '<g fill="none" stroke="#222" stroke-width="9"><path d="M200 180 L1500 260 L1420 1100 L180 980 Z"/><circle cx="800" cy="640" r="220"/><path d="M100 640 L1700 660"/></g>';
    expect(isLineDrawing(await page(strokes))).toBe(true);
  });

  it.each(['latch-plate', 'lamp-gasket', 'baffle-pattern', 'focus-knob', 'plywood-offcut', 'hanger-rail-left'])(
    'a picture of a thing is none: %s',
    async (name) => {
      expect(isLineDrawing(await demo(name))).toBe(false);
    },
  );

  it('a part on the glass is none, whole or as a frame, nor a page with nothing on it', async () => {
    expect(isLineDrawing(await page('<rect x="400" y="300" width="700" height="420" fill="#333"/>'))).toBe(false);
    expect(
      isLineDrawing(
        await page('<rect x="400" y="300" width="700" height="520" fill="none" stroke="#333" stroke-width="70"/>'),
      ),
    ).toBe(false);
    expect(isLineDrawing(await page(''))).toBe(false);
  });
});
