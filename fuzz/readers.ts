import Ajv from 'ajv';
import { getDocument, VerbosityLevel } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { STEPS } from '../app/src/steps';
import { calibrate, planeMap } from '../core/src/calibration';
import { readJobFile } from '../core/src/format/jobFile';
import { layOutPage, OUTLINES, type OutlineResult, readDxf, readSvg } from '../core/src/format/outlines';
import { decodeHeic, decodeTiff, readFacts, sniffPicture } from '../core/src/format/picture';
import {
  addPicture,
  blobsOf,
  calibrationInput,
  checkHistory,
  checkJob,
  datumOf,
  type JobDocument,
  MOST,
  measurePath,
  NO_HISTORY,
  newJob,
  newPicture,
  type PictureFile,
  redo,
  undo,
  upgradeHistory,
} from '../core/src/job';
import { diff } from '../core/src/job/document/diff';
import { sampleJob9 } from '../core/src/job/sample.test-data';
import type { Random } from '../core/src/numeric';
import { type MeasureRequest, measurePicture, REQUEST_SCHEMA } from '../core/src/script';
import { pathsIn, sketchesOf } from '../core/src/sketch';
import { LONGEST_LENGTH_MM, parseLength } from '../core/src/units';
import { mutateBytes, mutateGently, mutateJson, mutateNumbers, mutateText } from './mutate';
import {
  dxfs,
  finishedJobs,
  jobFile,
  jobState,
  LENGTHS,
  packed,
  pdf,
  pictures,
  readHeic,
  requests,
  SVGS,
  sealAgain,
} from './samples';

/** A reader set upon with changed inputs. */
export interface Reader {
  name: string;
  /** How often it has its turn, against the others. */
  share: number;
  /** Longer than this over one input is a hang, ms; the usual bound where it is left out. */
  mostMs?: number;
  /**
   * Reads one changed input. 'refused' or 'taken'; throws where what came out is nonsense, or what was thrown is no
   * refusal of the reader's own.
   */
  read(random: Random): Promise<'refused' | 'taken'>;
}

export async function makeReaders(): Promise<Reader[]> {
  const shots = await pictures();
  const heic = readHeic();
  const drawings = dxfs();
  const file = await jobFile();
  const { state, picture } = await jobState();
  const document: unknown = JSON.parse(JSON.stringify(state.job));
  // The finished ones take their time.
  const documents: unknown[] = [
    document,
    document,
    document,
    document,
    ...finishedJobs().map((job) => JSON.parse(JSON.stringify(job))),
  ];
  const history: unknown = JSON.parse(JSON.stringify(state.history));
  const oldDocument: unknown = JSON.parse(JSON.stringify(sampleJob9()));
  const oldHistory = historyOf9(oldDocument);
  const asked = requests();
  const page = await pdf();
  // Its reader loads half of itself with the first document: that is not the first changed input's time.
  const warmed = getDocument({ data: page.slice(), ...QUIETLY });
  await warmed.promise;
  await warmed.destroy();
  const fits = new Ajv({ strict: true }).compile(REQUEST_SCHEMA);
  return [
    {
      name: 'picture',
      share: 30,
      async read(random) {
        const bytes = mutateBytes(random, one(random, shots), one(random, shots));
        const found = sniffPicture(bytes);
        if (!found.ok) return 'refused';
        const { facts } = await readFacts(bytes, found.widthPx, found.heightPx);
        must(checkJob(jobWith({ blob: 'a'.repeat(64), fileName: '', mime: found.mime, facts })).ok, 'facts fit a job');
        if (found.mime !== 'image/tiff') return 'taken';
        const pixels = await orRefused(() => decodeTiff(bytes), /^decodeTiff: /);
        if (!pixels) return 'refused';
        must(pixels.data.length === 4 * pixels.width * pixels.height, 'as many pixels as stated');
        return 'taken';
      },
    },
    {
      name: 'heic',
      share: 1,
      async read(random) {
        const pixels = await orRefused(() => decodeHeic(mutateBytes(random, heic, shots[0]!)), /^decodeHeic: /);
        if (!pixels) return 'refused';
        must(pixels.width * pixels.height > 0 && pixels.width * pixels.height <= MOST.pixels, 'a size');
        return 'taken';
      },
    },
    {
      // As the application opens a document, but for the canvas, which only a browser has.
      name: 'pdf',
      share: 3,
      async read(random) {
        const task = getDocument({ data: mutateBytes(random, page, shots[0]!), ...QUIETLY });
        try {
          const document = await task.promise;
          must(document.numPages >= 1, 'a page');
          const first = await document.getPage(1);
          const { width, height } = first.getViewport({ scale: 1 });
          must(width > 0 && height > 0 && isBounded([width, height]), 'a page of some size');
          await first.getOperatorList();
          return 'taken';
        } catch (error) {
          // Whatever the reader of the other house throws is told as a document that cannot be read.
          if (error instanceof Error && error.message.startsWith('accepted nonsense')) throw error;
          return 'refused';
        } finally {
          await task.destroy();
        }
      },
    },
    outlines('svg', 20, (random) => readSvg(changed(random, SVGS))),
    outlines('dxf', 20, (random) => readDxf(changed(random, drawings))),
    {
      name: 'job file',
      share: 8,
      async read(random) {
        // Packed anew with another document in it, or changed as a file.
        const job = random() < 0.5 ? (mutateGently(random, document) as JobDocument) : null;
        const bytes = job ? packed({ job, history: NO_HISTORY }, picture) : mutateBytes(random, file, shots[0]!);
        const read = readJobFile(job || random() < 0.7 ? sealAgain(bytes) : bytes);
        if (!read.ok) return 'refused';
        must(checkJob(read.job).ok, 'a sound job');
        must(
          blobsOf(read.job).every((blob) => read.blobs.has(blob)),
          'its pictures are there',
        );
        return 'taken';
      },
    },
    {
      name: 'document',
      share: 14,
      async read(random) {
        const own = one(random, documents);
        const checked = checkJob(random() < 0.5 ? mutateGently(random, own) : mutateJson(random, own));
        if (!checked.ok) return 'refused';
        useJob(checked.job);
        return 'taken';
      },
    },
    {
      name: 'history',
      share: 6,
      async read(random) {
        const told = random() < 0.3 ? mutateGently(random, history) : mutateJson(random, history);
        const checked = checkHistory(told, state.job);
        if (!checked) return 'refused';
        let back = { job: state.job, history: checked };
        while (back.history.past.length) back = undo(back);
        while (back.history.future.length) back = redo(back);
        must(checkJob(back.job).ok, 'a sound job behind all changes');
        return 'taken';
      },
    },
    {
      name: 'old job',
      share: 10,
      async read(random) {
        const old = random() < 0.5 ? mutateGently(random, oldDocument) : mutateJson(random, oldDocument);
        const told = random() < 0.5 ? mutateJson(random, oldHistory) : oldHistory;
        const checked = checkJob(old);
        if (!checked.ok) return 'refused';
        useJob(checked.job);
        const upgraded = checkHistory(upgradeHistory(old, told), checked.job);
        if (!upgraded) return 'refused';
        let back = { job: checked.job, history: upgraded };
        while (back.history.past.length) back = undo(back);
        must(checkJob(back.job).ok, 'a sound job behind all changes');
        return 'taken';
      },
    },
    {
      name: 'length',
      share: 10,
      async read(random) {
        const read = parseLength(changed(random, LENGTHS), 'mm');
        if (!read.ok) return 'refused';
        must(read.mm > 0 && read.mm <= LONGEST_LENGTH_MM, 'a length');
        must(read.plusMinusMm === null || (read.plusMinusMm >= 0 && read.plusMinusMm < read.mm), 'its ±');
        return 'taken';
      },
    },
    {
      name: 'request',
      share: 6,
      // An estimate, and one more for each reference that is held against the others: all of them bounded.
      mostMs: 10_000,
      async read(random) {
        const own = one(random, asked);
        const request = random() < 0.4 ? mutateGently(random, own) : mutateJson(random, own);
        if (!fits(request)) return 'refused';
        const measured = measurePicture(request as unknown as MeasureRequest, FACTS, null);
        if (!measured.ok) return 'refused';
        must(isBounded(measured.answer), 'an answer without an endless number');
        return 'taken';
      },
    },
  ];
}

/** One of some texts, its numbers changed or all kinds of things. */
function changed(random: Random, texts: readonly string[]): string {
  const own = one(random, texts);
  return random() < 0.4 ? mutateNumbers(random, own) : mutateText(random, own, one(random, texts));
}

const QUIETLY = { disableFontFace: true, isEvalSupported: false, enableXfa: false, verbosity: VerbosityLevel.ERRORS };

const FACTS = { widthPx: 4032, heightPx: 3024, focal35Mm: 27, focalMm: 5.6, doubts: [], resolution: null };

function outlines(name: string, share: number, read: (random: Random) => OutlineResult): Reader {
  return {
    name,
    share,
    async read(random) {
      const found = read(random);
      if (!found.ok) return 'refused';
      must(found.outlines.forms.length <= OUTLINES.mostForms, 'not too many');
      const page = layOutPage(found.outlines);
      if (!page) return 'refused';
      const file: PictureFile = {
        blob: 'a'.repeat(64),
        fileName: '',
        mime: 'image/png',
        facts: { ...FACTS, widthPx: page.widthPx, heightPx: page.heightPx },
      };
      const job = newJob('job', 'x', '', 'mm');
      addPicture(newPicture('pic', file, 'drawing'), page.sketch).recipe(job);
      const checked = checkJob(JSON.parse(JSON.stringify(job)));
      must(checked.ok, `outlines fit a job${checked.ok || !('place' in checked) ? '' : `: ${checked.place}`}`);
      return 'taken';
    },
  };
}

/** All that the application does with a job that it opened. */
function useJob(job: JobDocument): void {
  for (const step of STEPS) step.stateOf(job);
  for (const picture of job.pictures) {
    const calibrated = calibrate(calibrationInput(picture), { draws: 0 });
    if (!calibrated.ok) continue;
    const map = planeMap(calibrated.calibration, datumOf(picture), 'face', { uPx: 32, vPx: 24 });
    must(isBounded([...Object.values(map)]), 'a finite map');
    for (const sketch of sketchesOf(job.part))
      for (const path of pathsIn(sketch)) measurePath(sketch, path, calibrated.calibration, picture.calibration);
  }
}

const one = <T>(random: Random, list: readonly T[]): T =>
  list[Math.min(list.length - 1, Math.floor(random() * list.length))]!;

function jobWith(file: PictureFile): unknown {
  const job = newJob('job', 'x', '', 'mm');
  job.pictures.push(newPicture('pic', file, 'photo'));
  return JSON.parse(JSON.stringify(job));
}

/** What came out, or null where the reader refused in its own words; anything else thrown goes on. */
async function orRefused<T>(read: () => T | Promise<T>, own: RegExp): Promise<T | null> {
  try {
    return await read();
  } catch (error) {
    if (error instanceof Error && own.test(error.message)) return null;
    throw error;
  }
}

function must(holds: boolean, what: string): void {
  if (!holds) throw new Error(`accepted nonsense: ${what}`);
}

function isBounded(value: unknown): boolean {
  if (typeof value === 'number') return Number.isFinite(value);
  if (ArrayBuffer.isView(value)) return [...(value as Float64Array)].every(Number.isFinite);
  if (typeof value === 'object' && value !== null) return Object.values(value).every(isBounded);
  return true;
}

/** A history of a document of version 9, whose only change moved the first point of it. */
function historyOf9(document: unknown): unknown {
  const before = JSON.parse(JSON.stringify(document));
  before.part.points.a.uPx -= 10;
  const change = { label: 'move a point', patches: diff(before, document), inverse: diff(document, before) };
  return { past: [change], future: [] };
}
