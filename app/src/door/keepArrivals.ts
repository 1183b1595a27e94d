import { addPicture, arrivedPicture, type JobAction, type JobDocument, newJob, together } from '@steady-moth/core/job';
import type { LengthUnit } from '@steady-moth/core/units';
import { newId } from '../session/newId';
import { keepThumb } from '../session/pixelsStore';
import { createSentence } from '../session/sentences';
import { askToKeep, createJob, database, type NewBlob } from '../session/storage';
import type { ArrivedPicture } from './arrival';

/** Starts a job with these pictures. */
export async function startJob(
  name: string,
  arrived: readonly ArrivedPicture[],
  unit: LengthUnit,
): Promise<{ ok: true; jobId: string } | { ok: false; sentence: string }> {
  const job: JobDocument = newJob(newId(), nameFrom(name), new Date().toISOString(), unit);
  const { action, blobs } = joining(arrived);
  action.recipe(job);
  const saved = await createJob(database, job, blobs);
  void askToKeep();
  if (saved.ok) for (const { hash } of blobs) void keepThumb(hash);
  return saved.ok ? { ok: true, jobId: job.id } : { ok: false, sentence: createSentence(saved.reason) };
}

/** The one change that adds pictures to a job, the bytes that go with it, and the name of the last picture. */
export function joining(arrived: readonly ArrivedPicture[]): { action: JobAction; blobs: NewBlob[]; last: string } {
  const pictures = arrived.map((a) => arrivedPicture(newId(), a.file, a.kind, a.zero));
  return {
    action: together(
      arrived.length > 1 ? 'bring in pictures' : 'bring in a picture',
      ...pictures.map((picture, k) => addPicture(picture, arrived[k]!.outlines)),
    ),
    blobs: arrived.map((a) => a.blob),
    last: pictures.at(-1)?.id ?? '',
  };
}

function nameFrom(fileName: string): string {
  const plain = fileName
    .replace(/\.[^.]*$/, '')
    .replace(/[_-]+/g, ' ')
    .trim();
  return (plain ? plain[0]!.toUpperCase() + plain.slice(1) : 'New job').slice(0, 200);
}
