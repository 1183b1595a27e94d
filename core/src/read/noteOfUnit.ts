import type { InkPiece } from './ink';
import { findWords, layOut, type WordPlace } from './lettering';
import type { ReadText, TextImage } from './text';

/** A unit's name has so many letters at least, and a page has so many words that are worth a look. */
const FEWEST_LETTERS = 4;
const MOST_WORDS = 80;
const LETTERS_PX = 30;

const INCHES = /\b[I1l|]NCH(?:ES)?\b/i;
const MILLIMETRES = /\bM[I1l|]LL[I1l|]MET(?:ER|RE)S?\b/i;

/**
 * What a note of the page says that its dimensions are in ("all dimensions in inches").
 * In: the straight page with its pieces of ink, words that are dimensions already, and whoever reads letters. Out: null
 * where no unit is named, or both are.
 */
export async function noteOfUnit(
  page: TextImage,
  pieces: readonly InkPiece[],
  isDimension: (word: WordPlace) => boolean,
  read: ReadText,
): Promise<'mm' | 'in' | null> {
  const words = findWords(pieces)
    .filter((w) => w.letters >= FEWEST_LETTERS && !isDimension(w))
    .sort((a, b) => b.letters - a.letters)
    .slice(0, MOST_WORDS);
  if (words.length === 0) return null;
  const text = (await read(layOut(page, words, LETTERS_PX))).map((w) => w.text).join(' ');
  const [inches, millimetres] = [INCHES.test(text), MILLIMETRES.test(text)];
  return inches === millimetres ? null : inches ? 'in' : 'mm';
}
