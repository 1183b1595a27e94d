import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { buildCamera, pictureOf } from '@steady-moth/rig/camera';
import { type Item, type Scene, toScene } from '@steady-moth/rig/scene';
import sharp from 'sharp';
import type { PicturePoint } from '../calibration';
import type { Pixels } from '../raster';

const folder = fileURLToPath(new URL('../../../demo/pictures/', import.meta.url));

/** A demo picture, and where the simulated camera pictures a place of one of its things. */
export async function openDemo(name: string, kind: Item['kind']) {
  const { data, info } = await sharp(`${folder}${name}.jpg`).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const { scene } = JSON.parse(readFileSync(`${folder}${name}.truth.json`, 'utf8')) as { scene: Scene };
  const camera = buildCamera(scene.camera);
  const item = scene.items.find((i) => i.kind === kind);
  if (!item) throw new Error(`no ${kind}`);
  /** Where a place of the thing (its own mm, on its upper side) is pictured. */
  const at = (x: number, y: number, z = item.base + item.thickness): [number, number] => {
    const [sx, sy] = toScene(item.lie, x, y);
    return pictureOf(camera, { x: sx, y: sy, z }) ?? [0, 0];
  };
  const place = (x: number, y: number): PicturePoint => ({ uPx: at(x, y)[0], vPx: at(x, y)[1] });
  const pixels: Pixels = { width: info.width, height: info.height, data };
  return { pixels, at, place, item, scene };
}

/** A copy of a picture with a patch of one gray painted over it. */
export function painted(pixels: Pixels, left: number, top: number, width: number, height: number, gray = 140): Pixels {
  const data = new Uint8ClampedArray(pixels.data);
  for (let y = Math.max(0, Math.round(top)); y < Math.min(pixels.height, top + height); y++)
    for (let x = Math.max(0, Math.round(left)); x < Math.min(pixels.width, left + width); x++)
      data.fill(gray, (y * pixels.width + x) * 4, (y * pixels.width + x) * 4 + 3);
  return { ...pixels, data };
}

/** The part of a picture from a place on, as a picture of its own. */
export function cutOut(pixels: Pixels, left: number, top: number, width: number, height: number): Pixels {
  const data = new Uint8ClampedArray(width * height * 4);
  for (let y = 0; y < height; y++) {
    const from = ((top + y) * pixels.width + left) * 4;
    data.set(pixels.data.subarray(from, from + width * 4), y * width * 4);
  }
  return { width, height, data };
}

/** A picture out of focus: the mean of so many pixels each way, three times over. */
export function blurred({ width, height, data }: Pixels, reach: number): Pixels {
  let from = new Uint8ClampedArray(data);
  for (let round = 0; round < 3; round++)
    for (const stride of [4, 4 * width]) {
      const to = new Uint8ClampedArray(from);
      const length = stride === 4 ? width : height;
      const lines = stride === 4 ? height : width;
      for (let line = 0; line < lines; line++)
        for (let c = 0; c < 3; c++) {
          const start = (stride === 4 ? line * width * 4 : line * 4) + c;
          let sum = 0;
          for (let k = -reach; k < length; k++) {
            if (k + reach < length) sum += from[start + (k + reach) * stride]!;
            if (k - reach - 1 >= 0) sum -= from[start + (k - reach - 1) * stride]!;
            if (k >= 0) to[start + k * stride] = sum / (Math.min(length - 1, k + reach) - Math.max(0, k - reach) + 1);
          }
        }
      from = to;
    }
  return { width, height, data: from };
}
