import type { PictureFacts, PicturePoint, Resolution } from '@steady-moth/core/calibration';
import type { PictureFile, PictureKind } from '@steady-moth/core/job';
import type { Sketch } from '@steady-moth/core/sketch';
import { files, pixels } from '../compute';
import { loadBytes } from '../session/pixelsStore';
import { pictureSentence } from '../session/sentences';
import type { Arrival } from './arrival';

/** What is known of a picture's bytes beside what they say themselves. */
export interface Told {
  kind: PictureKind | null;
  /** Said by who made the picture here, and exact; it goes before what the file states. */
  resolution: Resolution | null;
  outlines: Sketch | null;
  /** Where the file's own zero lies, where it has one. */
  zero: PicturePoint | null;
  notes: string[];
}

const NOTHING_TOLD: Told = { kind: null, resolution: null, outlines: null, zero: null, notes: [] };

/** Pixels to a millimetre from which a picture without a lens is taken for a scan: 100 to the inch. */
const SCAN_PER_MM = 100 / 25.4;

/** Judges a picture by its bytes, decodes it once, and makes its record. */
export async function readPicture(
  name: string,
  bytes: Uint8Array,
  progress: (share: number) => void,
  signal: AbortSignal,
  told: Told = NOTHING_TOLD,
): Promise<Arrival> {
  const judged = await files.call((w) => w.judge(bytes), { signal, endOnAbort: true });
  if (!judged.ok) return { ok: false, sentence: pictureSentence(judged) };
  progress(0.2);
  const hash = await files.call((w) => w.digest(bytes), { signal, endOnAbort: true });
  const blob = new Blob([bytes as BlobPart], { type: judged.mime });
  try {
    const loaded = await loadBytes(hash, blob, (share) => progress(0.2 + 0.7 * share), signal);
    const facts: PictureFacts = {
      ...judged.facts,
      widthPx: loaded.widthPx,
      heightPx: loaded.heightPx,
      resolution: told.resolution ?? judged.facts.resolution,
    };
    const kind = told.kind ?? guessKind(facts);
    // A page with strokes on it is read by their middle, whatever resolution its file states.
    const isDrawn =
      kind === 'scan' && told.kind === null && (await pixels.call((w) => w.isLineDrawing(hash)).catch(() => false));
    const file: PictureFile = { blob: hash, fileName: name.slice(0, 400), mime: judged.mime, facts };
    return {
      ok: true,
      kind: 'picture',
      picture: {
        name,
        file,
        kind: isDrawn ? 'drawing' : kind,
        blob: { hash, bytes: blob, thumb: null },
        outlines: told.outlines,
        zero: told.zero,
        notes: isDrawn ? [...told.notes, DRAWN] : told.notes,
      },
    };
  } catch (error) {
    if (signal.aborted) throw error;
    return { ok: false, sentence: pictureSentence({ reason: 'broken' }) };
  }
}

const DRAWN = 'It looks like a line drawing, so its lines count at their middle. Picture changes that.';

/** A picture that states no lens but a fine resolution came from a scanner. */
function guessKind({ focal35Mm, focalMm, resolution }: PictureFacts): PictureKind {
  const fine = resolution !== null && Math.min(resolution.perMmX, resolution.perMmY) >= SCAN_PER_MM;
  return focal35Mm === null && focalMm === null && fine ? 'scan' : 'photo';
}
