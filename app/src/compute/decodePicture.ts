import { HEAD_BYTES, tellMime } from '@steady-moth/core/format/sniff';
import { type Pixels, turnUpright } from '@steady-moth/core/raster';

/**
 * Decodes a picture of any kind that is taken, upright: by the browser where it can, else by the readers of core. What
 * kind it is its bytes tell, not what somebody stated.
 */
export async function decodePicture(bytes: Blob): Promise<Pixels> {
  const mime = tellMime(new Uint8Array(await bytes.slice(0, HEAD_BYTES).arrayBuffer()));
  if (mime === 'image/tiff' || mime === 'image/heic') {
    const { decodeHeic, decodeTiff, readFacts } = await import('@steady-moth/core/format/picture');
    const data = new Uint8Array(await bytes.arrayBuffer());
    if (mime === 'image/heic') return decodeHeic(data);
    const stored = decodeTiff(data);
    const { orientation } = await readFacts(data, stored.width, stored.height);
    return turnUpright(stored, orientation);
  }
  const bitmap = await createImageBitmap(bytes, { imageOrientation: 'from-image', premultiplyAlpha: 'none' });
  const { width, height } = bitmap;
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('This browser cannot draw here.');
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  const { data } = context.getImageData(0, 0, width, height);
  canvas.width = 0;
  return { width, height, data };
}
