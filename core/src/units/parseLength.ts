/** The units in which a job can be read and typed. */
export type LengthUnit = 'mm' | 'in';

/** What the typed figure stands for: a plain length, a diameter (Ø) or a radius (R). */
type LengthRole = 'length' | 'diameter' | 'radius';

export type LengthFault =
  | 'empty'
  | 'not-a-length'
  | 'zero'
  | 'negative'
  | 'division-by-zero'
  | 'too-large'
  | 'bad-uncertainty';

export type LengthResult =
  | { ok: true; mm: number; role: LengthRole; plusMinusMm: number | null }
  | { ok: false; reason: LengthFault };

/** Longest length taken, mm: ten metres is beyond any picture of a part, so more is a slip of the finger. */
export const LONGEST_LENGTH_MM = 10_000;

const MM_PER: Record<string, number> = {
  mm: 1,
  cm: 10,
  dm: 100,
  m: 1000,
  µm: 0.001,
  um: 0.001,
  in: 25.4,
  inch: 25.4,
  inches: 25.4,
  '"': 25.4,
  ft: 304.8,
  foot: 304.8,
  feet: 304.8,
  "'": 304.8,
  thou: 0.0254,
};

/**
 * Reads a length as people write it: `12`, `12 mm`, `1,2 cm`, `1 3/8 in`, `5' 6 1/2"`, `Ø 8`, `R 4`,
 * each with an own ± behind it if wanted (`150 ± 0.05`, `150 +- 0.05 mm`). Two readings make what lies between them:
 * `31 to 43` is 12, `1 1/4 to 6 in` is 4 3/4 in.
 *
 * Frames and units: the result is in millimetres; a figure without a unit is in `unit`.
 * The ± is the half width of the 95 % interval, in the unit of the figure unless it names its own.
 * Degenerate: nothing, zero, below zero, a division by zero or letters that are no unit give a reason.
 */
export function parseLength(text: string, unit: LengthUnit): LengthResult {
  const [main = '', spread, more] = tidy(text).split('±');
  if (more !== undefined) return { ok: false, reason: 'bad-uncertainty' };
  const { role, rest } = takeRole(main);
  const length = parseSpan(rest, unit);
  if (!length.ok) return length;
  if (length.mm < 0) return { ok: false, reason: 'negative' };
  if (length.mm === 0) return { ok: false, reason: 'zero' };
  if (length.mm > LONGEST_LENGTH_MM) return { ok: false, reason: 'too-large' };
  if (spread === undefined) return { ok: true, mm: length.mm, role, plusMinusMm: null };
  const uncertainty = parseSum(spread.trim(), unit, length.lastUnit ?? undefined);
  if (!uncertainty.ok || uncertainty.mm < 0 || uncertainty.mm >= length.mm)
    return { ok: false, reason: 'bad-uncertainty' };
  return { ok: true, mm: length.mm, role, plusMinusMm: uncertainty.mm };
}

/** Both readings of `31 to 43`, mm, in the order in which they are said; null where they are not said. */
export function parseReadings(text: string, unit: LengthUnit): { fromMm: number; toMm: number } | null {
  const found = bothReadings(takeRole(tidy(text).split('±')[0]!).rest, unit);
  return found?.ok ? { fromMm: found.from.mm, toMm: found.to.mm } : null;
}

/**
 * Reads a place on a scale: like a length, but zero and negative places are allowed.
 * @returns millimetres, or null when the text is no number.
 */
export function parsePlace(text: string, unit: LengthUnit): number | null {
  const sum = parseSum(tidy(text), unit);
  return sum.ok && Math.abs(sum.mm) <= LONGEST_LENGTH_MM ? sum.mm : null;
}

type Sum = { ok: true; mm: number; lastUnit: string | null } | { ok: false; reason: LengthFault };

/** Brings the many characters for prime, minus, plus-minus and fractions down to one each. */
function tidy(text: string): string {
  return text
    .normalize('NFKC')
    .replace(/\u2044/g, '/')
    .replace(/[′’]/g, "'")
    .replace(/[″”“]|''/g, '"')
    .replace(/[−–]/g, '-')
    .replace(/\+\s*\/?\s*-/g, '±')
    .replace(/μ/g, 'µ')
    .replace(/\u00a0/g, ' ')
    .trim();
}

function takeRole(text: string): { role: LengthRole; rest: string } {
  const found = /^(ø|⌀|dia\.?|d(?=\s*\d)|r(?=\s*[\d.,]))\s*/i.exec(text.trim());
  if (!found) return { role: 'length', rest: text.trim() };
  const role = found[1]!.toLowerCase() === 'r' ? 'radius' : 'diameter';
  return { role, rest: text.trim().slice(found[0].length) };
}

/** What lies between two readings, either one first; or a length. A unit behind the second counts for both. */
function parseSpan(text: string, unit: LengthUnit): Sum {
  const both = bothReadings(text, unit);
  if (!both) return parseSum(text, unit);
  if (!both.ok) return both;
  const { from, to } = both;
  return { ok: true, mm: Math.abs(to.mm - from.mm), lastUnit: to.lastUnit ?? from.lastUnit };
}

type Found = Extract<Sum, { ok: true }>;

/** Null where there is only one figure. */
function bothReadings(
  text: string,
  unit: LengthUnit,
): { ok: true; from: Found; to: Found } | { ok: false; reason: LengthFault } | null {
  const readings = text.split(/\s+to\s+|\s*\.\.+\s*|\s*→\s*/i);
  if (readings.length === 1) return null;
  if (readings.length > 2) return { ok: false, reason: 'not-a-length' };
  const to = parseSum(readings[1]!, unit);
  if (!to.ok) return to;
  const from = parseSum(readings[0]!.replace(/^from\s+/i, ''), unit, to.lastUnit ?? undefined);
  return from.ok ? { ok: true, from, to } : from;
}

/** One or more figures with units in falling order (feet before inches), or one figure without. */
function parseSum(text: string, unit: LengthUnit, unitIfNone?: string): Sum {
  if (text === '') return { ok: false, reason: 'empty' };
  const sign = text.startsWith('-') ? -1 : 1;
  let rest = text.replace(/^[-+]\s*/, '');
  let mm = 0;
  let lastUnit: string | null = null;
  let lastFactor = Number.POSITIVE_INFINITY;
  while (rest !== '') {
    const figure = takeFigure(rest);
    if (!figure) return { ok: false, reason: 'not-a-length' };
    if (!Number.isFinite(figure.value)) return { ok: false, reason: 'division-by-zero' };
    const named = /^(mm|cm|dm|m|µm|um|inches|inch|in|ft|foot|feet|thou|"|')\.?(?![a-zµ])\s*/i.exec(figure.rest);
    const wanted: string = named ? named[1]!.toLowerCase() : lastUnit === "'" ? '"' : (unitIfNone ?? unit);
    const factor = MM_PER[wanted];
    if (factor === undefined || factor >= lastFactor || (!named && figure.rest !== ''))
      return { ok: false, reason: 'not-a-length' };
    mm += figure.value * factor;
    lastFactor = factor;
    lastUnit = named ? wanted : lastUnit;
    rest = named ? figure.rest.slice(named[0].length) : '';
  }
  return { ok: true, mm: sign * mm, lastUnit };
}

/** A decimal (point or comma), a whole number with a fraction, or a fraction. */
function takeFigure(text: string): { value: number; rest: string } | null {
  const found = /^(?:(\d+)[\s-]+)?(\d+)\s*\/\s*(\d+)\s*|^(\d+(?:[.,]\d+)?|[.,]\d+)\s*/.exec(text);
  if (!found) return null;
  const rest = text.slice(found[0].length);
  if (found[4] !== undefined) return { value: Number(found[4].replace(',', '.')), rest };
  return { value: Number(found[1] ?? 0) + Number(found[2]) / Number(found[3]), rest };
}
