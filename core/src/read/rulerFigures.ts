import type { Family } from '../find';
import { medianOf } from '../numeric';

/** Spacings that differ by a smaller share are one: both were worked out from whole figures. */
const SAME_SPACING = 1e-6;

/** What a ruler's figures count. */
type FigureUnit = 'mm' | 'cm' | 'in';

/** One figure as it was read, over a stroke of the ruler. */
export interface ReadFigure {
  value: number;
  /** Where its middle stands, in numbers of strokes. */
  n: number;
  /** Its row across the ruler, in periods. */
  down: number;
  /** How tall and how wide it is, periods. */
  tall: number;
  wide: number;
  /** 0 to 100. */
  confidence: number;
}

/** Why a ruler's figures do not go with its strokes. */
type FigureDoubt =
  /** Between two figures there are more strokes, or fewer, than were counted. */
  | { kind: 'count'; from: number; to: number; strokes: number; counted: number }
  /** Long and short strokes tell of another scale. */
  | { kind: 'lengths' };

export interface RulerReading {
  figures: ReadFigure[];
  unit: FigureUnit;
  /** What else figures of that step may count: to be asked. */
  orUnit: FigureUnit | null;
  spacingMm: number;
  /** What the ruler reads at its first and at its last stroke, in the unit of its figures. */
  first: number;
  last: number;
  doubt: FigureDoubt | null;
}

const MM: Record<FigureUnit, number> = { mm: 1, cm: 10, in: 25.4 };

interface Scale {
  unit: FigureUnit;
  orUnit?: FigureUnit;
  /** Of the figures from stroke to stroke. */
  step: number;
  /** Figures stand on multiples of this. */
  multiple?: number;
}

/** Scales that are made: what the figures count, and how much of it lies from stroke to stroke. */
const SCALES: readonly Scale[] = [
  { unit: 'cm', orUnit: 'in', step: 0.1 },
  { unit: 'cm', step: 0.05 },
  { unit: 'cm', step: 0.2 },
  { unit: 'cm', orUnit: 'in', step: 0.5 },
  { unit: 'mm', step: 1, multiple: 5 },
  { unit: 'mm', step: 0.5, multiple: 5 },
  { unit: 'mm', step: 2, multiple: 10 },
  { unit: 'mm', step: 5, multiple: 10 },
  { unit: 'in', step: 1 / 4 },
  { unit: 'in', step: 1 / 8 },
  { unit: 'in', step: 1 / 16 },
  { unit: 'in', step: 1 / 32 },
  { unit: 'in', step: 1 / 64 },
];

/** A figure stands this near to its stroke, against the strokes from one figure to the next, and at least so near. */
const NEAR_SHARE = 0.15;
const LEAST_NEAR = 1.6;
/** Figures of one row lie within this of it, against how tall they are. */
const ROW = 0.7;
/** So many different ones tell a scale, alone or where the lengths of the strokes bear it out. */
const FEWEST = { alone: 3, borneOut: 2 } as const;
/** Of the clear figures in the row so many fit, or the row is not believed. */
const MOST_STRAY = 0.34;
const CLEAR = 50;
/** Strokes by which the figures before and after a place disagree, from which the count is in doubt. */
const SLIP = 0.6;

interface Fit {
  scale: Scale;
  sense: 1 | -1;
  /** The stroke at which the scale reads nothing. */
  origin: number;
  fitting: ReadFigure[];
  stray: number;
}

/**
 * What the figures of a ruler say: which scale puts most of them in their places, so that a figure read wrong stands
 * alone. In: words read along it, by the numbers of strokes that they stand over; the families that the lengths of the
 * strokes allow; the ruler's first and last stroke. Out: the scale and both ends' readings, with what contradicts them;
 * null where no scale holds enough figures together.
 */
export function readRuler(
  read: readonly ReadFigure[],
  families: readonly Family[],
  first: number,
  last: number,
): RulerReading | null {
  const fits = SCALES.flatMap((scale) => {
    const fewest = families.some((f) => isOf(f, scale)) ? FEWEST.borneOut : FEWEST.alone;
    return ([1, -1] as const).map((sense) => fitScale(read, scale, sense, fewest));
  }).filter((fit): fit is Fit => fit !== null);
  const fit = fits.sort((a, b) => weightOf(b) - weightOf(a) || a.scale.step - b.scale.step)[0];
  if (!fit || fit.stray > MOST_STRAY * (fit.fitting.length + fit.stray)) return null;
  const { scale, sense, fitting } = fit;
  const family = families.find((f) => isOf(f, scale));
  const unit = family?.unit === 'in' && scale.orUnit === 'in' ? 'in' : scale.unit;
  const origin = settleOrigin(fit, family ?? null);
  // Nothing added to a nothing that is less than it makes it plain.
  const at = (n: number): number => sense * scale.step * (n - origin) + 0;
  return {
    figures: fitting,
    unit,
    orUnit: !family && scale.orUnit && scale.orUnit !== unit ? scale.orUnit : null,
    spacingMm: scale.step * MM[unit],
    first: at(first),
    last: at(last),
    doubt: slipOf(fit) ?? (families.length > 0 && !family ? { kind: 'lengths' } : null),
  };
}

const weightOf = ({ fitting, stray }: Fit): number => fitting.length - stray;

const isOf = ({ spacingMm }: Family, { unit, orUnit, step }: Scale): boolean =>
  [unit, ...(orUnit ? [orUnit] : [])].some((u) => Math.abs(spacingMm / (step * MM[u]) - 1) < SAME_SPACING);

function fitScale(read: readonly ReadFigure[], scale: Scale, sense: 1 | -1, fewest: number): Fit | null {
  const multiple = scale.multiple ?? 1;
  const apart = multiple / scale.step;
  const near = Math.max(LEAST_NEAR, NEAR_SHARE * apart);
  // A figure step of less than two strokes tells nothing from its neighbours.
  if (apart < 1.5) return null;
  const originOf = (f: ReadFigure): number => f.n - (sense * f.value) / scale.step;
  let best: Fit | null = null;
  for (const seed of read) {
    if (seed.value % multiple !== 0) continue;
    const row = read.filter((f) => Math.abs(f.down - seed.down) < ROW * Math.max(f.tall, seed.tall));
    const origin = originOf(seed);
    const fitting = row.filter((f) => f.value % multiple === 0 && Math.abs(originOf(f) - origin) < near);
    const clear = fewest < FEWEST.alone ? fitting.filter((f) => f.confidence >= CLEAR) : fitting;
    if (new Set(fitting.map((f) => f.value)).size < FEWEST.alone && new Set(clear.map((f) => f.value)).size < fewest)
      continue;
    const stray = row.filter((f) => !fitting.includes(f) && f.confidence >= CLEAR).length;
    const fit = { scale, sense, origin: medianOf(fitting.map(originOf)), fitting, stray };
    if (!best || weightOf(fit) > weightOf(best)) best = fit;
  }
  return best;
}

/** Figures stand at their strokes, or all beside them by as much: the nearest stroke that is long is theirs. */
function settleOrigin({ origin, scale, fitting }: Fit, family: Family | null): number {
  if (!family) return Math.round(origin);
  // A whole centimetre or inch is at `whole`, and so is every multiple of it.
  const apart = fitting.reduce((all, f) => common(all, f.value), 0) / scale.step;
  const step = apart >= family.every - 0.5 ? family.every : Math.max(1, Math.round(apart));
  return family.whole + step * Math.round((origin - family.whole) / step);
}

/** The greatest common divisor. */
const common = (a: number, b: number): number => (b === 0 ? a : common(b, a % b));

/**
 * Where the figures before a place stand by more than half a stroke elsewhere than those after it; of an even number of
 * them both middle ones do, since a single figure that was moved to stand on the ruler is no slip of the count.
 */
function slipOf(fit: Fit): FigureDoubt | null {
  // Figures stand by their middle or by either end, and those of two digits are wider than those of one.
  const slips = [0, -0.5, 0.5].map((end) => slipBy(fit, end));
  return slips.every((slip) => slip !== null) ? slips[0]! : null;
}

/** The same by one place of each figure: its middle at 0, its ends at half its width. */
function slipBy({ fitting, scale, sense }: Fit, end: number): FigureDoubt | null {
  const figures = [...fitting].sort((a, b) => a.n - b.n);
  const off = figures.map((f) => f.n + end * f.wide - (sense * f.value) / scale.step);
  let worst: { slip: number; k: number; left: number } | null = null;
  for (let k = 2; k + 2 <= off.length; k++) {
    const [before, after] = [off.slice(0, k), off.slice(k)];
    const [a, b] = nearest(middles(before), middles(after));
    const left = [...before.map((o) => o - a), ...after.map((o) => o - b)].reduce((sum, o) => sum + Math.abs(o), 0);
    if (Math.abs(b - a) > SLIP && (!worst || left < worst.left)) worst = { slip: b - a, k, left };
  }
  if (!worst) return null;
  const [a, b] = [figures[worst.k - 1]!, figures[worst.k]!];
  const strokes = Math.round(Math.abs(b.value - a.value) / scale.step);
  return { kind: 'count', from: a.value, to: b.value, strokes, counted: strokes + Math.round(worst.slip) };
}

/** The middle of several values, or both where there are two. */
function middles(values: readonly number[]): number[] {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted.slice((sorted.length - 1) >> 1, (sorted.length >> 1) + 1);
}

/** Of each the one nearest to the other. */
function nearest(some: readonly number[], others: readonly number[]): [number, number] {
  const pairs = some.flatMap((a) => others.map((b): [number, number] => [a, b]));
  return pairs.reduce((p, q) => (Math.abs(q[1] - q[0]) < Math.abs(p[1] - p[0]) ? q : p));
}
