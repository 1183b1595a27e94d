/** What the long and the short strokes of a ruler tell of its spacing. */
export interface Family {
  unit: 'mm' | 'in';
  /** The spacing that such a ruler has, mm. */
  spacingMm: number;
  /** The number, of those counted, of one of the longest strokes: where a whole centimetre or inch is. */
  whole: number;
  /** Spacings from one of the longest strokes to the next. */
  every: number;
}

const INCH_MM = 25.4;

/** Which strokes of a ruler are the longest, the next, and so on: those whose number is divided by each of these. */
const PATTERNS: readonly {
  unit: Family['unit'];
  spacingMm: number;
  every: number;
  levels: readonly number[];
}[] = [
  {
    unit: 'mm',
    spacingMm: 1,
    every: 10,
    levels: [10, 5],
  },
  {
    unit: 'mm',
    spacingMm: 0.5,
    every: 20,
    levels: [20, 10, 2],
  },
  { unit: 'mm', spacingMm: 2, every: 5, levels: [5] },
  { unit: 'mm', spacingMm: 5, every: 2, levels: [2] },
  {
    unit: 'in',
    spacingMm: INCH_MM / 8,
    every: 8,
    levels: [8, 4, 2],
  },
  {
    unit: 'in',
    spacingMm: INCH_MM / 16,
    every: 16,
    levels: [16, 8, 4, 2],
  },
  {
    unit: 'in',
    spacingMm: INCH_MM / 32,
    every: 32,
    levels: [32, 16, 8, 4, 2],
  },
];

/** A pattern leaves at most so much of the lengths unexplained, as a share of their variance. */
const MOST_UNEXPLAINED = 0.45;
/** From level to level strokes are longer by so much at least, as a share of all that they differ by. */
const LEAST_GAP = 0.12;
/**
 * What a pattern leaves unexplained must be so many times what the best one leaves, beyond what lengths scatter by in
 * themselves, for it to be out of the question: a folding rule with strokes every 2 mm, each fifth of them long, looks
 * half like one of millimetres.
 */
const CLEARLY_WORSE = 1.2;
const SCATTER = 0.01;
/** And so much less likely by all strokes together: twice the logarithm of the odds. */
const CLEAR_ODDS = 20;
const FEWEST = 12;

/**
 * The families that a ruler may be of, by how long its strokes are, the likeliest first: tens and fives of millimetres,
 * or halves, quarters, eighths and sixteenths of an inch. More than one where their patterns fit nearly as well: that is
 * asked, not guessed. None where no pattern explains the lengths.
 */
export function tellFamilies(graduations: readonly { n: number; length: number }[]): Family[] {
  const seen = graduations.filter((s) => s.length > 0);
  if (seen.length < FEWEST) return [];
  const cap = quantile(
    seen.map((s) => s.length),
    0.95,
  );
  const lengths = seen.map((s) => Math.min(s.length, 1.15 * cap));
  const mean = lengths.reduce((sum, l) => sum + l, 0) / lengths.length;
  const total = lengths.reduce((sum, l) => sum + (l - mean) ** 2, 0);
  if (!(total > 0)) return [];
  const numbers = seen.map((s) => s.n);
  const tried = PATTERNS.flatMap((pattern) =>
    Array.from({ length: pattern.every }, (_, phase) => {
      const unexplained = unexplainedBy(pattern.levels, phase, numbers, lengths) / total;
      // As many more strokes as a pattern has levels would be explained by chance.
      return {
        pattern,
        phase,
        unexplained: SCATTER + unexplained * lengths.length ** (pattern.levels.length / lengths.length),
      };
    }),
  ).sort((p, q) => p.unexplained - q.unexplained);
  const best = tried[0]!;
  if (!(best.unexplained < MOST_UNEXPLAINED)) return [];
  const least = Math.max(CLEARLY_WORSE, Math.exp(CLEAR_ODDS / seen.length));
  const near = tried.filter((t) => t.unexplained < least * best.unexplained);
  return near
    .filter((t, k) => near.findIndex((other) => other.pattern === t.pattern) === k)
    .map(({ pattern: { unit, spacingMm, every }, phase }) => ({ unit, spacingMm, every, whole: phase }));
}

/**
 * Sum of squares that a pattern leaves: each of its levels has a length of its own, clearly longer than the next one's,
 * as engravers make them; lengths that are not are moved apart.
 */
function unexplainedBy(
  levels: readonly number[],
  phase: number,
  numbers: readonly number[],
  lengths: readonly number[],
): number {
  const level = (n: number) => {
    const k = levels.findIndex((divisor) => (n - phase) % divisor === 0);
    return k < 0 ? levels.length : k;
  };
  const [sums, counts] = [new Float64Array(levels.length + 1), new Float64Array(levels.length + 1)];
  numbers.forEach((n, k) => {
    const own = level(n);
    sums[own]! += lengths[k]!;
    counts[own]! += 1;
  });
  const gap = LEAST_GAP * (Math.max(...lengths) - Math.min(...lengths));
  const means: number[] = [];
  for (let k = levels.length; k >= 0; k--) {
    const below = means[k + 1];
    const least = below === undefined ? Number.NEGATIVE_INFINITY : below + gap;
    means[k] = Math.max(least, counts[k]! ? sums[k]! / counts[k]! : least === Number.NEGATIVE_INFINITY ? 0 : least);
  }
  return numbers.reduce((sum, n, k) => sum + (lengths[k]! - means[level(n)]!) ** 2, 0);
}

function quantile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]!;
}
