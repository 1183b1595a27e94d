import { blobsNamed, blobsOf } from '@steady-moth/core/job';
import { files } from '../compute';
import { download, fileNameFor } from './download';
import { useJob } from './jobStore';
import { database, storedAsItIs } from './storage';

/** Bytes of several hundred megabytes are digested in one go. */
const LONGEST_PACKING_MS = 120_000;

/**
 * Packs the open job, its pictures and its history into one file; pictures that are no longer stored come from those
 * that the open job holds on to. Answers false when a picture is missing.
 */
export async function saveJobFile(): Promise<boolean> {
  const { state, pictures } = useJob.getState();
  if (!state) return false;
  const held = new Map(pictures().map((row) => [row.hash, row.bytes]));
  const blobs = new Map<string, Uint8Array>();
  for (const blob of blobsNamed(state.job, state.history)) {
    const stored = await database.blobs.get(blob).catch(() => undefined);
    const bytes = stored?.bytes ?? held.get(blob);
    if (bytes) blobs.set(blob, new Uint8Array(await bytes.arrayBuffer()));
  }
  if (!blobsOf(state.job).every((blob) => blobs.has(blob))) return false;
  const packed = await files.call((w) => w.packJob({ ...state, blobs }), { silentMs: LONGEST_PACKING_MS });
  download(packed, fileNameFor(state.job.name, 'moth'), 'application/zip');
  return true;
}

/** Packs what is stored under a job's name as it is, also where it cannot be opened. False when there is nothing. */
export async function saveStoredFile(id: string): Promise<boolean> {
  const stored = await storedAsItIs(database, id);
  if (!stored) return false;
  const blobs = new Map<string, Uint8Array>();
  for (const { hash, bytes } of stored.blobs) blobs.set(hash, new Uint8Array(await bytes.arrayBuffer()));
  const packed = await files.call((w) => w.packStored(stored.document, stored.history, blobs), {
    silentMs: LONGEST_PACKING_MS,
  });
  const { name } = (stored.document ?? {}) as { name?: unknown };
  download(packed, fileNameFor(typeof name === 'string' ? name : '', 'moth'), 'application/zip');
  return true;
}
