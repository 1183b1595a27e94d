import { detrended } from '../shared/repeat';

/** What repeats itself along a profile, however faint: where each of its marks stands, told by all about it. */
export interface Comb {
  /** Places of the marks along the profile, samples, in order and without a gap. */
  marks: number[];
  /** About each of them, samples from one to the next. */
  strides: number[];
  /** Samples from mark to mark, in the middle. */
  period: number;
  /** How far what repeats stands out of what does not, in the middle. */
  clear: number;
  /** Marks are dips of the profile, and not bumps. */
  dark: boolean;
}

/** A place is judged by so many periods to both sides of it. */
const HALF_WINDOW = 8;
/** Periods that are tried, against a rough one: as far apart as a window tells them, then finer about the best. */
const SHARES = { coarse: [0.86, 0.91, 0.96, 1, 1.04, 1.09, 1.14], fine: [0.97, 0.98, 0.99, 1.01, 1.02, 1.03] } as const;
/** From one look to the next, periods. */
const HOP = 2;
/** What repeats itself is so many times what does not: to begin with, and to go on. */
const CLEAR = { first: 5, next: 2.2 } as const;
/** Where it does not for longer than this, the row has ended, periods. */
const LONGEST_GAP = 12;
/** Beyond a gap the phase must be where it is foretold to this, turns. */
const MOST_DOUBT = 0.3;
/** Other periods, against the own one, of which none is a multiple: what they show is noise. */
const OTHERS = [0.62, 0.71, 0.83, 1.2, 1.37, 1.55] as const;
/** Rows may be seen ending this far beyond the last look that was clear, periods. */
const BEYOND = 14;

/**
 * The marks of a profile that stand evenly, or nearly so, such as the strokes of a ruler seen askew. Each window of it
 * is compared with a wave of the period (synchronous demodulation), whose phase is followed from where it is clearest
 * to both sides: a mark that is missing or noisy does not shift the count.
 *
 * In: a profile, and the least and greatest period, samples. Out: null where nothing repeats
 * itself clearly.
 */
export function findComb(raw: Float64Array, least: number, most: number): Comb | null {
  // Slow changes would drown the quick ones: each octave of periods is looked at without what is slower.
  for (let top = 1.6 * least; top / 1.6 < Math.min(most, raw.length / 8); top *= 1.6) {
    const profile = detrended(raw, Math.round(DETREND * top));
    for (const rough of likelyPeriods(profile, Math.max(least, top / 1.8), Math.min(most, 1.1 * top))) {
      const comb = combOf(profile, rough);
      if (comb) return comb;
    }
  }
  return null;
}

/** Slow is what takes longer than so many periods to both sides. */
const DETREND = 1.1;

/** Periods at which a profile repeats itself better than at those beside them, the shortest first. */
function likelyPeriods(profile: Float64Array, least: number, most: number): number[] {
  const match = (lag: number) => {
    let sum = 0;
    for (let k = 0; k + lag < profile.length; k++) sum += profile[k]! * profile[k + lag]!;
    return sum / (profile.length - lag);
  };
  const found: number[] = [];
  const first = Math.floor(least);
  let [before, own] = [match(first - 1), match(first)];
  for (let lag = first; lag <= most; lag++) {
    const next = match(lag + 1);
    if (own >= before && own > next) found.push(lag);
    [before, own] = [own, next];
  }
  return found;
}

/** A stride is the mean of so many to both sides. */
const SMOOTH = 6;

interface Wave {
  re: number;
  im: number;
}

function combOf(profile: Float64Array, rough: number): Comb | null {
  const reach = Math.round(HALF_WINDOW * rough);
  const window = Float64Array.from(
    { length: 2 * reach + 1 },
    (_, k) => 0.5 + 0.5 * Math.cos((Math.PI * (k - reach)) / reach),
  );
  /** The wave of a period about a place: its phase is that at the place. */
  const waveAt = (centre: number, period: number): Wave => {
    const turn = (2 * Math.PI) / period;
    const middle = Math.round(centre);
    const from = Math.max(0, middle - reach);
    const to = Math.min(profile.length - 1, middle + reach);
    // Cosine and sine go on by one turn each: a tenth of the time of asking for them.
    const stepC = Math.cos(turn);
    const stepS = Math.sin(turn);
    let c = Math.cos(turn * (from - centre));
    let s = Math.sin(turn * (from - centre));
    let [re, im, weight] = [0, 0, 0];
    for (let k = from; k <= to; k++) {
      const w = window[k - middle + reach]!;
      const own = w * profile[k]!;
      re += own * c;
      im -= own * s;
      weight += w;
      const next = c * stepC - s * stepS;
      s = s * stepC + c * stepS;
      c = next;
    }
    return { re: re / weight, im: im / weight };
  };
  const sizeOf = ({ re, im }: Wave) => Math.hypot(re, im);
  const clearAt = (centre: number, period: number) => {
    const noise = OTHERS.map((share) => sizeOf(waveAt(centre, share * period))).sort((a, b) => a - b);
    return sizeOf(waveAt(centre, period)) / Math.max(1e-9, (noise[2]! + noise[3]!) / 2);
  };
  // Where it is clearest, and its own period there.
  let start = { at: 0, period: rough, size: 0 };
  const look = (at: number, period: number) => {
    const size = sizeOf(waveAt(at, period));
    if (size > start.size) start = { at, period, size };
  };
  for (let at = reach; at < profile.length - reach; at += Math.max(1, Math.round(reach / 2)))
    for (const share of SHARES.coarse) look(at, share * rough);
  const { at, period } = start;
  for (const share of SHARES.fine) look(at, share * period);
  const clear = clearAt(start.at, start.period);
  if (clear < CLEAR.first) return null;

  const knots = [
    ...follow(start, -1, profile.length, waveAt, clearAt).reverse(),
    { at: start.at, phase: phaseOf(waveAt(start.at, start.period)), period: start.period },
    ...follow(start, 1, profile.length, waveAt, clearAt),
  ];
  const dark = isDark(profile, knots);
  const marks = marksOf(knots, dark, profile.length);
  const kept = withinRow(profile, marks, dark, knots);
  if (kept.length < 2) return null;
  const strides = kept.map((_, k) => {
    const [from, to] = [Math.max(0, k - SMOOTH), Math.min(kept.length - 1, k + SMOOTH)];
    return (kept[to]! - kept[from]!) / (to - from);
  });
  return { marks: kept, strides, period: start.period, clear, dark };
}

interface Knot {
  at: number;
  /** Unwrapped, rad. */
  phase: number;
  period: number;
}

const phaseOf = ({ re, im }: Wave): number => Math.atan2(im, re);
const wrapped = (angle: number): number => angle - 2 * Math.PI * Math.round(angle / (2 * Math.PI));

/** The phase from the start on, one way, as long as what repeats itself stands out. */
function follow(
  start: { at: number; period: number },
  sense: 1 | -1,
  length: number,
  waveAt: (centre: number, period: number) => Wave,
  clearAt: (centre: number, period: number) => number,
): Knot[] {
  const knots: Knot[] = [];
  let last: Knot = { at: start.at, phase: phaseOf(waveAt(start.at, start.period)), period: start.period };
  let gap = 0;
  for (;;) {
    const hop = sense * HOP * last.period * (1 + gap);
    const at = last.at + hop;
    if (at < 0 || at > length - 1 || HOP * (gap + 1) > LONGEST_GAP) break;
    if (clearAt(at, last.period) < CLEAR.next) {
      gap += 1;
      continue;
    }
    const foretold = last.phase + (2 * Math.PI * hop) / last.period;
    const off = wrapped(phaseOf(waveAt(at, last.period)) - foretold);
    if (gap > 0 && Math.abs(off) > 2 * Math.PI * MOST_DOUBT) break;
    const phase = foretold + off;
    // What the phase ran ahead over the hop tells the period there; half of it is believed.
    const turns = (phase - last.phase) / (2 * Math.PI);
    const period = 0.5 * last.period + 0.5 * (hop / turns);
    last = { at, phase, period };
    knots.push(last);
    gap = 0;
  }
  return knots;
}

/** The phase of a place, beyond the knots as the last of them foretell. */
function phaseAt(knots: readonly Knot[], at: number): number {
  let k = 0;
  while (k < knots.length - 2 && knots[k + 1]!.at < at) k++;
  const [p, q] = [knots[k]!, knots[k + 1] ?? knots[k]!];
  if (at < knots[0]!.at) return p.phase + (2 * Math.PI * (at - p.at)) / p.period;
  const end = knots.at(-1)!;
  if (at >= end.at) return end.phase + (2 * Math.PI * (at - end.at)) / end.period;
  return p.phase + ((q.phase - p.phase) * (at - p.at)) / (q.at - p.at);
}

/** Whether the narrow part of what repeats itself is the dark one: folded by the phase, its third moment tells. */
function isDark(profile: Float64Array, knots: readonly Knot[]): boolean {
  const bins = 16;
  const sum = new Float64Array(bins);
  const count = new Float64Array(bins);
  for (let at = Math.ceil(knots[0]!.at); at <= knots.at(-1)!.at; at++) {
    const turn = phaseAt(knots, at) / (2 * Math.PI);
    const bin = Math.floor(bins * (turn - Math.floor(turn))) % bins;
    sum[bin]! += profile[at]!;
    count[bin]! += 1;
  }
  const folded = sum.map((v, k) => v / Math.max(1, count[k]!));
  const mean = folded.reduce((a, b) => a + b, 0) / bins;
  const square = folded.reduce((a, b) => a + (b - mean) ** 2, 0) / bins;
  const skew = folded.reduce((a, b) => a + (b - mean) ** 3, 0) / bins / Math.max(1e-12, square) ** 1.5;
  return skew < LIGHT_SKEW;
}

/** From this skew on marks are taken to be light ones: nearly all are dark, and blur leaves little of a skew. */
const LIGHT_SKEW = 0.4;

/** Places of all marks, some beyond both ends. */
function marksOf(knots: readonly Knot[], dark: boolean, length: number): number[] {
  const own = dark ? Math.PI : 0;
  const marks: number[] = [];
  const [from, to] = [knots[0]!, knots.at(-1)!];
  const first = Math.ceil((phaseAt(knots, from.at - BEYOND * from.period) - own) / (2 * Math.PI));
  const last = Math.floor((phaseAt(knots, to.at + BEYOND * to.period) - own) / (2 * Math.PI));
  let at = from.at - BEYOND * from.period;
  for (let n = first; n <= last; n++) {
    const wanted = own + 2 * Math.PI * n;
    // The phase grows steadily: a few steps of Newton's with the period about there.
    for (let step = 0; step < 6; step++) at += ((wanted - phaseAt(knots, at)) / (2 * Math.PI)) * from.period * 0.95;
    for (let step = 0; step < 4; step++) at += ((wanted - phaseAt(knots, at)) / (2 * Math.PI)) * to.period * 0.95;
    if (at > 1 && at < length - 2) marks.push(at);
    at += to.period;
  }
  return marks;
}

/**
 * Of marks those of the row: from its middle outwards up to where the sum of what speaks for a mark as deep as usual
 * being there, against none, is greatest.
 */
function withinRow(profile: Float64Array, marks: readonly number[], dark: boolean, knots: readonly Knot[]): number[] {
  const period =
    (knots.at(-1)!.at - knots[0]!.at) /
    Math.max(1, Math.round((knots.at(-1)!.phase - knots[0]!.phase) / (2 * Math.PI)));
  const depth = marks.map((at, k) => {
    const own = k > 0 ? at - marks[k - 1]! : (marks[k + 1] ?? at + period) - at;
    const mean = (from: number, to: number) => {
      let [sum, n] = [0, 0];
      for (let j = Math.round(from); j <= Math.round(to); j++) {
        const v = profile[j];
        if (v !== undefined) [sum, n] = [sum + v, n + 1];
      }
      return n ? sum / n : 0;
    };
    const on = mean(at - 0.2 * own, at + 0.2 * own);
    const beside = (mean(at - 0.65 * own, at - 0.35 * own) + mean(at + 0.35 * own, at + 0.65 * own)) / 2;
    return dark ? beside - on : on - beside;
  });
  const inner = depth
    .filter((_, k) => marks[k]! >= knots[0]!.at && marks[k]! <= knots.at(-1)!.at)
    .sort((a, b) => a - b);
  const usual = inner[inner.length >> 1] ?? 0;
  if (usual <= 0) return [];
  const middle = marks.findIndex((at) => at >= (knots[0]!.at + knots.at(-1)!.at) / 2);
  const reach = (sense: 1 | -1): number => {
    let [sum, best, end] = [0, 0, middle];
    for (let k = middle; k >= 0 && k < marks.length; k += sense) {
      // One mark speaks for itself no more than a usual one does, and against itself no more than one half as high.
      sum += Math.max(-2, Math.min(1, (2 * depth[k]!) / usual - 1));
      if (sum > best) [best, end] = [sum, k];
    }
    return end;
  };
  return marks.slice(reach(-1), reach(1) + 1);
}
