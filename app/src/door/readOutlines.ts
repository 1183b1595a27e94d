import { files } from '../compute';
import { leftOutSentence, outlineSentence } from '../session/sentences';
import type { Arrival } from './arrival';
import { readPicture } from './readPicture';

/** Numbers of a drawing file are exact; this is what double precision leaves. */
const EXACT = 1e-6;

/** Reads known outlines out of a drawing file: a drawn page with the outlines over it as runs. */
export async function readOutlines(
  kind: 'svg' | 'dxf',
  name: string,
  bytes: Uint8Array,
  progress: (share: number) => void,
  signal: AbortSignal,
): Promise<Arrival> {
  const read = await files.call((w) => w.readOutlines(bytes, kind), { signal, endOnAbort: true });
  if (!read.ok) return { ok: false, sentence: outlineSentence(read.reason, kind) };
  progress(0.3);
  const notes = read.leftOut.map(leftOutSentence);
  if (read.unitless) notes.push('The file does not state its unit, so check its size against something that is known.');
  const { perMm, sketch, zero } = read;
  const resolution = { perMmX: perMm, perMmY: perMm, sigma: EXACT };
  return readPicture(name, read.png, (share) => progress(0.3 + 0.7 * share), signal, {
    kind: 'drawing',
    resolution,
    outlines: sketch,
    zero,
    notes,
  });
}
