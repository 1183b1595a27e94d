import { describe, expect, it } from 'vitest';
import { normalRandom, seededRandom } from '../../numeric';
import { tellFamilies } from './family';

/** How long the strokes of real scales are, mm: each engraver has proportions of his own. */
const SCALES: readonly { name: string; spacingMm: number; lengthOf(n: number): number }[] = [
  { name: 'millimetres', spacingMm: 1, lengthOf: (n) => (n % 10 ? (n % 5 ? 3 : 4.5) : 6) },
  { name: 'millimetres with tens alone', spacingMm: 1, lengthOf: (n) => (n % 10 ? 3 : 6) },
  { name: 'half millimetres', spacingMm: 0.5, lengthOf: (n) => (n % 20 ? (n % 10 ? (n % 2 ? 2.5 : 4) : 5) : 6) },
  { name: 'a folding rule of 2 mm', spacingMm: 2, lengthOf: (n) => (n % 5 ? 3 : 6) },
  { name: 'fives and tens', spacingMm: 5, lengthOf: (n) => (n % 2 ? 3 : 6) },
  { name: 'eighths', spacingMm: 25.4 / 8, lengthOf: (n) => (n % 8 ? (n % 4 ? (n % 2 ? 3 : 4.5) : 6) : 8) },
  {
    name: 'sixteenths',
    spacingMm: 25.4 / 16,
    lengthOf: (n) => (n % 16 ? (n % 8 ? (n % 4 ? (n % 2 ? 3 : 4) : 5.5) : 7) : 9),
  },
  {
    name: 'thirty-seconds',
    spacingMm: 25.4 / 32,
    lengthOf: (n) => (n % 32 ? (n % 16 ? (n % 8 ? (n % 4 ? (n % 2 ? 3.5 : 4.5) : 5.5) : 6.5) : 7.5) : 9),
  },
];

/** A stretch of a scale, its proportions bent and its lengths strayed by so much. */
function stretch({ lengthOf }: (typeof SCALES)[number], seed: number, strayMm: number) {
  const random = seededRandom(seed);
  const normal = normalRandom(random);
  const bent = 0.6 + 0.8 * random();
  const [count, phase] = [30 + Math.floor(120 * random()), Math.floor(32 * random())];
  return Array.from({ length: count }, (_, n) => ({
    n,
    length: 3 + 6 * Math.max(0, (lengthOf(n + phase) - 2.5) / 6) ** bent + strayMm * normal(),
  }));
}

describe('the scale of a ruler, by the lengths of its strokes', () => {
  it.each(SCALES)('of $name is told, or is among those offered, never another one alone', (scale) => {
    let told = 0;
    for (const strayMm of [0.1, 0.3])
      for (let seed = 1; seed <= 40; seed++) {
        const families = tellFamilies(stretch(scale, seed, strayMm));
        const isIn = families.some((f) => Math.abs(f.spacingMm / scale.spacingMm - 1) < 1e-6);
        if (families.length > 0) expect(isIn).toBe(true);
        if (families.length === 1) told += 1;
      }
    expect(told).toBeGreaterThan(25);
  });
});
