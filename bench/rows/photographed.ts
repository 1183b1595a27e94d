import sharp from 'sharp';
import type { Pixels } from '../../core/src/raster';
import { shoot } from '../../rig/src/render';
import type { Scene } from '../../rig/src/scene';

/** A scene as a phone's file has it: JPEG with its colours at half the size. */
export async function photographed(scene: Scene): Promise<Pixels> {
  const { pixels, width, height } = shoot(scene);
  const bytes = await sharp(pixels, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 90, chromaSubsampling: '4:2:0' })
    .toBuffer();
  const { data } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { width, height, data };
}
