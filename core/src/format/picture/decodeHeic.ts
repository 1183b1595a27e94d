import { MOST } from '../../job';
import type { Pixels } from '../../raster';

/** The few things used of the decoder, whose own types do not name them. */
interface Heif {
  HeifDecoder: new () => { decode(bytes: Uint8Array): HeifImage[] };
}
interface HeifImage {
  get_width(): number;
  get_height(): number;
  display(into: { data: Uint8ClampedArray; width: number; height: number }, done: (drawn: unknown) => void): void;
  free(): void;
}

/**
 * Decodes the primary image of a HEIC file, upright (the format carries its turn itself). The decoder is large and is
 * loaded when first needed.
 * Degenerate: a file without an image, or one that breaks off inside, rejects.
 */
export async function decodeHeic(bytes: Uint8Array): Promise<Pixels> {
  const { default: start } = (await import('libheif-js/libheif-wasm/libheif-bundle.mjs')) as unknown as {
    default: () => Heif;
  };
  const images = new (start().HeifDecoder)().decode(bytes);
  if (!images?.length) throw new Error('decodeHeic: no image in the file');
  const [image] = images as [HeifImage];
  const width = image.get_width();
  const height = image.get_height();
  if (!(width > 0 && height > 0 && width * height <= MOST.pixels)) {
    for (const one of images) one.free();
    throw new Error('decodeHeic: an image of no size, or too large');
  }
  const data = new Uint8ClampedArray(width * height * 4);
  const drawn = await new Promise((resolve) => image.display({ data, width, height }, resolve));
  for (const one of images) one.free();
  if (!drawn) throw new Error('decodeHeic: the image cannot be decoded');
  return { width, height, data };
}
