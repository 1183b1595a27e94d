import { blobsNamed, blobsOf } from '@steady-moth/core/job';
import { database } from '../storage';
import { files } from '../workers';
import { download, fileNameFor } from './download';
import { useJob } from './jobStore';

/** Packs the open job, its pictures and its history into one file. Answers false when a picture is missing. */
export async function saveJobFile(): Promise<boolean> {
  const { state } = useJob.getState();
  if (!state) return false;
  const blobs = new Map<string, Uint8Array>();
  for (const blob of blobsNamed(state.job, state.history)) {
    const row = await database.blobs.get(blob);
    if (row) blobs.set(blob, new Uint8Array(await row.bytes.arrayBuffer()));
  }
  if (!blobsOf(state.job).every((blob) => blobs.has(blob))) return false;
  const bytes = await files.call((w) => w.packJob({ ...state, blobs }), { silentMs: 120_000 });
  download(bytes, fileNameFor(state.job.name, 'moth'), 'application/zip');
  return true;
}
