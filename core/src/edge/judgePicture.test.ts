import { LATCH_PLATE_SCENE } from '@steady-moth/rig/demo';
import { shoot } from '@steady-moth/rig/render';
import { describe, expect, it } from 'vitest';
import { buildPyramid, type Pixels } from '../raster';
import { judgePicture } from './judgePicture';

/** The demo scene at 1.2 megapixels with another blur or another lamp, and with a rule of plain black strokes. */
function picture(blurPx: number, brighter = 1): Pixels {
  const { camera } = LATCH_PLATE_SCENE;
  const items = LATCH_PLATE_SCENE.items.map((item) => {
    if (item.kind !== 'rule') return item;
    const { look: _, ...plain } = item;
    return plain;
  });
  const scene = {
    ...LATCH_PLATE_SCENE,
    items,
    camera: { ...camera, widthPx: 1270, heightPx: 950, cPx: 960, centre: [635, 475] as [number, number] },
    film: { ...LATCH_PLATE_SCENE.film, blurPx, sharpening: 0 },
  };
  const { pixels, width, height } = shoot(scene);
  const data = new Uint8ClampedArray(width * height * 4).fill(255);
  for (let k = 0; k < width * height; k++) for (let c = 0; c < 3; c++) data[4 * k + c] = brighter * pixels[3 * k + c]!;
  return { width, height, data };
}

describe('judgePicture', () => {
  it('tells the blur of a picture in pixels', () => {
    for (const blur of [0.8, 2]) {
      const found = judgePicture(buildPyramid(picture(blur)));
      expect(found.edges).toBeGreaterThan(8);
      expect(Math.abs((found.blurPx ?? 0) - blur)).toBeLessThan(0.35);
    }
  });

  it('sees what is burnt out, and an empty picture', () => {
    expect(judgePicture(buildPyramid(picture(0.8, 1.6))).white).toBeGreaterThan(0.05);
    expect(judgePicture(buildPyramid(picture(0.8))).white).toBeLessThan(0.02);
    const empty = { width: 900, height: 700, data: new Uint8ClampedArray(900 * 700 * 4).fill(120) };
    expect(judgePicture(buildPyramid(empty))).toMatchObject({ blurPx: null, edges: 0, contrast: 0 });
  });
});
