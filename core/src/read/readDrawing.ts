import type { PixelPick } from '../calibration';
import { lineCentre } from '../find';
import type { Pixels } from '../raster';
import { type DimensionLine, dimensionLineOf } from './dimensionLine';
import { inkOf, piecesOf, turnedPieces } from './ink';
import { findWords, layOut, type Sheetful, type WordPlace } from './lettering';
import { noteOfUnit } from './noteOfUnit';
import { straightPage } from './straightPage';
import { type ReadText, turnedBack, turnedBy } from './text';

/** A printed dimension: what it says, and the two places of the picture between which it says it. */
export interface ReadDimension {
  /** As it was read. */
  text: string;
  value: number;
  /** 0 to 100. */
  confidence: number;
  from: PixelPick;
  to: PixelPick;
  /** The middle of its figure in the picture, px. */
  at: { uPx: number; vPx: number };
  /**
   * Whether others of the page say the same of its scale, as closely as it is printed; `unsure` where none can tell to
   * the last figure, or there is nothing to hold it against.
   */
  check: 'agrees' | 'contradicts' | 'unsure';
  /** What it would be by those that agree; null where there are none. */
  byOthers: number | null;
  /** What a note of the page says that its dimensions are in; null where none does. */
  noted: 'mm' | 'in' | null;
}

/** Figures below this are not offered at all. */
const LEAST_CONFIDENCE = 35;
/** Upright; read from the right, as the standard has it; read from the left, as some do. */
const QUARTERS = [0, 1, 3] as const;
/** Across an extension line the ink is read so far to both sides, and so far along it, against the letters' height. */
const READ = { across: 0.3, least: 5, along: 0.4, most: 24 } as const;
/**
 * Dimensions of one page agree roughly about its scale, whatever the scanner does to either direction; those along one
 * direction, closely, so that a figure read wrong by its last digit stands out.
 */
const ROUGHLY = { share: 0.012, px: 3 } as const;
const CLOSELY = { share: 0.0006, px: 0.35 } as const;

/**
 * The printed dimensions of a drawing, each with the two extension lines that it stands between.
 *
 * In: a flat page, however it is turned, and whoever reads letters. Out: what was read, each held against the others; a
 * figure that no dimension line belongs to (of a leader, an angle, a table) is left out.
 */
export async function readDrawing(pixels: Pixels, read: ReadText): Promise<ReadDimension[]> {
  const page = straightPage(pixels);
  const { width, height } = page;
  const ink = inkOf(page);
  const pieces = piecesOf(ink, width, height);
  const found: (Said & { others: number[]; box: Bounds; letters: number })[] = [];
  for (const quarters of QUARTERS) {
    const turned = turnedBy(page, quarters);
    const mask = {
      width: turned.width,
      height: turned.height,
      ink: turnedBy({ width, height, light: ink }, quarters).light,
    };
    const placed = findWords(turnedPieces(pieces, width, height, quarters)).flatMap((word) => {
      const line = dimensionLineOf(mask, word);
      return line ? [{ word, line }] : [];
    });
    if (placed.length === 0) continue;
    const words = placed.map((p) => p.word);
    const said = new Map<number, Saying[]>();
    for (const letterPx of LETTERS_PX)
      for (const [k, one] of await readWords(layOut(turned, words, letterPx), read))
        said.set(k, [...(said.get(k) ?? []), one]);
    const toPicture = (x: number, y: number) => page.toPicture(...turnedBack(page, quarters, x, y));
    for (const [k, sayings] of said) {
      const values = sayings.flatMap(({ text, confidence }) => {
        const value = lengthSaid(withPoint(text, placed[k]!.word));
        return value === null || confidence < LEAST_CONFIDENCE ? [] : [{ text, value, confidence }];
      });
      const surest = values.sort((a, b) => b.confidence - a.confidence)[0];
      if (!surest) continue;
      const { text, value, confidence } = surest;
      const others = values.flatMap((v) => (v.value === value ? [] : [v.value]));
      const { word, line } = placed[k]!;
      const picks = picksOf(pixels, line, toPicture);
      if (!picks) continue;
      const at = toPicture((word.x0 + word.x1 + 1) / 2, (word.y0 + word.y1 + 1) / 2);
      const [x0, y0] = turnedBack(page, quarters, word.x0, word.y0);
      const [x1, y1] = turnedBack(page, quarters, word.x1 + 1, word.y1 + 1);
      const box = {
        x0: Math.min(x0, x1),
        y0: Math.min(y0, y1),
        x1: Math.max(x0, x1),
        y1: Math.max(y0, y1),
      };
      found.push({
        text,
        value,
        others,
        confidence,
        ...picks,
        at: { uPx: at.x, vPx: at.y },
        box,
        letters: word.letters,
        noted: null,
      });
    }
  }
  // A lone figure is read upright and turned: the surer one stays.
  const kept = found.filter((d) =>
    found.every(
      (o) => o === d || !overlap(o.box, d.box) || surer(d, o) || (!surer(o, d) && found.indexOf(d) < found.indexOf(o)),
    ),
  );
  const boxes = kept.map((d) => d.box);
  const noted =
    kept.length > 0 ? await noteOfUnit(page, pieces, (word) => boxes.some((box) => overlap(box, word)), read) : null;
  return settled(kept).map((d) => ({ ...d, noted }));
}

interface Saying {
  text: string;
  confidence: number;
}

/** Words are read at both of these heights: what is read the same twice is rarely wrong. */
const LETTERS_PX = [36, 28] as const;

async function readWords(sheet: Sheetful, read: ReadText): Promise<Map<number, Saying>> {
  const said = new Map<number, Saying>();
  for (const { text, confidence, box } of await read(sheet)) {
    const k = sheet.wordAt((box.y0 + box.y1) / 2);
    if (k === null) continue;
    const before = said.get(k);
    said.set(
      k,
      before
        ? { text: `${before.text} ${text}`, confidence: Math.min(before.confidence, confidence) }
        : { text, confidence },
    );
  }
  return said;
}

/** Where a figure was read in two ways, that one stays of which the others say that it is right. */
function settled(read: readonly (Said & { others: readonly number[] })[]): ReadDimension[] {
  const plain = read.map(({ text, value, confidence, from, to, at, noted }) => ({
    text,
    value,
    confidence,
    from,
    to,
    at,
    noted,
  }));
  const held = heldTogether(plain);
  const better = plain.map((d, k) => {
    if (held[k]!.check === 'agrees') return d;
    const tried = read[k]!.others.map((value) => ({ ...d, value, text: String(value) }));
    return tried.find((other) => heldTogether(plain.map((p, j) => (j === k ? other : p)))[k]!.check === 'agrees') ?? d;
  });
  return heldTogether(better);
}

const surer = (a: { letters: number; confidence: number }, b: typeof a): boolean =>
  a.letters !== b.letters ? a.letters > b.letters : a.confidence > b.confidence;

type Bounds = Omit<WordPlace, 'letters' | 'beforePoint'>;

const overlap = (a: Bounds, b: Bounds): boolean => a.x0 < b.x1 && b.x0 < a.x1 && a.y0 < b.y1 && b.y0 < a.y1;

/** A decimal point that is seen between two letters, and was not read, is put where it stands. */
function withPoint(text: string, { letters, beforePoint }: WordPlace): string {
  if (text.includes('/')) return text;
  const digits = text.replace(/[^0-9]/g, '');
  if (beforePoint === null || /\d[.,]\d/.test(text)) return text;
  return digits.length === letters ? `${digits.slice(0, beforePoint)}.${digits.slice(beforePoint)}` : '';
}

const EDGE_BEFORE = /^[([{|'`.,~_-]*/;
const EDGE_AFTER = /[)\]}|`.,~_-]*$/;
/** Inches, and millimetres, as they stand behind a figure. */
const INCHES = /\s*(?:in\.?|inch(?:es)?|"|''|”|″)$/i;
const MILLIMETRES = /\s*mm$/i;

/** The unit that stands behind a figure; null where none does. A fraction is one of an inch. */
export function unitSaid(text: string): 'mm' | 'in' | null {
  const plain = text.trim().replace(EDGE_AFTER, '');
  if (INCHES.test(plain) || /\d\s*\/\s*\d/.test(plain)) return 'in';
  return MILLIMETRES.test(plain) ? 'mm' : null;
}

/** The length that a figure says, in whatever it counts: null for radii, threads, angles, and what is no figure. */
export function lengthSaid(text: string): number | null {
  const plain = text
    .trim()
    .replace(EDGE_BEFORE, '')
    .replace(EDGE_AFTER, '')
    .replace(INCHES, '')
    .replace(MILLIMETRES, '');
  const broken = /^(?:(\d{1,3})[\s-]+)?(\d{1,2})\s*\/\s*(\d{1,2})$/.exec(plain);
  if (broken) {
    const [whole, over, under] = [Number(broken[1] ?? 0), Number(broken[2]), Number(broken[3])];
    // Of an inch, as rules have it: halves to sixty-fourths.
    return [2, 4, 8, 16, 32, 64].includes(under) && over < under && whole + over > 0 ? whole + over / under : null;
  }
  const match = /^["']*(\d{1,4}(?:[.,]\d{1,4})?)(?:[A-Za-z]{1,2}\d{1,2})?["']*$/.exec(plain.replace(/\s+/g, ''));
  if (!match) return null;
  const value = Number(match[1]!.replace(',', '.'));
  return value > 0 ? value : null;
}

/** Both extension lines, taken beside the dimension line and clear of its arrowheads. */
function picksOf(
  pixels: Pixels,
  { from, to, aside }: DimensionLine,
  toPicture: (x: number, y: number) => { x: number; y: number },
): { from: PixelPick; to: PixelPick } | null {
  const [a, b] = [toPicture(from.x, from.y), toPicture(to.x, to.y)];
  const length = Math.hypot(b.x - a.x, b.y - a.y);
  const [nx, ny] = [(b.x - a.x) / length, (b.y - a.y) / length];
  const along = Math.atan2(to.y - from.y, to.x - from.x);
  const off = { x: -Math.sin(along) * aside, y: Math.cos(along) * aside };
  const side = toPicture(from.x + off.x, from.y + off.y);
  const away = Math.hypot(side.x - a.x, side.y - a.y);
  const reachPx = Math.max(READ.least, READ.across * away);
  const halfLengthPx = Math.min(READ.most, READ.along * away);
  const [first, second] = [from, to].map((p): PixelPick | null => {
    const { x, y } = toPicture(p.x + 0.5 + off.x, p.y + 0.5 + off.y);
    const line = lineCentre(pixels, x, y, nx, ny, { reachPx, halfLengthPx });
    if (!line || line.contrast > 0) return null;
    return { uPx: x + line.offPx * nx, vPx: y + line.offPx * ny, sigmaPx: line.sigmaPx };
  });
  return first && second ? { from: first, to: second } : null;
}

type Said = Omit<ReadDimension, 'check' | 'byOthers'>;

const lengthOf = ({ from, to }: Said): number => Math.hypot(to.uPx - from.uPx, to.vPx - from.vPx);

/** How far the scales of two dimensions are apart, and how far they may be, px over the shorter of both. */
function isAlike(a: Said, b: Said, { share, px }: { share: number; px: number }): boolean {
  const [la, lb] = [lengthOf(a), lengthOf(b)];
  const off = Math.abs((la * b.value) / (lb * a.value) - 1);
  return off < share + px / la + px / lb;
}

const isAlong = (a: Said, b: Said): boolean => {
  const [ax, ay, bx, by] = [a.to.uPx - a.from.uPx, a.to.vPx - a.from.vPx, b.to.uPx - b.from.uPx, b.to.vPx - b.from.vPx];
  return Math.abs(ax * bx + ay * by) > 0.9 * Math.hypot(ax, ay) * Math.hypot(bx, by);
};

/** The most of them that one of them is like; none where as many others are like another. */
function largestOf(read: readonly Said[], alike: (a: Said, b: Said) => boolean): readonly Said[] {
  const groups = read.map((a) => read.filter((b) => alike(a, b)));
  const best = groups.reduce<Said[]>((most, g) => (g.length > most.length ? g : most), []);
  const rivals = groups.some((g) => g.length === best.length && !g.some((d) => best.includes(d)));
  return best.length < 2 || rivals ? [] : best;
}

/** Holds every dimension against the scale on which most of them agree. */
export function heldTogether(read: readonly Said[]): ReadDimension[] {
  const roughly = largestOf(read, (a, b) => isAlike(a, b, ROUGHLY));
  const scaleOf = (of: readonly Said[]): number =>
    of.reduce((sum, d) => sum + lengthOf(d), 0) / of.reduce((sum, d) => sum + d.value, 0);
  return read.map((d): ReadDimension => {
    if (roughly.length === 0) return { ...d, check: read.length > 1 ? 'contradicts' : 'unsure', byOthers: null };
    const along = roughly.filter((o) => isAlong(o, d));
    const closely = largestOf(along.length > 1 ? along : roughly, (a, b) => isAlike(a, b, CLOSELY));
    const others = (closely.length > 0 ? closely : roughly).filter((o) => o !== d);
    return {
      ...d,
      check: closely.includes(d) ? 'agrees' : roughly.includes(d) ? 'unsure' : 'contradicts',
      byOthers: others.length > 0 ? lengthOf(d) / scaleOf(others) : null,
    };
  });
}
