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

/** How long each stroke of a ruler is against its like, by how its number divides: 1 for the longest. */
const PATTERNS: readonly {
  unit: Family['unit'];
  spacingMm: number;
  every: number;
  rank: readonly [number, number][];
}[] = [
  {
    unit: 'mm',
    spacingMm: 1,
    every: 10,
    rank: [
      [10, 1],
      [5, 0.5],
    ],
  },
  {
    unit: 'mm',
    spacingMm: 0.5,
    every: 20,
    rank: [
      [20, 1],
      [10, 0.65],
      [2, 0.35],
    ],
  },
  {
    unit: 'in',
    spacingMm: INCH_MM / 8,
    every: 8,
    rank: [
      [8, 1],
      [4, 0.67],
      [2, 0.33],
    ],
  },
  {
    unit: 'in',
    spacingMm: INCH_MM / 16,
    every: 16,
    rank: [
      [16, 1],
      [8, 0.75],
      [4, 0.5],
      [2, 0.25],
    ],
  },
  {
    unit: 'in',
    spacingMm: INCH_MM / 32,
    every: 32,
    rank: [
      [32, 1],
      [16, 0.8],
      [8, 0.6],
      [4, 0.4],
      [2, 0.2],
    ],
  },
];

/** A pattern explains the lengths at least so well (share of their variance). */
const LEAST_EXPLAINED = 0.55;
/** And so much better than the next best of the other unit. */
const CLEARLY = 0.1;
const FEWEST = 12;

/**
 * Tells the family of a ruler from how long its strokes are: tens and fives of millimetres, or halves, quarters, eighths
 * and sixteenths of an inch. Null where no pattern explains them, or two nearly as well.
 */
export function tellFamily(graduations: readonly { n: number; length: number }[]): Family | null {
  const seen = graduations.filter((s) => s.length > 0);
  if (seen.length < FEWEST) return null;
  const cap = quantile(
    seen.map((s) => s.length),
    0.95,
  );
  const lengths = seen.map((s) => Math.min(s.length, 1.15 * cap));
  const tried = PATTERNS.flatMap((pattern) =>
    Array.from({ length: pattern.every }, (_, phase) => ({
      pattern,
      phase,
      explained: correlation(
        lengths,
        seen.map((s) => rankOf(s.n - phase, pattern.rank)),
      ),
    })),
  ).sort((p, q) => q.explained - p.explained);
  const best = tried[0]!;
  const rival = tried.find((t) => t.pattern.unit !== best.pattern.unit);
  if (!(best.explained ** 2 > LEAST_EXPLAINED)) return null;
  if (rival && best.explained - rival.explained < CLEARLY) return null;
  const { unit, spacingMm, every } = best.pattern;
  return { unit, spacingMm, every, whole: best.phase };
}

function rankOf(n: number, rank: readonly [number, number][]): number {
  for (const [divisor, value] of rank) if (n % divisor === 0) return value;
  return 0;
}

function correlation(a: readonly number[], b: readonly number[]): number {
  const mean = (v: readonly number[]) => v.reduce((s, x) => s + x, 0) / v.length;
  const [ma, mb] = [mean(a), mean(b)];
  let [ab, aa, bb] = [0, 0, 0];
  for (let k = 0; k < a.length; k++) {
    ab += (a[k]! - ma) * (b[k]! - mb);
    aa += (a[k]! - ma) ** 2;
    bb += (b[k]! - mb) ** 2;
  }
  return aa * bb > 0 ? ab / Math.sqrt(aa * bb) : 0;
}

function quantile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]!;
}
