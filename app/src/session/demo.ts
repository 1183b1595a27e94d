import { arrivedPicture, newJob, type PictureKind } from '@steady-moth/core/job';
import { files } from '../compute';
import { newId } from './newId';
import { createJob, database } from './storage';

const NOTE = 'demo-hung';

/** A demo picture as the server lists it. */
interface DemoEntry {
  file: string;
  thumb: string;
  job: string;
  kind: PictureKind;
}

let hanging: Promise<void> | null = null;

/** Hangs the demo jobs on the rack, each once in the life of this browser's store: whoever deletes one is rid of it. */
export function hangDemo(): Promise<void> {
  hanging ??= hang().catch(() => {
    hanging = null;
  });
  return hanging;
}

async function hang(): Promise<void> {
  const answer = await fetch('/demo/index.json');
  if (!answer.ok) return;
  const entries = (await answer.json()) as DemoEntry[];
  const note = (await database.notes.get(NOTE))?.value;
  // Before there were several, the note held the one job's name.
  const hung = new Set<string>(Array.isArray(note) ? note : note ? ['latch-plate.jpg'] : []);
  const jobs = new Map<string, DemoEntry[]>();
  for (const entry of entries) jobs.set(entry.job, [...(jobs.get(entry.job) ?? []), entry]);
  // Each a moment older than the one before it: the first hangs first, and none that follows moves it.
  let at = Date.now();
  for (const [name, pictures] of jobs) {
    at -= 1;
    if (hung.has(pictures[0]!.file) || !(await hangOne(name, pictures, at))) continue;
    hung.add(pictures[0]!.file);
    await database.notes.put({ key: NOTE, value: [...hung] });
  }
}

async function hangOne(name: string, entries: readonly DemoEntry[], at: number): Promise<boolean> {
  const job = newJob(newId(), name, new Date(at).toISOString(), 'mm');
  const blobs: { hash: string; bytes: Blob; thumb: Blob }[] = [];
  for (const { file, thumb, kind } of entries) {
    const [picture, small] = (await Promise.all([file, thumb].map((path) => fetch(`/demo/${path}`)))) as [
      Response,
      Response,
    ];
    if (!picture.ok || !small.ok) return false;
    const bytes = new Uint8Array(await picture.arrayBuffer());
    const judged = await files.call((w) => w.judge(bytes));
    if (!judged.ok) return false;
    const blob = await files.call((w) => w.digest(bytes));
    const { facts, mime } = judged;
    job.pictures.push(arrivedPicture(newId(), { blob, fileName: file, mime, facts }, kind));
    blobs.push({ hash: blob, bytes: new Blob([bytes], { type: mime }), thumb: await small.blob() });
  }
  return (await createJob(database, job, blobs, undefined, at)).ok;
}

/** A demo job that is finished, as the server lists it. */
export interface FinishedDemo {
  file: string;
  job: string;
}

/** The finished demo jobs that the server offers; an empty list where it offers none. */
export async function finishedDemos(): Promise<readonly FinishedDemo[]> {
  const answer = await fetch('/demo/jobs/index.json').catch(() => null);
  if (!answer?.ok) return [];
  const listed: unknown = await answer.json().catch(() => []);
  if (!Array.isArray(listed)) return [];
  return listed.filter((one): one is FinishedDemo => typeof one?.file === 'string' && typeof one?.job === 'string');
}

/** The job file of a finished demo job, as if somebody had dropped it here; null where the server does not have it. */
export async function finishedDemo({ file }: FinishedDemo): Promise<File | null> {
  const answer = await fetch(`/demo/jobs/${encodeURIComponent(file)}`).catch(() => null);
  return answer?.ok ? new File([await answer.blob()], file) : null;
}
