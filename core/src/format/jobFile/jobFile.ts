import { strFromU8, strToU8, unzipSync, type Zippable, zipSync } from 'fflate';
import {
  blobsNamed,
  blobsOf,
  checkHistory,
  checkJob,
  type History,
  type JobDocument,
  NO_HISTORY,
  upgradeHistory,
} from '../../job';
import { digest } from '../digest';
import { MOST_PICTURE_BYTES, type PictureMime, type SniffResult, sniffPicture } from '../sniff';

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
        | 'picture-refused'
        | 'not-a-job'
        | 'from-the-future';
    }
  | { reason: 'bad-field'; place: string };

export type JobFileResult =
  /** With each picture's kind, as its bytes tell it. */
  ({ ok: true; mimes: Map<string, PictureMime> } & PackedJob) | ({ ok: false } & JobFileFault);

/** Bounds on what is unpacked, bytes: more is a bomb or a mistake. */
export const JOB_FILE = { mostBytes: 1.5e9, mostUnpacked: 2e9, mostJson: 60e6, mostEntries: 200 } as const;

const ENTRY = /^(job\.json|history\.json|pictures\/[0-9a-f]{64})$/;
const END_RECORD = 22;
const DIGEST_LENGTH = 64;

/** Packs a job. Pictures are stored as they are: they are compressed already. */
export function writeJobFile({ job, history, blobs }: PackedJob): Uint8Array {
  for (const blob of blobsOf(job)) if (!blobs.has(blob)) throw new Error(`writeJobFile: blobs must hold ${blob}`);
  return packAsItIs(job, history, blobs);
}

/** Packs whatever is stored as a job, sound or not, so that nothing is out of reach: opening the file checks it. */
export function packAsItIs(job: unknown, history: unknown, blobs: ReadonlyMap<string, Uint8Array>): Uint8Array {
  const entries: Zippable = {
    'job.json': strToU8(JSON.stringify(job) ?? 'null'),
    'history.json': strToU8(JSON.stringify(history) ?? 'null'),
  };
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
  const listed = listEntries(bytes);
  if (listed !== 'good') return { ok: false, reason: listed };
  const texts = unpack(bytes, (name) => name.endsWith('.json'));
  const document = texts && parseJson(texts['job.json']);
  if (!texts || document === undefined) return { ok: false, reason: 'not-a-job-file' };
  const checked = checkJob(document);
  if (!checked.ok) return checked;
  const told = upgradeHistory(document, parseJson(texts['history.json']));
  const history = checkHistory(told, checked.job) ?? NO_HISTORY;
  const named = new Set(blobsNamed(checked.job, history).map((blob) => `pictures/${blob}`));
  const pictures = unpack(bytes, (name) => named.has(name));
  if (!pictures) return { ok: false, reason: 'not-a-job-file' };
  const blobs = new Map<string, Uint8Array>();
  const mimes = new Map<string, PictureMime>();
  for (const [name, data] of Object.entries(pictures)) {
    const blob = name.replace(/^pictures\//, '');
    if (digest(data) !== blob) continue;
    // A picture is judged by its bytes here as at every other door.
    const found = sniffPicture(data);
    if (!found.ok || !isAsStated(checked.job, blob, found)) {
      if (blobsOf(checked.job).includes(blob)) return { ok: false, reason: 'picture-refused' };
      continue;
    }
    blobs.set(blob, data);
    mimes.set(blob, found.mime);
  }
  // What only the history names may be missing: undoing then shows the job without those pixels.
  if (!blobsOf(checked.job).every((blob) => blobs.has(blob))) return { ok: false, reason: 'picture-missing' };
  return { ok: true, job: checked.job, history, blobs, mimes };
}

/** The job says of a picture what its bytes say: its kind, and its size, upright or not. */
function isAsStated({ pictures }: JobDocument, blob: string, found: Extract<SniffResult, { ok: true }>): boolean {
  const stated = pictures.flatMap((p) => [p, ...(p.before ? [p.before] : [])]).filter((file) => file.blob === blob);
  const [width, height] = [found.widthPx, found.heightPx];
  return stated.every(({ mime, facts: { widthPx, heightPx } }) => {
    const asStored = (widthPx === width && heightPx === height) || (widthPx === height && heightPx === width);
    // Of HEIC the largest image's size is told, of which the one shown may be a part.
    return mime === found.mime && (asStored || mime === 'image/heic');
  });
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

/**
 * Judges by the archive's directory alone whether its entries are those of a job and within bounds. Pictures are packed
 * already and lie in it as they are: none can grow when it is taken out.
 */
function listEntries(bytes: Uint8Array): 'good' | 'too-large' | 'not-a-job-file' {
  let total = 0;
  let count = 0;
  let fault: 'too-large' | 'not-a-job-file' | null = null;
  try {
    unzipSync(bytes, {
      filter({ name, size, originalSize, compression }) {
        total += originalSize;
        count += 1;
        const isText = name.endsWith('.json');
        if (!ENTRY.test(name) || (!isText && (compression !== 0 || size !== originalSize))) fault ??= 'not-a-job-file';
        const most = isText ? JOB_FILE.mostJson : MOST_PICTURE_BYTES;
        if (total > JOB_FILE.mostUnpacked || count > JOB_FILE.mostEntries || originalSize > most) fault = 'too-large';
        return false;
      },
    });
  } catch {
    return 'not-a-job-file';
  }
  return fault ?? 'good';
}

/** Takes out what is wanted, null where the archive does not hold; nothing grows past what the directory states. */
function unpack(bytes: Uint8Array, wanted: (name: string) => boolean): Record<string, Uint8Array> | null {
  try {
    return unzipSync(bytes, { filter: ({ name }) => wanted(name) });
  } catch {
    return null;
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
