import { openReader } from '@steady-moth/rig/letters';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Pixels } from '../raster';
import { withRulersRead } from '.';

let pixels: Pixels;
beforeAll(async () => {
  const { data, info } = await sharp('demo/pictures/latch-plate.jpg')
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  pixels = { width: info.width, height: info.height, data };
});

const rule = { id: 'rule', kind: 'ruler' as const, click: [1700, 1890] as const };

describe('a ruler that a script only points at', () => {
  it('is as long as its figures say, by both its readings', async () => {
    const reader = await openReader('scattered');
    const [read] = await withRulersRead([rule], pixels, (image) => reader.read(image));
    await reader.close();
    expect(read).toEqual({ ...rule, length: '0 to 15 cm' });
  }, 60_000);

  it('stays as it was said where its length was said, where no figure is read, and where it is no ruler', async () => {
    let asked = 0;
    const blind = async () => {
      asked += 1;
      return [];
    };
    const said = [
      { ...rule, length: '149.9' },
      { id: 'coin', kind: 'disc' as const, click: [1700, 1890] as const },
    ];
    expect(await withRulersRead(said, pixels, blind)).toEqual(said);
    expect(asked).toBe(0);
    expect(await withRulersRead([rule], pixels, blind)).toEqual([rule]);
    expect(asked).toBeGreaterThan(0);
  }, 60_000);
});
