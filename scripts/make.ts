// npm run make -- JOB.moth --out part.svg|part.dxf|part.pdf [--view NAME] [--without-notes] [--sizes] [--date YYYY-MM-DD]
//   [--curves kept|arcs|one] [--curve-tolerance MM] for how a DXF has its curves
//   [--variant NAME] [--set width=84 ...]; or JOB.moth --list for its parameters and variants as JSON;
// npm run make -- JOB.moth --out part.step|part.stl|part.3mf [--tolerance MM] for its body, and with --all-variants --out
//   parts.zip for every variant in all three;
// npm run make -- JOB.moth --out part.svg (or .dxf, .pdf) --section z=1.5 for a section of its body, --seen-from
//   top|front|right|back|left|bottom for what is seen of it;
// npm run make -- JOB.moth --out part.pdf --sheet for all views with their sizes and a title block on one sheet;
// npm run make -- JOB.moth --out part.pdf --tiled [--paper A4|A3|Letter|Legal] [--margin MM] [--overlap MM] over several pages.
// Writes what Hand over writes, without a browser. What cannot be made as the job says it is a sentence on the error output
// and exit code 1, and no file is written unless --anyway is said.
import { readFileSync, writeFileSync } from 'node:fs';
import { extname } from 'node:path';
import { parseArgs } from 'node:util';
import { isMainThread } from 'node:worker_threads';
import { type Finding, sentenceOf } from '../core/src/findings';
import {
  DXF_CURVES,
  DXF_TOLERANCE,
  DXF_USUAL,
  type DxfOptions,
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
import { BODY_FORMATS, type BodyFormat, COARSEST_MM, FINEST_MM } from '../core/src/format/body';
import { jobFileSentence } from '../core/src/say';
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
import { watched } from './watched';

// The kernel does not look up while it works: on a thread of its own, signals are obeyed and somebody says how long it takes.
if (isMainThread) await watched(new URL(import.meta.url));

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
        curves: { type: 'string' },
        'curve-tolerance': { type: 'string' },
        tolerance: { type: 'string', default: '0.05' },
        section: { type: 'string' },
        'seen-from': { type: 'string' },
        sheet: { type: 'boolean', default: false },
        tiled: { type: 'boolean', default: false },
        paper: { type: 'string', default: 'A4' },
        margin: { type: 'string', default: '8' },
        overlap: { type: 'string', default: '12' },
        'all-variants': { type: 'boolean', default: false },
        anyway: { type: 'boolean', default: false },
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

/** Says what does not go out as the job has it; that is the end, unless it shall be written all the same. */
function heed(faults: readonly Finding[]): void {
  for (const sentence of new Set(faults.map(sentenceOf))) console.error(sentence);
  if (faults.length > 0 && !anyway) stop('Nothing was written. With --anyway it is written as it is.');
}

function write(bytes: Uint8Array): void {
  try {
    writeFileSync(out as string, bytes);
  } catch (error) {
    const why = (error as NodeJS.ErrnoException).code;
    stop(
      why === 'ENOSPC'
        ? `There is no room for ${out}.`
        : `${out} cannot be written${why === 'ENOENT' ? ': there is no such folder' : why === 'EISDIR' ? ': that is a folder' : ''}.`,
    );
  }
}

/** A day that there is. */
function isDay(text: string): boolean {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text)) return false;
  const day = new Date(`${text}T00:00:00Z`);
  return !Number.isNaN(day.getTime()) && day.toISOString().startsWith(text);
}

/** How a DXF has the paths with curves in them. */
function readDxfOptions(): DxfOptions {
  if ((curves ?? curveTolerance) !== undefined && format !== 'dxf')
    stop('How curves are written is asked of a DXF: --curves goes with --out part.dxf.');
  const way = curves === undefined ? DXF_USUAL.curves : DXF_CURVES.find((c) => c === curves);
  if (!way) return stop(`--curves is one of ${DXF_CURVES.join(', ')}.`);
  const toleranceMm = curveTolerance === undefined ? DXF_USUAL.toleranceMm : Number(curveTolerance);
  if (!(toleranceMm >= DXF_TOLERANCE.least && toleranceMm <= DXF_TOLERANCE.most))
    stop(`A tolerance of curves lies between ${DXF_TOLERANCE.least} and ${DXF_TOLERANCE.most} mm.`);
  return { curves: way, toleranceMm };
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
  anyway,
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
  curves,
  'curve-tolerance': curveTolerance,
  'without-notes': withoutNotes,
} = readArguments();
const ending = out ? extname(out).slice(1).toLowerCase() : '';
const isBody = (BODY_FORMATS as readonly string[]).includes(ending);
const isZip = allVariants && ending === 'zip';
const format = ending as ProfileFormat;
if (allVariants && !isZip) stop('All variants go into one archive: --all-variants goes with --out parts.zip.');
if (!list && (!out || !(PROFILE_FORMATS.includes(format) || isBody || isZip))) stop(HOW);
if (date !== undefined && !isDay(date)) stop('A date is a day that there is, written as 2026-03-01.');
if (sizes && format !== 'pdf') stop('Sizes are shown on a printed sheet: --sizes goes with --out part.pdf.');
const opened = readJobFile(read(file));
if (!opened.ok) stop(`${file}: ${jobFileSentence(opened)}`);
const asked = withParameters(opened.job, { variant: variant ?? null, set: readSet(set) });
if (!asked.ok) stop(UNKNOWN[asked.reason](asked.name));
if (list) {
  console.log(JSON.stringify(listParameters(opened.job), null, 1));
  process.exit(0);
}
const tiling = tiled ? readTiling() : null;
const dxf = readDxfOptions();
const drawn = section !== undefined ? readSection(section) : seenFrom !== undefined ? readSide(seenFrom) : null;
const today = date ?? new Date().toISOString().slice(0, 10);
if (isBody || isZip) {
  const options = { date: today, toleranceMm: Number(tolerance) };
  if (!(options.toleranceMm >= FINEST_MM && options.toleranceMm <= COARSEST_MM)) stop(REFUSED.tolerance);
  const oc = await openKernel();
  if (isZip) {
    const made = makeVariants(oc, asked.job, options);
    if (!made.ok) stop(REFUSED[made.reason]);
    if (made.leftOut.length > 0) {
      console.error(`Left out, as it could not be made: ${made.leftOut.join(', ')}.`);
      if (!anyway) stop('Nothing was written. With --anyway it is written as it is.');
    }
    write(made.bytes);
  } else {
    const made = makeBody(oc, asked.job, ending as BodyFormat, options);
    heed(made.faults);
    if (!made.ok) stop(REFUSED[made.reason]);
    const { triangles, deviationMm } = made.file;
    if (triangles !== null)
      console.error(`${triangles} triangles, at most ${(deviationMm ?? 0).toFixed(4)} mm off the surface.`);
    write(made.file.bytes);
  }
  process.exit(0);
}
if (drawn) {
  const made = makeDrawing(await openKernel(), asked.job, drawn, today);
  heed(made.faults);
  if (!made.ok) stop(REFUSED[made.reason]);
  const bytes = made.profile && (await writeProfile(made.profile, format, dxf));
  if (!bytes) stop('The section meets nothing of the body there.');
  write(bytes);
  process.exit(0);
}
if (sheet) {
  if (format !== 'pdf') stop('A drawing sheet is printed: --sheet goes with --out part.pdf.');
  const made = makeSheet(asked.job, today);
  heed(made.faults);
  if (!made.ok) stop(REFUSED[made.reason]);
  write((await writeSheetPdf(made.sheet))!);
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
heed(made.faults);
if (!made.ok) stop(REFUSED[made.reason]);
if (made.worthALook.length > 0) console.error(`Worth a look: ${made.worthALook.map(sentenceOf).join(' ')}`);
const bytes = tiling ? await writeTiledPdf(made.profile, tiling) : await writeProfile(made.profile, format, dxf);
if (!bytes && tiling) stop('There is no room on this paper, or it would take more than 400 pages.');
if (!bytes) stop(REFUSED['nothing-is-traced']);
write(bytes);
process.exit(0);
