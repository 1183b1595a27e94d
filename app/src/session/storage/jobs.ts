import {
  blobsNamed,
  blobsOf,
  checkHistory,
  checkJobInTurn,
  type History,
  type JobDocument,
  type JobFault,
  type JobState,
  NO_HISTORY,
  upgradeHistory,
} from '@steady-moth/core/job';
import { documentText, fromStored, historyText } from './asText';
import type { BlobRow, Database } from './database';
import type { LeavingNote } from './leavingNote';
import { LITTLE, roomFor } from './room';

/** `isNoted`: the state is the one that was noted when a page went away, and is not stored yet. */
export type LoadResult =
  | { ok: true; state: JobState; revision: number; isNoted?: true }
  | { ok: false; reason: 'no-such-job' | 'picture-missing' | 'storage-failed' }
  | ({ ok: false } & JobFault);

export type SaveResult =
  | { ok: true; revision: number }
  | { ok: false; reason: 'storage-full' | 'changed-elsewhere' | 'deleted-elsewhere' | 'storage-failed' };

/** Picture bytes to be kept with a job. */
export type NewBlob = BlobRow;

/** Stores a new job with its pictures, all or nothing. */
export async function createJob(
  db: Database,
  job: JobDocument,
  blobs: NewBlob[],
  history: History = NO_HISTORY,
  changedAt = Date.now(),
): Promise<SaveResult> {
  // Written before the transaction begins: one that waits for something else ends by itself.
  const texts = { document: await documentText(job), history: await historyText(history) };
  return guarded(sizeOf(texts, blobs), () =>
    db.transaction('rw', db.jobs, db.blobs, async () => {
      await keepBlobs(db, blobs);
      await db.jobs.add({ id: job.id, ...texts, revision: 1, changedAt });
      return { ok: true as const, revision: 1 };
    }),
  );
}

const rest = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));

/**
 * Loads and checks a job. A history that does not hold is left out; the job is then still whole. A sound note left by
 * a page that went away, asked for by the stored revision, comes before what is stored.
 */
export async function loadJob(
  db: Database,
  id: string,
  noteOn: (revision: number) => LeavingNote | null = () => null,
): Promise<LoadResult> {
  const row = await db.jobs.get(id);
  if (!row) return { ok: false, reason: 'no-such-job' };
  const { revision } = row;
  const note = noteOn(revision);
  if (note) {
    const noted = await checkStored(db, note.document, note.history);
    if (noted.ok && noted.state.job.id === id) return { ...noted, revision, isNoted: true };
  }
  const checked = await checkStored(db, fromStored(row.document), fromStored(row.history));
  return checked.ok ? { ...checked, revision } : checked;
}

async function checkStored(
  db: Database,
  stored: unknown,
  storedHistory: unknown,
): Promise<{ ok: true; state: JobState } | Extract<LoadResult, { ok: false }>> {
  // A job at its bounds is read in stretches, with room for others between them.
  await rest();
  const checked = await checkJobInTurn(stored, rest);
  if (!checked.ok) return checked;
  const wanted = blobsOf(checked.job);
  // Counted, not read: their bytes are many.
  if ((await db.blobs.where('hash').anyOf(wanted).count()) < wanted.length)
    return { ok: false, reason: 'picture-missing' };
  const history = checkHistory(upgradeHistory(stored, storedHistory), checked.job) ?? NO_HISTORY;
  return { ok: true, state: { job: checked.job, history } };
}

/** Saves a job that was loaded or saved at `revision`, with pictures that came in since; all or nothing. */
export async function saveJob(
  db: Database,
  state: JobState,
  revision: number,
  blobs: NewBlob[] = [],
): Promise<SaveResult> {
  const { id } = state.job;
  const texts = { document: await documentText(state.job), history: await historyText(state.history) };
  return guarded(sizeOf(texts, blobs), () =>
    db.transaction('rw', db.jobs, db.blobs, async () => {
      if ((await db.jobs.where('[id+revision]').equals([id, revision]).count()) === 0) {
        // Where it is gone its pictures went with it: a job put back without them would not open again.
        const isThere = (await db.jobs.where('id').equals(id).count()) > 0;
        return {
          ok: false as const,
          reason: isThere ? ('changed-elsewhere' as const) : ('deleted-elsewhere' as const),
        };
      }
      await keepBlobs(db, blobs);
      await db.jobs.put({
        id,
        ...texts,
        revision: revision + 1,
        changedAt: Date.now(),
      });
      return { ok: true as const, revision: revision + 1 };
    }),
  );
}

/** Keeps what is not there yet. Bytes that are stored are never written over: other jobs stand on them. */
async function keepBlobs(db: Database, blobs: readonly NewBlob[]): Promise<void> {
  for (const blob of blobs)
    if ((await db.blobs.where('hash').equals(blob.hash).count()) === 0) await db.blobs.add(blob);
}

/** The stored pictures that a job and its history name: as handles, whose bytes are read when they are wanted. */
export async function blobsOfJob(db: Database, { job, history }: JobState): Promise<BlobRow[]> {
  return db.blobs.where('hash').anyOf(blobsNamed(job, history)).toArray();
}

/** What is stored under a job's name, sound or not, with every picture that it names anywhere; null for nothing. */
export async function storedAsItIs(
  db: Database,
  id: string,
): Promise<{ document: unknown; history: unknown; blobs: BlobRow[] } | null> {
  const row = await db.jobs.get(id);
  if (!row) return null;
  const named = new Set(JSON.stringify([row.document, row.history]).match(/\b[0-9a-f]{64}\b/g) ?? []);
  return {
    document: fromStored(row.document),
    history: fromStored(row.history),
    blobs: await db.blobs
      .where('hash')
      .anyOf([...named])
      .toArray(),
  };
}

/** Deletes a job, and the pictures that no other job, nor its undo history, needs. */
export async function deleteJob(db: Database, id: string): Promise<void> {
  // On a full disk this gives the reserve up: whoever makes room must not be refused for want of it.
  await roomFor(LITTLE);
  await db.transaction('rw', db.jobs, db.blobs, async () => {
    await db.jobs.delete(id);
    const rest = JSON.stringify(await db.jobs.toArray());
    for (const hash of await db.blobs.toCollection().primaryKeys())
      if (!rest.includes(hash)) await db.blobs.delete(hash);
  });
}

/** As how many bytes a job goes into storage: its texts stand there with two bytes a sign. */
function sizeOf(texts: { document: string; history: string }, blobs: readonly NewBlob[]): number {
  const pictures = blobs.reduce((sum, { bytes, thumb }) => sum + bytes.size + (thumb?.size ?? 0), 0);
  return 2 * (texts.document.length + texts.history.length) + pictures;
}

/**
 * Why storage refused, as a value: a full disk must not lose what is in memory, and is not written to, since browsers
 * answer a write that failed by clearing what was stored.
 */
async function guarded(bytes: number, work: () => Promise<SaveResult>): Promise<SaveResult> {
  if ((await roomFor(bytes)) === 'none') return { ok: false, reason: 'storage-full' };
  try {
    return await work();
  } catch (error) {
    return { ok: false, reason: isFull(error) ? 'storage-full' : 'storage-failed' };
  }
}

/** What browsers say of a full disk by other names. */
const FULL = /NO_SPACE|disk is full|write blobs/i;

function isFull(error: unknown): boolean {
  for (
    let e = error as { name?: string; message?: string; inner?: unknown } | null;
    e;
    e = (e.inner as typeof e) ?? null
  )
    if (e.name === 'QuotaExceededError' || FULL.test(e.message ?? '')) return true;
  return false;
}
