import type { CalibrationFault, CheckResult, JoinFault } from '@steady-moth/core/calibration';
import type { CountFault, DiscFault, GridFault, RulerFault, RulerResult, SheetFault } from '@steady-moth/core/find';
import type { PictureFault } from '@steady-moth/core/format';
import type {} from '@steady-moth/core/job';
import type { RulerFigures } from '@steady-moth/core/read';
import { jobFileSentence } from '@steady-moth/core/say';
import type { ReadOutlines } from '../compute/files.worker';
import type { OpenedPages } from '../compute/pages.worker';
import type { LoadResult, SaveResult } from './storage';

/** A count of divisions to the inch that is nearer to a whole one is that. */
const WHOLE = 1e-6;

/* The one place where reasons become the sentences that a person reads. */

const PICTURES: Record<Exclude<PictureFault['reason'], 'too-many-pixels' | 'too-long'>, string> = {
  empty: 'This file is empty (0 bytes). Was it copied to the end?',
  'not-a-picture':
    'This is not a picture that can be read here (JPEG, PNG, WebP, TIFF, HEIC, PDF, SVG or DXF), whatever its name says. Export it as JPEG and bring that.',
  truncated: 'This picture breaks off before its end. Copy it again from the camera.',
  'file-too-large': 'This file is larger than 200 MB. Bring the picture as JPEG.',
  broken: 'This picture is damaged and cannot be read. Copy it again, or open and save it once in another program.',
};
export function pictureSentence(fault: PictureFault): string {
  if (fault.reason === 'too-many-pixels')
    return `This picture has ${Math.round(fault.megapixels)} megapixels; up to 120 can be worked on here. Scale it down, or cut out the part.`;
  if (fault.reason === 'too-long')
    return `One side of this picture is longer than ${fault.mostPx.toLocaleString('en')} pixels. Cut it into shorter pieces, and bring those.`;
  return PICTURES[fault.reason];
}

type OutlineFault = Extract<ReadOutlines, { ok: false }>['reason'];

const OUTLINES: Record<OutlineFault, string> = {
  'not-text': 'This drawing is in the binary form. Save it as text (ASCII) and bring that.',
  'not-readable': 'This drawing breaks the rules of its format and cannot be read. Save it again where it was made.',
  'too-deep': 'This drawing nests its groups without end. It is not opened; flatten its groups and save it again.',
  'too-many':
    'This drawing holds more than 2,000 outlines or 50,000 points. Leave out what is not needed, and bring it again.',
  'endless-inserts': 'The blocks of this drawing hold one another without end. It is not opened.',
  'nothing-in-it': 'There is no outline in this drawing: no line, arc, circle or curve.',
  'too-large': 'This drawing would be more than 20 metres wide: is its unit right?',
};
export const outlineSentence = (reason: OutlineFault, kind: 'svg' | 'dxf'): string =>
  reason === 'not-readable' ? `${OUTLINES[reason]} (${kind.toUpperCase()})` : OUTLINES[reason];

const LEFT_OUT: Record<Extract<ReadOutlines, { ok: true }>['leftOut'][number], string> = {
  script: 'A script in it was left out: nothing in a drawing is ever run.',
  reference: 'What it refers to elsewhere was left out: nothing is fetched for a drawing.',
  text: 'Its texts were left out: only outlines are taken.',
  picture: 'A picture in it was left out: bring that as a file of its own.',
  other: 'Some of it is no outline and was left out.',
};
export const leftOutSentence = (what: keyof typeof LEFT_OUT): string => LEFT_OUT[what];

const PAGES: Record<Extract<OpenedPages, { ok: false }>['reason'] | 'not-drawn', string> = {
  password: 'This PDF is locked with a password. Save a copy without one, and bring that.',
  'not-readable': 'This PDF is damaged or breaks off, and cannot be read. Copy or save it again.',
  'too-many': 'This PDF has more than 20,000 pages. Save the page you need as a file of its own.',
  'not-drawn': 'This page could not be drawn. Choose fewer pixels, or save the page as a picture.',
};
export const pagesSentence = (reason: keyof typeof PAGES): string => PAGES[reason];

export function loadSentence(fault: Extract<LoadResult, { ok: false }>): string {
  switch (fault.reason) {
    case 'no-such-job':
      return 'There is no such job on this rack.';
    case 'picture-missing':
      return "A picture of this job is missing from this browser's storage. Open the job's file instead, if you have it.";
    case 'storage-failed':
      return "This browser's storage does not answer. Close other tabs of Steady Moth, and try again.";
    default:
      return jobFileSentence(fault);
  }
}

const SAVES: Record<Extract<SaveResult, { ok: false }>['reason'], string> = {
  'storage-full':
    'The disk is full, or what this browser may use of it, so the last changes are not saved. Save this job as a file, make room, then try again.',
  'changed-elsewhere':
    'This job was changed in another tab since. To lose neither, save this one as a file before you reload.',
  'deleted-elsewhere':
    "This job is no longer in this browser's storage: it was deleted in another tab, or the browser made room. All of it is still here: hang it on the rack again, or save it as a file.",
  'storage-failed':
    "This browser's storage does not answer, so the last changes are not saved. Save the job as a file, then try again.",
};
/** A machine, a camera or a yardstick that was to be kept for next time. */
export const NOT_KEPT = 'The disk is full, so this is not kept for next time. In this job it counts.';

export const saveSentence = (reason: keyof typeof SAVES): string => SAVES[reason];

/** The same where a new job, or an opened file, was to be stored. */
export const createSentence = (reason: keyof typeof SAVES): string =>
  reason === 'storage-full'
    ? 'The disk is full, or what this browser may use of it, so this was not taken in. Make room, or delete a job you no longer need, and bring it again.'
    : "This browser's storage does not answer, so this was not taken in. Reload the page, and bring it again.";

const COUNTS: Record<CountFault, string> = {
  'not-on-strokes': 'A reading is on no graduation. Put both readings on graduations, then count again.',
  'not-even': 'No even graduations are seen between the readings: they are hidden, worn or too faint.',
  'too-fine': 'The graduations are too fine in this picture to be told apart. The two readings count as before.',
  'another-length': 'The graduations counted do not make the length that was typed.',
};
export const countSentence = (reason: CountFault, count?: number): string =>
  reason === 'another-length' && count
    ? `${count} divisions were counted between the readings, which do not make the length that was typed. Is it right, and in the ruler's unit?`
    : COUNTS[reason];

const FINDS: {
  ruler: Record<RulerFault, string>;
  disc: Record<DiscFault, string>;
  sheet: Record<SheetFault, string>;
  grid: Record<GridFault, string>;
} = {
  ruler: {
    'no-strokes':
      'No row of even graduations is seen there. Click on one of them; if they are faint, take two readings.',
    'too-fine': 'The graduations are too fine in this picture to be told apart. Take two readings on them.',
    'too-few': 'Too few graduations are seen there in a row: they are hidden, worn or blurred. Take two readings.',
    hidden:
      'So many graduations are hidden that their count is in doubt. Take two readings, and type what lies between.',
  },
  disc: {
    'not-round': 'No round edge goes about that place. Click inside the coin, well away from other things.',
    covered: 'Too little of the rim is seen. Free the coin in another picture, or use something else.',
    'runs-out': 'The coin runs out of the picture.',
  },
  sheet: {
    'no-sheet': 'Nothing there stands out against its ground. Click on bare paper.',
    'runs-out': 'The sheet runs out of the picture: all four edges have to be seen.',
    'not-four-sides': 'No four straight edges are seen about that place. Click on bare paper; it must not be bent.',
  },
  grid: {
    'no-grid': 'No two rows of lines across each other are seen there. Click where the grid is bare.',
    'too-fine': 'The lines are too fine in this picture to be told apart.',
    hidden: 'Too little of the grid is seen. Uncover more of it.',
  },
};
/** What was seen of a ruler that one click found. */
export function rulerSentence({ count, seen, family, families, runsOut }: Extract<RulerResult, { ok: true }>): string {
  const looks = !family
    ? families.length > 1
      ? 'By their lengths more than one scale is possible; the figures printed beside them decide.'
      : 'Their lengths do not tell whether they are millimetres or parts of an inch.'
    : family.unit === 'mm'
      ? `They look like ${family.spacingMm === 1 ? 'millimetres' : family.spacingMm === 0.5 ? 'half millimetres' : `steps of ${family.spacingMm} mm`}.`
      : `They look like ${Math.round(25.4 / family.spacingMm)} to the inch.`;
  const hidden = count + 1 - seen;
  return `${count} divisions were counted${hidden > 0 ? `, ${hidden === 1 ? 'one graduation' : `${hidden} graduations`} hidden` : ''}. ${looks}${runsOut ? ' The ruler runs out of the picture; what is seen of it counts.' : ''}`;
}

/** What was read along a ruler, and what of it contradicts its graduations. */
export function figuresSentence({ count }: Extract<RulerResult, { ok: true }>, said: RulerFigures | null): string {
  if (!said) return 'No figures could be read along it.';
  const values = said.figures.map((f) => f.value).sort((a, b) => a - b);
  const read = `Figures ${values[0]} to ${values[values.length - 1]} were read`;
  if (said.doubt?.kind === 'count')
    return `${read}. From ${said.doubt.from} to ${said.doubt.to} there should be ${said.doubt.strokes} divisions, and ${said.doubt.counted} were counted: is a graduation hidden, or a figure misread?`;
  if (said.doubt)
    return `${read}: by them its ${count} divisions are ${divisionWords(said.spacingMm)} each, which their long and short graduations do not bear out.`;
  if (said.orUnit) return `${read}; whether they count ${said.unit} or ${said.orUnit} is not clear.`;
  return `${read}: its ${count} divisions are ${divisionWords(said.spacingMm)} each.`;
}

const divisionWords = (mm: number): string => {
  const toInch = 25.4 / mm;
  return Math.abs(toInch - Math.round(toInch)) < WHOLE ? `1/${Math.round(toInch)} in` : `${mm} mm`;
};

export const findSentence = (kind: keyof typeof FINDS, reason: string): string =>
  (FINDS[kind] as Record<string, string>)[reason] ?? 'It could not be found.';

const CAMERAS: Record<Extract<CheckResult, { ok: false }>['reason'], string> = {
  'too-few': 'Four pictures are needed at least.',
  'another-size': 'One of the pictures is of another size. All must come from one camera, as it saves them.',
  'another-zoom': 'One of the pictures was taken with another lens or zoom. Take all of them with the same.',
  'too-alike': 'The pictures are too much alike to show the lens. Take some tilted, from all four sides.',
  'no-agreement': 'The pictures do not fit one lens. Lay the sheet flat, and do not crop or zoom.',
};
export const cameraSentence = (reason: keyof typeof CAMERAS): string => CAMERAS[reason];

const Calibrations: Record<CalibrationFault, string> = {
  'no-yardstick': 'Nothing of a known size yet: click on a ruler, a coin, paper or a grid, or take two readings.',
  'picks-coincide': 'All picks of a yardstick lie in one place or on one line. Move one of them away.',
  'unknown-plane': 'This length stands on a plane that is gone. Choose its height again.',
  'outside-model': 'No camera could have seen these lengths together. Check the figures: one is wrong by far.',
  'no-agreement': 'These lengths contradict each other. Check the figures.',
};
export const calibrationSentence = (reason: CalibrationFault): string => Calibrations[reason];

/** Why a picture could not be joined with the others. */
export function joinSentence(fault: JoinFault, nameOf: (picture: string) => string): string {
  switch (fault.reason) {
    case 'too-little-joins':
      return `Too little joins ${nameOf(fault.picture)} with the others: two common points far apart are needed, or a ruler that is seen in both.`;
    case 'which-is-which':
      return `In ${nameOf(fault.picture)} it is not clear which crossing of the grid is which: one common point tells, two where that picture was taken from another side.`;
    case 'no-agreement':
      return 'The pictures contradict each other. Is each common point the same place in both?';
    case 'picture':
      return `${nameOf(fault.picture)}: ${
        fault.fault.reason === 'no-yardstick'
          ? 'nothing of known size is in it, and too few common points hold it. Four are needed, or a yardstick of its own.'
          : calibrationSentence(fault.fault.reason)
      }`;
  }
}
