import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { turnUpright } from './turnUpright';

describe('turnUpright', () => {
  const [w, h] = [5, 3];
  const data = Uint8ClampedArray.from({ length: w * h * 4 }, (_, k) => (k % 4 === 3 ? 255 : (k * 13) % 256));

  it.each([1, 2, 3, 4, 5, 6, 7, 8])('turns orientation %d as another library does', async (orientation) => {
    const stored = await sharp(Buffer.from(data), { raw: { width: w, height: h, channels: 4 } })
      .withMetadata({ orientation })
      .tiff({ compression: 'none' })
      .toBuffer();
    const wanted = await sharp(stored).rotate().raw().toBuffer({ resolveWithObject: true });
    const found = turnUpright({ width: w, height: h, data }, orientation);
    expect([found.width, found.height]).toEqual([wanted.info.width, wanted.info.height]);
    expect([...found.data]).toEqual([...wanted.data]);
  });

  it('gives an upright picture back as it is', () => {
    const pixels = { width: w, height: h, data };
    expect(turnUpright(pixels, 1)).toBe(pixels);
  });
});
