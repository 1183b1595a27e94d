import { type JobDocument, newJob, newPreparation, newTruingRecord, type Picture } from '@steady-moth/core/job';
import type { LengthUnit } from '@steady-moth/core/units';
import * as Comlink from 'comlink';
import { createJob, database, type NewBlob } from '../storage';
import { files, pixels } from '../workers';
import { newId } from './newId';
import { jobFileSentence, pictureSentence, saveSentence } from './sentences';
import { sayHeldPixels } from './usePixels';

/** What came of a file that was dropped, chosen or pasted. */
export type Brought = { ok: true; jobId: string } | { ok: false; sentence: string };

const JOB_FILE_NAME = /\.moth$/i;
/** Larger than any picture or job taken: not even read. */
const MOST_BYTES = 1.5e9;

/** Takes in any file: a picture starts a job, a job file is opened. Nothing is stored unless all of it is sound. */
export async function bringIn(
  file: File,
  unit: LengthUnit,
  progress: (share: number) => void,
  signal: AbortSignal,
): Promise<Brought> {
  if (file.size > MOST_BYTES) return { ok: false, sentence: `${file.name} is larger than 1.5 GB. It is not opened.` };
  const bytes = new Uint8Array(await file.arrayBuffer());
  if (JOB_FILE_NAME.test(file.name) || looksLikeZip(bytes)) return openJobFile(bytes, signal);
  const picture = await readPicture(file, bytes, progress, signal);
  if (!picture.ok) return picture;
  const job: JobDocument = {
    ...newJob(newId(), nameFrom(file.name), new Date().toISOString(), unit),
    pictures: [picture.picture],
  };
  return stored(job, [picture.blob]);
}

const looksLikeZip = (b: Uint8Array): boolean => b[0] === 0x50 && b[1] === 0x4b;

type PictureRead = { ok: true; picture: Picture; blob: NewBlob } | { ok: false; sentence: string };

/** Judges a picture by its bytes, decodes it once, and makes its record. */
async function readPicture(
  file: File,
  bytes: Uint8Array,
  progress: (share: number) => void,
  signal: AbortSignal,
): Promise<PictureRead> {
  const judged = await files.call((w) => w.judge(bytes), signal);
  if (!judged.ok) return { ok: false, sentence: pictureSentence(judged) };
  progress(0.2);
  const blob = new Blob([bytes as BlobPart], { type: judged.mime });
  sayHeldPixels(null);
  try {
    const [loaded, hash] = await Promise.all([
      pixels.call(
        (w) =>
          w.load(
            blob,
            Comlink.proxy((share: number) => progress(0.2 + 0.7 * share)),
          ),
        signal,
      ),
      files.call((w) => w.digest(bytes), signal),
    ]);
    // The screen that opens next needs the same pixels: they are not decoded twice.
    sayHeldPixels(hash);
    const facts = { ...judged.facts, widthPx: loaded.widthPx, heightPx: loaded.heightPx };
    const picture: Picture = {
      id: newId(),
      blob: hash,
      fileName: file.name.slice(0, 400),
      mime: judged.mime,
      facts,
      opacity: 1,
      preparation: newPreparation(),
      truing: newTruingRecord(),
    };
    return { ok: true, picture, blob: { hash, bytes: blob, thumb: loaded.thumb } };
  } catch (error) {
    if (signal.aborted) throw error;
    return { ok: false, sentence: pictureSentence({ reason: 'broken' }) };
  }
}

async function openJobFile(bytes: Uint8Array, signal: AbortSignal): Promise<Brought> {
  const opened = await files.call((w) => w.unpackJob(bytes), signal);
  if (!opened.ok) return { ok: false, sentence: jobFileSentence(opened) };
  const taken = await database.jobs.get(opened.job.id);
  // A job that is here already stays as it is: the opened one hangs beside it.
  const job = taken ? { ...opened.job, id: newId(), name: `${opened.job.name} (opened)`.slice(0, 200) } : opened.job;
  const blobs = [...opened.blobs].map(([hash, data]) => ({
    hash,
    bytes: new Blob([data as BlobPart], { type: job.pictures.find((p) => p.blob === hash)?.mime ?? 'image/jpeg' }),
    thumb: null,
  }));
  return stored(job, blobs, opened.history);
}

async function stored(job: JobDocument, blobs: NewBlob[], history?: Parameters<typeof createJob>[3]): Promise<Brought> {
  const saved = await createJob(database, job, blobs, history);
  return saved.ok ? { ok: true, jobId: job.id } : { ok: false, sentence: saveSentence(saved.reason) };
}

function nameFrom(fileName: string): string {
  const plain = fileName
    .replace(/\.[^.]*$/, '')
    .replace(/[_-]+/g, ' ')
    .trim();
  return (plain ? plain[0].toUpperCase() + plain.slice(1) : 'New job').slice(0, 200);
}
