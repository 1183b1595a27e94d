// npm run make -- JOB.moth --out part.svg|part.dxf|part.pdf [--view NAME] [--without-notes] [--sizes] [--date YYYY-MM-DD]
//   [--variant NAME] [--set width=84 ...]; or JOB.moth --list for its parameters and variants as JSON.
// Writes what Hand over writes, without a browser. A fault goes to the error output.
import { readFileSync, writeFileSync } from 'node:fs';
import { extname } from 'node:path';
import { parseArgs } from 'node:util';
import { PROFILE_FORMATS, type ProfileFormat, readJobFile, writeProfile } from '../core/src/format';
import { listParameters, makeProfile, withParameters } from '../core/src/script';

function stop(sentence: string): never {
  console.error(sentence);
  process.exit(1);
}

const HOW = 'Say which: npm run make -- JOB.moth --out part.svg (or .dxf, .pdf)';

const REFUSED = {
  'nothing-is-true': 'No picture of this job is true, so nothing has a size.',
  'nothing-is-traced': 'Nothing is traced that has a place.',
  'no-such-view': 'The job has no view of that name.',
};

const UNKNOWN = {
  'no-such-variant': (name: string) => `The job has no variant called ${name}.`,
  'no-such-parameter': (name: string) => `The job has no parameter called ${name}.`,
  'no-formula': (name: string) => `What is set for ${name} comes to no length.`,
};

/** What --set says: NAME=LENGTH, as often as it stands there. */
function readSet(all: readonly string[]): Record<string, string> {
  return Object.fromEntries(
    all.map((one) => {
      const at = one.indexOf('=');
      return at > 0
        ? [one.slice(0, at), one.slice(at + 1)]
        : stop(`--set is written as --set NAME=LENGTH, not ${one}.`);
    }),
  );
}

function readArguments() {
  try {
    const { values, positionals } = parseArgs({
      allowPositionals: true,
      options: {
        out: { type: 'string' },
        view: { type: 'string' },
        date: { type: 'string' },
        variant: { type: 'string' },
        set: { type: 'string', multiple: true, default: [] },
        list: { type: 'boolean', default: false },
        'without-notes': { type: 'boolean', default: false },
        sizes: { type: 'boolean', default: false },
      },
    });
    return { ...values, file: positionals.length === 1 ? positionals[0]! : stop(HOW) };
  } catch {
    return stop(HOW);
  }
}

function read(path: string): Uint8Array {
  try {
    return new Uint8Array(readFileSync(path));
  } catch {
    return stop(`${path} cannot be read.`);
  }
}

const { file, out, view, date, variant, set, list, sizes, 'without-notes': withoutNotes } = readArguments();
const format = (out ? extname(out).slice(1).toLowerCase() : '') as ProfileFormat;
if (!list && (!out || !PROFILE_FORMATS.includes(format))) stop(HOW);
if (date !== undefined && !/^\d{4}-\d{2}-\d{2}$/.test(date)) stop('A date is written as 2026-03-01.');
if (sizes && format !== 'pdf') stop('Sizes are shown on a printed sheet: --sizes goes with --out part.pdf.');
const opened = readJobFile(read(file));
if (!opened.ok) stop(`${file} cannot be opened as a job: ${opened.reason}.`);
if (list) {
  console.log(JSON.stringify(listParameters(opened.job), null, 1));
  process.exit(0);
}
const asked = withParameters(opened.job, { variant: variant ?? null, set: readSet(set) });
if (!asked.ok) stop(UNKNOWN[asked.reason](asked.name));
const chosen = view === undefined ? null : opened.job.pictures.flatMap((p) => p.views).find((v) => v.name === view);
if (chosen === undefined) stop(REFUSED['no-such-view']);
const made = makeProfile(asked.job, {
  date: date ?? new Date().toISOString().slice(0, 10),
  notes: !withoutNotes,
  sizes,
  view: chosen?.id ?? null,
});
if (!made.ok) stop(REFUSED[made.reason]);
if (made.leftOut.length) console.error(`Left out, as it has no place: ${made.leftOut.join(', ')}.`);
const bytes = await writeProfile(made.profile, format);
if (!bytes) stop(REFUSED['nothing-is-traced']);
writeFileSync(out as string, bytes);
