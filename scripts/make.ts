// npm run make -- JOB.moth --out part.svg|part.dxf|part.pdf [--view NAME] [--without-notes] [--sizes] [--date YYYY-MM-DD]
//   [--variant NAME] [--set width=84 ...]; or JOB.moth --list for its parameters and variants as JSON;
// npm run make -- JOB.moth --out part.step|part.stl|part.3mf [--tolerance MM] for its body, and with --all-variants --out
//   parts.zip for every variant in all three;
// npm run make -- JOB.moth --out part.svg (or .dxf, .pdf) --section z=1.5 for a section of its body, --seen-from
//   top|front|right|back|left|bottom for what is seen of it;
// npm run make -- JOB.moth --out part.pdf --sheet for all views with their sizes and a title block on one sheet;
// npm run make -- JOB.moth --out part.pdf --tiled [--paper A4|A3|Letter|Legal] [--margin MM] [--overlap MM] over several pages.
// Writes what Hand over writes, without a browser. A fault goes to the error output.
import { readFileSync, writeFileSync } from 'node:fs';
import { extname } from 'node:path';
import { parseArgs } from 'node:util';
import {
  PAPERS,
  type Paper,
  PROFILE_FORMATS,
  type ProfileFormat,
  readJobFile,
  TILING,
  type Tiling,
  writeProfile,
  writeSheetPdf,
  writeTiledPdf,
} from '../core/src/format';
import { BODY_FORMATS, type BodyFormat } from '../core/src/format/body';
import {
  listParameters,
  makeBody,
  makeDrawing,
  makeProfile,
  makeSheet,
  makeVariants,
  withParameters,
} from '../core/src/script';
import { VIEW_SIDES, type ViewSide } from '../core/src/solid';
import type { SectionAt } from '../core/src/solid/kernel';
import { openKernel } from './openKernel';

function stop(sentence: string): never {
  console.error(sentence);
  process.exit(1);
}

const HOW = 'Say which: npm run make -- JOB.moth --out part.svg (or .dxf, .pdf, .step, .stl, .3mf)';

const REFUSED = {
  'nothing-is-true': 'No picture of this job is true, so nothing has a size.',
  'nothing-is-traced': 'Nothing is traced that has a place.',
  'no-such-view': 'The job has no view of that name.',
  'no-body': 'The job has no body: nothing was extruded or revolved in Solid.',
  'nothing-made': 'None of its features could be made.',
  tolerance: 'A tolerance lies between 0.001 and 1 mm.',
  'too-many': 'That would be more than a million triangles: a coarser tolerance does.',
  'not-closed': 'The triangles leave a gap; try another tolerance.',
  'not-written': 'The body could not be written.',
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
        tolerance: { type: 'string', default: '0.05' },
        section: { type: 'string' },
        'seen-from': { type: 'string' },
        sheet: { type: 'boolean', default: false },
        tiled: { type: 'boolean', default: false },
        paper: { type: 'string', default: 'A4' },
        margin: { type: 'string', default: '8' },
        overlap: { type: 'string', default: '12' },
        'all-variants': { type: 'boolean', default: false },
      },
    });
    return { ...values, file: positionals.length === 1 ? positionals[0]! : stop(HOW) };
  } catch {
    return stop(HOW);
  }
}

/** Where a section is: the axis that it lies across, and its place. */
function readSection(typed: string): SectionAt {
  if (!PROFILE_FORMATS.includes(format)) stop('A section is drawn as SVG, DXF or PDF.');
  const [across, at = ''] = typed.split('=');
  const axis = (['x', 'y', 'z'] as const).find((a) => a === across);
  return axis && at.trim() !== '' && Number.isFinite(Number(at))
    ? { across: axis, atMm: Number(at) }
    : stop('A section is written as --section z=1.5, mm.');
}

/** From which side a body is drawn. */
function readSide(typed: string): { side: ViewSide } {
  if (!PROFILE_FORMATS.includes(format)) stop('What is seen of a body is drawn as SVG, DXF or PDF.');
  const side = VIEW_SIDES.find((s) => s === typed);
  return side ? { side } : stop(`A body is seen from ${VIEW_SIDES.join(', ')}.`);
}

function sayFaults(faults: readonly { feature: string; reason: string; detail: string | null }[]): void {
  for (const { feature, reason, detail } of faults) {
    const name = opened.ok ? opened.job.part.features.find((f) => f.id === feature)?.name : null;
    console.error(`${name ?? feature} is left out: ${[reason, detail].filter(Boolean).join(', ')}.`);
  }
}

function readTiling(): Tiling {
  if (format !== 'pdf') stop('Pages are printed: --tiled goes with --out part.pdf.');
  const [marginMm, overlapMm] = [Number(margin), Number(overlap)];
  const known = Object.keys(PAPERS).find((p) => p.toLowerCase() === paper.toLowerCase()) as Paper | undefined;
  if (!known) stop(`Papers are ${Object.keys(PAPERS).join(', ')}.`);
  const within = (mm: number, { least, most }: { least: number; most: number }) => mm >= least && mm <= most;
  if (!within(marginMm, TILING.margin) || !within(overlapMm, TILING.overlap))
    stop('A margin lies between 3 and 30 mm, an overlap between 5 and 60 mm.');
  return { paper: known, marginMm, overlapMm };
}

function read(path: string): Uint8Array {
  try {
    return new Uint8Array(readFileSync(path));
  } catch {
    return stop(`${path} cannot be read.`);
  }
}

const {
  'all-variants': allVariants,
  tolerance,
  section,
  'seen-from': seenFrom,
  sheet,
  tiled,
  paper,
  margin,
  overlap,
  file,
  out,
  view,
  date,
  variant,
  set,
  list,
  sizes,
  'without-notes': withoutNotes,
} = readArguments();
const ending = out ? extname(out).slice(1).toLowerCase() : '';
const isBody = (BODY_FORMATS as readonly string[]).includes(ending);
const isZip = allVariants && ending === 'zip';
const format = ending as ProfileFormat;
if (allVariants && !isZip) stop('All variants go into one archive: --all-variants goes with --out parts.zip.');
if (!list && (!out || !(PROFILE_FORMATS.includes(format) || isBody || isZip))) stop(HOW);
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
const tiling = tiled ? readTiling() : null;
const drawn = section !== undefined ? readSection(section) : seenFrom !== undefined ? readSide(seenFrom) : null;
const today = date ?? new Date().toISOString().slice(0, 10);
if (isBody || isZip) {
  const oc = await openKernel();
  const options = { date: today, toleranceMm: Number(tolerance) };
  if (isZip) {
    const made = makeVariants(oc, opened.job, options);
    if (!made.ok) stop(REFUSED[made.reason]);
    if (made.leftOut.length) console.error(`Left out, as it could not be made: ${made.leftOut.join(', ')}.`);
    writeFileSync(out as string, made.bytes);
  } else {
    const made = makeBody(oc, asked.job, ending as BodyFormat, options);
    sayFaults(made.faults);
    if (!made.ok) stop(REFUSED[made.reason]);
    const { triangles, deviationMm } = made.file;
    if (triangles !== null)
      console.error(`${triangles} triangles, at most ${(deviationMm ?? 0).toFixed(4)} mm off the surface.`);
    writeFileSync(out as string, made.file.bytes);
  }
  process.exit(0);
}
if (drawn) {
  const made = makeDrawing(await openKernel(), asked.job, drawn, today);
  sayFaults(made.faults);
  if (!made.ok) stop(REFUSED[made.reason]);
  const bytes = made.profile && (await writeProfile(made.profile, format));
  if (!bytes) stop('The section meets nothing of the body there.');
  writeFileSync(out as string, bytes);
  process.exit(0);
}
if (sheet) {
  if (format !== 'pdf') stop('A drawing sheet is printed: --sheet goes with --out part.pdf.');
  const made = makeSheet(asked.job, today);
  if (!made.ok) stop(REFUSED[made.reason]);
  writeFileSync(out as string, (await writeSheetPdf(made.sheet))!);
  process.exit(0);
}
const chosen = view === undefined ? null : opened.job.pictures.flatMap((p) => p.views).find((v) => v.name === view);
if (chosen === undefined) stop(REFUSED['no-such-view']);
const made = makeProfile(asked.job, {
  date: today,
  notes: !withoutNotes,
  sizes,
  view: chosen?.id ?? null,
});
if (!made.ok) stop(REFUSED[made.reason]);
if (made.leftOut.length) console.error(`Left out, as it has no place: ${made.leftOut.join(', ')}.`);
const bytes = tiling ? await writeTiledPdf(made.profile, tiling) : await writeProfile(made.profile, format);
if (!bytes && tiling) stop('There is no room on this paper, or it would take more than 400 pages.');
if (!bytes) stop(REFUSED['nothing-is-traced']);
writeFileSync(out as string, bytes);
