import { strFromU8, strToU8, unzipSync, type Zippable, zipSync } from 'fflate';
import { blobsOf, checkHistory, checkJob, type History, type JobDocument, NO_HISTORY } from '../../job';
import { digest } from '../digest';

/*
 * A job file is a zip archive: job.json, history.json, and each picture's own bytes, those of the undo history as well, under pictures/ by their SHA-256.
 * The archive's comment holds the SHA-256 of everything before it, so that a single changed byte is noticed.
 */

/** What is in a job file. */
export interface PackedJob {
  job: JobDocument;
  history: History;
  /** Picture bytes by their SHA-256 in hexadecimal. */
  blobs: Map<string, Uint8Array>;
}

export type JobFileFault =
  | {
      reason:
        | 'empty'
        | 'not-a-job-file'
        | 'changed'
        | 'too-large'
        | 'picture-missing'
        | 'not-a-job'
        | 'from-the-future';
    }
  | { reason: 'bad-field'; place: string };

export type JobFileResult = ({ ok: true } & PackedJob) | ({ ok: false } & JobFileFault);

/** Bounds on what is unpacked, bytes: more is a bomb or a mistake. */
export const JOB_FILE = { mostBytes: 1.5e9, mostUnpacked: 2e9, mostJson: 60e6, mostEntries: 200 } as const;

const ENTRY = /^(job\.json|history\.json|pictures\/[0-9a-f]{64})$/;
const END_RECORD = 22;
const DIGEST_LENGTH = 64;

/** Packs a job. Pictures are stored as they are: they are compressed already. */
export function writeJobFile({ job, history, blobs }: PackedJob): Uint8Array {
  const entries: Zippable = {
    'job.json': strToU8(JSON.stringify(job)),
    'history.json': strToU8(JSON.stringify(history)),
  };
  for (const blob of blobsOf(job)) if (!blobs.has(blob)) throw new Error(`writeJobFile: blobs must hold ${blob}`);
  for (const [blob, bytes] of blobs) entries[`pictures/${blob}`] = [bytes, { level: 0 }];
  // A fixed date, so that the same job gives the same bytes.
  const zip = zipSync(entries, { mtime: new Date(1980, 0, 2) });
  const sealed = new Uint8Array(zip.length + DIGEST_LENGTH);
  sealed.set(zip);
  sealed[zip.length - 2] = DIGEST_LENGTH;
  sealed.set(strToU8(digest(sealed.subarray(0, zip.length))), zip.length);
  return sealed;
}

/** Unpacks and checks a job file from anywhere. Nothing of a faulty file is given out. */
export function readJobFile(bytes: Uint8Array): JobFileResult {
  if (bytes.length === 0) return { ok: false, reason: 'empty' };
  if (bytes.length > JOB_FILE.mostBytes) return { ok: false, reason: 'too-large' };
  if (!(bytes[0] === 0x50 && bytes[1] === 0x4b) || bytes.length < END_RECORD + DIGEST_LENGTH)
    return { ok: false, reason: 'not-a-job-file' };
  const seal = sealOf(bytes);
  if (seal !== 'whole') return { ok: false, reason: seal };
  const entries = unpack(bytes);
  if (typeof entries === 'string') return { ok: false, reason: entries };
  const document = parseJson(entries['job.json']);
  if (document === undefined) return { ok: false, reason: 'not-a-job-file' };
  const checked = checkJob(document);
  if (!checked.ok) return checked;
  const blobs = new Map<string, Uint8Array>();
  for (const [name, data] of Object.entries(entries)) {
    const blob = name.replace(/^pictures\//, '');
    if (blob !== name && digest(data) === blob) blobs.set(blob, data);
  }
  // What only the history names may be missing: undoing then shows the job without those pixels.
  if (!blobsOf(checked.job).every((blob) => blobs.has(blob))) return { ok: false, reason: 'picture-missing' };
  const history = checkHistory(parseJson(entries['history.json']), checked.job) ?? NO_HISTORY;
  return { ok: true, job: checked.job, history, blobs };
}

/** Whether the comment seals the bytes before it. */
function sealOf(bytes: Uint8Array): 'whole' | 'changed' | 'not-a-job-file' {
  const end = bytes.length - DIGEST_LENGTH;
  const at = end - END_RECORD;
  const comment = strFromU8(bytes.subarray(end), true);
  const isEnd = bytes[at] === 0x50 && bytes[at + 1] === 0x4b && bytes[at + 2] === 5 && bytes[at + 3] === 6;
  const looksSealed = /^[0-9a-f]{60,}/.test(comment) || isEnd;
  if (!looksSealed) return 'not-a-job-file';
  return isEnd && digest(bytes.subarray(0, end)) === comment ? 'whole' : 'changed';
}

/** Sizes are judged by the directory before anything is unpacked, and nothing grows past what it stated. */
function unpack(bytes: Uint8Array): Record<string, Uint8Array> | 'too-large' | 'not-a-job-file' {
  let total = 0;
  let count = 0;
  let fault: 'too-large' | 'not-a-job-file' | null = null;
  try {
    const entries = unzipSync(bytes, {
      filter({ name, originalSize }) {
        total += originalSize;
        count += 1;
        if (!ENTRY.test(name)) fault ??= 'not-a-job-file';
        if (
          total > JOB_FILE.mostUnpacked ||
          count > JOB_FILE.mostEntries ||
          (name.endsWith('.json') && originalSize > JOB_FILE.mostJson)
        )
          fault = 'too-large';
        return fault === null;
      },
    });
    return fault ?? entries;
  } catch {
    return 'not-a-job-file';
  }
}

function parseJson(bytes: Uint8Array | undefined): unknown {
  if (!bytes) return undefined;
  try {
    return JSON.parse(strFromU8(bytes));
  } catch {
    return undefined;
  }
}
