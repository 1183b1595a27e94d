import { database } from '../storage';
import { files } from '../workers';
import { download, fileNameFor } from './download';
import { useJob } from './jobStore';

/** Packs the open job, its pictures and its history into one file. Answers false when a picture is missing. */
export async function saveJobFile(): Promise<boolean> {
  const { state } = useJob.getState();
  if (!state) return false;
  const blobs = new Map<string, Uint8Array>();
  for (const { blob } of state.job.pictures) {
    const row = await database.blobs.get(blob);
    if (!row) return false;
    blobs.set(blob, new Uint8Array(await row.bytes.arrayBuffer()));
  }
  const bytes = await files.call((w) => w.packJob({ ...state, blobs }));
  download(bytes, fileNameFor(state.job.name, 'moth'), 'application/zip');
  return true;
}
