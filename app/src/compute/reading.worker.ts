import {
  type ReadDimension,
  type RulerFigures,
  type RulerToRead,
  readDrawing,
  readRulerFigures,
} from '@steady-moth/core/read';
import { decodePicture } from './decodePicture';
import { type Layout, openReader } from './readText';
import { serve } from './serve';

const calls = {
  /** The figures printed along each of some rulers of a picture. */
  rulers: (bytes: Blob, rulers: readonly RulerToRead[]): Promise<(RulerFigures | null)[]> =>
    reading(bytes, 'scattered', async (pixels, read) => {
      const figures: (RulerFigures | null)[] = [];
      for (const ruler of rulers) figures.push(await readRulerFigures(pixels, ruler, read));
      return figures;
    }),
  /** The printed dimensions of a drawing. */
  drawing: (bytes: Blob): Promise<ReadDimension[]> => reading(bytes, 'rows', readDrawing),
};

/** Decodes a picture while a reader of letters is made ready, and reads; the reader goes in any case. */
async function reading<T>(
  bytes: Blob,
  layout: Layout,
  work: (
    pixels: Awaited<ReturnType<typeof decodePicture>>,
    read: Awaited<ReturnType<typeof openReader>>['read'],
  ) => Promise<T>,
): Promise<T> {
  const [pixels, reader] = await Promise.all([decodePicture(bytes), openReader(layout)]);
  try {
    return await work(pixels, reader.read);
  } finally {
    await reader.close();
  }
}

export type ReadingCalls = typeof calls;

serve(calls);
