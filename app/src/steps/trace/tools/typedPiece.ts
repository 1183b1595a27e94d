import type { Expression } from '@steady-moth/core/sketch';
import { parseLength, parsePlace } from '@steady-moth/core/units';

/** What was typed of the next piece. */
export interface TypedPiece {
  /** How long it is, mm, and as it was typed. */
  length: { mm: number; value: Expression } | null;
  /** Its direction against X, rad. */
  at: number | null;
  /** Its direction against that of the piece before, rad, left positive; of an arc, how far it turns. */
  turn: number | null;
  /** Where it ends, mm from zero. */
  x: number | null;
  y: number | null;
  /** Radius of an arc, mm. */
  radius: number | null;
  /** Each figure as it was typed, with its unit. */
  texts: Partial<Record<'at' | 'turn' | 'x' | 'y' | 'radius', Expression>>;
}

const WORD = /((?<![a-z])(?:at|deg|turn|x|y|r)(?![a-z])|°)/i;
const DEGREES = /^[-+−]?\d+(?:[.,]\d+)?$/;

/**
 * Reads what is typed while a path is drawn: `40`, `40 at 30`, `30 deg`, `40 turn 90`, `x 10 y -5`, `r 12 turn 90`; words
 * stand before their figures or after them. Null where it cannot be read, or says the same thing twice.
 */
export function readPiece(text: string, unit: 'mm' | 'in'): TypedPiece | null {
  const parts = text.trim().split(WORD);
  const said: TypedPiece = { length: null, at: null, turn: null, x: null, y: null, radius: null, texts: {} };
  const figures = parts.filter((_, k) => k % 2 === 0).map((p) => p.trim());
  const words = parts.filter((_, k) => k % 2 === 1).map((p) => p.toLowerCase());
  if (words.length === 0) return put(said, null, figures[0] ?? '', unit) ? said : null;
  const isAfter = figures[figures.length - 1] === '';
  for (const [k, figure] of figures.entries()) {
    const word = (isAfter ? words[k] : words[k - 1]) ?? null;
    if (figure === '' && (isAfter ? k === figures.length - 1 : k === 0)) continue;
    if (!put(said, word, figure, unit)) return null;
  }
  return said;
}

function put(said: TypedPiece, word: string | null, figure: string, unit: 'mm' | 'in'): boolean {
  if (word === 'at' || word === 'deg' || word === '°' || word === 'turn') {
    const field = word === 'turn' ? 'turn' : 'at';
    if (said[field] !== null || !DEGREES.test(figure)) return false;
    said.texts[field] = { text: figure.replace('−', '-').replace(/^\+/, ''), unit: 'mm' };
    said[field] = (Number(figure.replace('−', '-').replace(',', '.')) * Math.PI) / 180;
    return true;
  }
  if (word === 'x' || word === 'y') {
    const at = parsePlace(figure, unit);
    if (said[word] !== null || at === null) return false;
    said[word] = at;
    said.texts[word] = { text: figure, unit };
    return true;
  }
  const found = parseLength(figure, unit);
  if (!found.ok) return false;
  if (word === 'r') {
    if (said.radius !== null) return false;
    said.radius = found.mm;
    said.texts.radius = { text: figure, unit };
  } else {
    if (said.length !== null) return false;
    said.length = { mm: found.mm, value: { text: figure, unit } };
  }
  return true;
}
