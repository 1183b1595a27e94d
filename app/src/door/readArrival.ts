import { jobFileSentence } from '@steady-moth/core/say';
import { files } from '../compute';
import { newId } from '../session/newId';
import { createSentence } from '../session/sentences';
import { askToKeep, createJob, database, type NewBlob } from '../session/storage';
import type { Arrival } from './arrival';
import { readOutlines } from './readOutlines';
import { readPicture } from './readPicture';

const JOB_FILE_NAME = /\.moth$/i;
/** Larger than any picture or job taken: not even read. */
const MOST_BYTES = 1.5e9;

/** Reads any file by what it holds, not by its name. Nothing is stored unless all of it is sound. */
export async function readArrival(
  file: File,
  progress: (share: number) => void,
  signal: AbortSignal,
): Promise<Arrival> {
  if (file.size > MOST_BYTES) return { ok: false, sentence: `${file.name} is larger than 1.5 GB. It is not opened.` };
  const bytes = new Uint8Array(await file.arrayBuffer());
  const kind = kindOf(bytes, file.name);
  if (kind === 'job') return openJobFile(bytes, signal);
  if (kind === 'pages') return { ok: true, kind: 'pages', name: file.name, bytes };
  if (kind === 'svg' || kind === 'dxf') return readOutlines(kind, file.name, bytes, progress, signal);
  return readPicture(file.name, bytes, progress, signal);
}

/** Bytes of the beginning in which a document says what it is. */
const HEAD_BYTES = 4096;

function kindOf(bytes: Uint8Array, name: string): 'job' | 'pages' | 'svg' | 'dxf' | 'picture' {
  if (JOB_FILE_NAME.test(name) || (bytes[0] === 0x50 && bytes[1] === 0x4b)) return 'job';
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, HEAD_BYTES));
  if (head.slice(0, 1024).includes('%PDF-')) return 'pages';
  if (/^\s*(\u00ef\u00bb\u00bf)?\s*<[?!a-z]/i.test(head) && (/<([a-z]+:)?svg[\s>]/i.test(head) || /\.svg$/i.test(name)))
    return 'svg';
  if (/^\s*(999[\s\S]*?)?0\s*\r?\n\s*SECTION\b/.test(head) || /\.dxf$/i.test(name)) return 'dxf';
  return 'picture';
}

async function openJobFile(bytes: Uint8Array, signal: AbortSignal): Promise<Arrival> {
  const opened = await files.call((w) => w.unpackJob(bytes), { signal, endOnAbort: true, silentMs: 120_000 });
  if (!opened.ok) return { ok: false, sentence: jobFileSentence(opened) };
  const taken = await database.jobs.get(opened.job.id);
  // A job that is here already stays as it is: the opened one hangs beside it.
  const job = taken ? { ...opened.job, id: newId(), name: `${opened.job.name} (opened)`.slice(0, 200) } : opened.job;
  const blobs: NewBlob[] = [...opened.blobs].map(([hash, data]) => ({
    hash,
    bytes: new Blob([data as BlobPart], { type: opened.mimes.get(hash) }),
    thumb: null,
  }));
  const saved = await createJob(database, job, blobs, opened.history);
  void askToKeep();
  return saved.ok ? { ok: true, kind: 'job', jobId: job.id } : { ok: false, sentence: createSentence(saved.reason) };
}
