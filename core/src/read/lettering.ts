import type { InkPiece } from './ink';
import type { TextImage } from './text';

/** Pieces of ink in a row that look like one word: its bounds, px, and how many letters it has. */
export interface WordPlace {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
  letters: number;
  /** How many letters stand before its decimal point or comma; null where none is seen. */
  beforePoint: number | null;
}

/** Letters of a drawing are so tall, px; lines and arrowheads are longer, or thinner. */
const LETTER = { least: 9, most: 110, widest: 1.25, ink: 0.1 } as const;
/** From letter to letter, and between a letter and its decimal point, against their height. */
const GAP = 0.6;
const GAP_WITH_POINT = 0.95;
const OVERLAP = 0.55;
const ALIKE = 1.45;
const MOST_LETTERS = 12;
/** A decimal point is so small against the letters beside it, and stands at their foot. */
const POINT = { most: 0.34, foot: 0.45 } as const;

/** Words that run along the rows of a page, by its pieces of ink alone. */
export function findWords(pieces: readonly InkPiece[]): WordPlace[] {
  const letters = pieces.filter(isLetter).sort((a, b) => a.x0 - b.x0);
  const small = pieces.filter((p) => p.y1 - p.y0 < LETTER.most * POINT.most && p.x1 - p.x0 < LETTER.most * POINT.most);
  const taken = new Set<InkPiece>();
  const words: WordPlace[] = [];
  const byRow = rowsOf(letters);
  const smallByRow = rowsOf(small);
  for (const first of letters) {
    if (taken.has(first)) continue;
    taken.add(first);
    const word: WordPlace = { ...boundsOf(first), letters: 1, beforePoint: null };
    let tall = tallOf(first);
    for (let grew = true; grew && word.letters < MOST_LETTERS; ) {
      grew = false;
      const next = near(byRow, word.y0, word.y1)
        .filter((p) => !taken.has(p) && isNext(word, p, tall, near(smallByRow, word.y0, word.y1)))
        .sort((a, b) => a.x0 - b.x0)[0];
      if (!next) break;
      taken.add(next);
      const most = Math.max(tall, tallOf(next));
      if (near(smallByRow, word.y0, word.y1).some((dot) => isPoint(dot, word, next, most)))
        word.beforePoint = word.letters;
      word.x1 = Math.max(word.x1, next.x1);
      word.y0 = Math.min(word.y0, next.y0);
      word.y1 = Math.max(word.y1, next.y1);
      word.letters += 1;
      tall = Math.max(tall, tallOf(next));
      grew = true;
    }
    // What hangs on in front or behind, such as a sign of degrees or an apostrophe.
    for (const dot of near(smallByRow, word.y0, word.y1))
      if (
        dot.y0 >= word.y0 - 0.1 * tall &&
        dot.y1 <= word.y1 + 0.2 * tall &&
        dot.x0 > word.x1 &&
        dot.x0 - word.x1 < 0.4 * tall
      )
        word.x1 = Math.max(word.x1, dot.x1);
    words.push(word);
  }
  // Points and commas of a word are no words.
  return words.filter((w) => words.every((o) => o === w || tallOf(w) > POINT.most * tallOf(o) || !isBeside(w, o)));
}

const isBeside = (a: WordPlace, b: WordPlace): boolean =>
  a.x0 <= b.x1 && b.x0 <= a.x1 && a.y0 <= b.y1 + 0.1 * tallOf(b) && b.y0 <= a.y1;

const tallOf = ({ y0, y1 }: { y0: number; y1: number }): number => y1 - y0 + 1;

const boundsOf = ({ x0, y0, x1, y1 }: InkPiece) => ({ x0, y0, x1, y1 });

function isLetter(p: InkPiece): boolean {
  const [w, h] = [p.x1 - p.x0 + 1, tallOf(p)];
  return h >= LETTER.least && h <= LETTER.most && w <= LETTER.widest * h && p.count >= LETTER.ink * w * h;
}

/** Stands to the right of a word, near by, in its row and as tall: across a decimal point too. */
function isNext(word: WordPlace, p: InkPiece, tall: number, small: readonly InkPiece[]): boolean {
  const gap = p.x0 - word.x1;
  const h = tallOf(p);
  const most = Math.max(tall, h);
  if (gap < -0.2 * tall || gap > GAP_WITH_POINT * most) return false;
  if (gap > GAP * most && !small.some((dot) => isPoint(dot, word, p, most))) return false;
  if (h > ALIKE * tall || tall > ALIKE * h) return false;
  return Math.min(p.y1, word.y1) - Math.max(p.y0, word.y0) > OVERLAP * Math.min(h, tall);
}

/** A decimal point or comma between two letters, at their foot. */
const isPoint = (dot: InkPiece, word: WordPlace, next: InkPiece, tall: number): boolean =>
  dot.x0 > word.x1 - 0.1 * tall &&
  dot.x1 < next.x0 + 0.1 * tall &&
  tallOf(dot) < POINT.most * tall &&
  (dot.y0 + dot.y1) / 2 > word.y1 - POINT.foot * tall;

const ROW_PX = 64;

function rowsOf(pieces: readonly InkPiece[]): Map<number, InkPiece[]> {
  const rows = new Map<number, InkPiece[]>();
  for (const p of pieces) {
    const key = Math.floor((p.y0 + p.y1) / 2 / ROW_PX);
    const row = rows.get(key);
    if (row) row.push(p);
    else rows.set(key, [p]);
  }
  return rows;
}

function near(rows: Map<number, InkPiece[]>, y0: number, y1: number): InkPiece[] {
  const found: InkPiece[] = [];
  for (let r = Math.floor(y0 / ROW_PX) - 1; r <= Math.floor(y1 / ROW_PX) + 1; r++) found.push(...(rows.get(r) ?? []));
  return found;
}

/** Words under one another on one picture, each as tall as readers of letters like it. */
export interface Sheetful extends TextImage {
  /** Which word stands at a height of it; null between them. */
  wordAt(y: number): number | null;
}

const PAD_PX = 14;
const MARGIN_SHARE = 0.22;

/** Lays words under one another, each enlarged or reduced to one height, px, with clear paper round about. */
export function layOut(page: TextImage, words: readonly WordPlace[], letterPx: number): Sheetful {
  const rows = words.map((w) => {
    const tall = w.y1 - w.y0 + 1;
    const scale = letterPx / tall;
    const pad = MARGIN_SHARE * tall;
    return { w, scale, width: Math.ceil((w.x1 - w.x0 + 1 + 2 * pad) * scale), pad };
  });
  const height = Math.ceil(letterPx * (1 + 2 * MARGIN_SHARE));
  const width = Math.max(1, ...rows.map((r) => r.width)) + 2 * PAD_PX;
  const step = height + PAD_PX;
  const all = PAD_PX + rows.length * step;
  const light = new Uint8Array(width * all).fill(255);
  rows.forEach(({ w, scale, width: own, pad }, k) => {
    const crop = new Float32Array(own * height);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < own; x++)
        crop[y * own + x] = sampled(page, w.x0 - pad + (x + 0.5) / scale, w.y0 - pad + (y + 0.5) / scale, 1 / scale);
    const sorted = Float32Array.from(crop).sort();
    const [ink, paper] = [sorted[Math.floor(0.02 * sorted.length)]!, sorted[Math.floor(0.8 * sorted.length)]!];
    const stretch = 255 / Math.max(20, paper - ink);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < own; x++)
        light[(PAD_PX + k * step + y) * width + PAD_PX + x] = Math.max(
          0,
          Math.min(255, (crop[y * own + x]! - ink) * stretch),
        );
  });
  return {
    width,
    height: all,
    light,
    wordAt(y) {
      const k = Math.floor((y - PAD_PX / 2) / step);
      return k >= 0 && k < rows.length ? k : null;
    },
  };
}

function sampled({ width, height, light }: TextImage, x: number, y: number, step: number): number {
  const fine = Math.max(1, Math.min(4, Math.round(step)));
  let sum = 0;
  for (let j = 0; j < fine; j++)
    for (let i = 0; i < fine; i++) {
      const u = x - 0.5 + ((i + 0.5) / fine - 0.5) * step;
      const v = y - 0.5 + ((j + 0.5) / fine - 0.5) * step;
      const [u0, v0] = [Math.floor(u), Math.floor(v)];
      if (u0 < 0 || v0 < 0 || u0 + 1 >= width || v0 + 1 >= height) {
        sum += 255;
        continue;
      }
      const [a, b] = [u - u0, v - v0];
      const k = v0 * width + u0;
      sum +=
        (1 - b) * ((1 - a) * light[k]! + a * light[k + 1]!) +
        b * ((1 - a) * light[k + width]! + a * light[k + width + 1]!);
    }
  return sum / (fine * fine);
}
