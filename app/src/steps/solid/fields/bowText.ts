import type { Vec2 } from '@steady-moth/core/geometry';
import { type LengthUnit, parseLength } from '@steady-moth/core/units';

const MM_PER: Record<LengthUnit, number> = { mm: 1, in: 25.4 };

/** Places of a line as they are typed: x and y of each, a semicolon between two. */
export const bowText = (places: readonly Vec2[], unit: LengthUnit): string =>
  places
    .map(({ x, y }) => [x, y].map((v) => String(Number((v / MM_PER[unit]).toFixed(unit === 'in' ? 4 : 2)))).join(' '))
    .join('; ');

/** Places from what was typed, in order of x, mm; null where it is not two of them or more, each further on than the last. */
export function bowFrom(text: string, unit: LengthUnit): Vec2[] | null {
  const places = text
    .split(';')
    .filter((part) => part.trim() !== '')
    .map((part) =>
      part
        .trim()
        .split(/\s+/)
        .map((word) => figureOf(word, unit)),
    );
  if (places.length < 2 || places.some((two) => two.length !== 2 || two.includes(null))) return null;
  const sorted = places.map(([x, y]) => ({ x: x!, y: y! })).sort((a, b) => a.x - b.x);
  return sorted.every((p, k) => k === 0 || p.x > sorted[k - 1]!.x) ? sorted : null;
}

function figureOf(word: string, unit: LengthUnit): number | null {
  const isBelow = /^[-\u2212]/.test(word);
  const plain = isBelow ? word.slice(1) : word;
  if (/^0+([.,]0*)?$/.test(plain)) return 0;
  const found = parseLength(plain, unit);
  return found.ok ? (isBelow ? -found.mm : found.mm) : null;
}
