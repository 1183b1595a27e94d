import { limitsOf, TOLERANCE_CLASS } from './fits';
import { type LengthUnit, parseLength } from './parseLength';

/** Why a formula is none. */
export type FormulaFault =
  | {
      reason:
        | 'empty'
        | 'unreadable'
        | 'divides-by-zero'
        | 'no-length'
        | 'no-number'
        | 'too-large'
        | 'no-fit'
        | 'no-root';
    }
  | { reason: 'unknown-name' | 'goes-round'; name: string };

/** `plusMinusMm`: how far it may be off at most, where that was typed for what it is made of; 0 where nothing was. */
export type FormulaResult = { ok: true; mm: number; plusMinusMm: number } | { ok: false; fault: FormulaFault };
export type NumberResult = { ok: true; value: number } | { ok: false; fault: FormulaFault };

/** A value on its way: how often millimetres stand in it, and whether it is a bare figure, which may become a length. */
interface Value {
  value: number;
  power: number;
  bare: boolean;
  /** How far it may be off at most, in the same figures. */
  spread: number;
}

/** Longer ones than this are not read, and no length is larger, mm. */
const LONGEST_TEXT = 80;
const LARGEST_MM = 1e5;
/** No bare number is larger: no count and no angle is. */
const LARGEST_NUMBER = 1e6;
const DEEPEST = 40;

/** A length that was typed with a ±, mm. */
export interface Spread {
  mm: number;
  plusMinusMm: number;
}

/** What a name stands for, mm; null for one that is not known; or what is wrong with it. */
export type NameLookup = (name: string) => number | Spread | null | FormulaFault;

/** What is added of the ± of something. */
const BOUNDS: Readonly<Record<string, 1 | -1 | undefined>> = { most: 1, least: -1 };

const RAD = Math.PI / 180;

/** Angles are degrees, as everywhere on a drawing. */
const bareOnly =
  (f: (v: number) => number, slope: (v: number) => number): Work =>
  (v) => {
    if (v.power !== 0) throw new Fault({ reason: 'no-number' });
    return { ...v, value: f(v.value), bare: true, spread: Math.abs(slope(v.value)) * v.spread };
  };
type Work = (v: Value) => Value;

const FUNCTIONS: Readonly<Record<string, Work>> = {
  sqrt: (v) => {
    if (v.power % 2 !== 0) throw new Fault({ reason: 'no-length' });
    if (v.value < 0) throw new Fault({ reason: 'no-root' });
    const root = Math.sqrt(v.value);
    return { ...v, value: root, power: v.power / 2, spread: root > 0 ? v.spread / (2 * root) : 0 };
  },
  abs: (v) => ({ ...v, value: Math.abs(v.value) }),
  round: (v) => ({ ...v, value: Math.round(v.value) }),
  sin: bareOnly(
    (v) => Math.sin(v * RAD),
    (v) => RAD * Math.cos(v * RAD),
  ),
  cos: bareOnly(
    (v) => Math.cos(v * RAD),
    (v) => RAD * Math.sin(v * RAD),
  ),
  tan: bareOnly(
    (v) => Math.tan(v * RAD),
    (v) => RAD / Math.cos(v * RAD) ** 2,
  ),
  asin: bareOnly(
    (v) => Math.asin(v) / RAD,
    (v) => 1 / (RAD * Math.sqrt(1 - v * v)),
  ),
  acos: bareOnly(
    (v) => Math.acos(v) / RAD,
    (v) => 1 / (RAD * Math.sqrt(1 - v * v)),
  ),
  atan: bareOnly(
    (v) => Math.atan(v) / RAD,
    (v) => 1 / (RAD * (1 + v * v)),
  ),
};

const NAME = /^[A-Za-z_][A-Za-z0-9_]*/;
/** A figure as people write lengths, as far as it goes: with fractions, powers of ten and units. */
const FIGURE =
  /^(?:(?:\d+\s+)?\d+\/\d+\s*(?:mm|cm|inch|in|ft|"|')|(?:\d+(?:[.,]\d+)?|[.,]\d+)\s*(?:mm|cm|m|inch|in|ft|"|'))(?![A-Za-z0-9_])/;
/** A whole number and a fraction without a unit. */
const MIXED = /^(\d+)\s+(\d+)\/(\d+)(?![\w.,])(?!\s*(?:(?:mm|cm|m|inch|in|ft)(?!\w)|["']))/;
/** A bare number; a degree sign behind it says what it is anyway. */
const BARE = /^(\d+(?:[.,]\d+)?|[.,]\d+)(e[+-]?\d{1,2}(?![\w.,]))?\s*°?/;

class Fault extends Error {
  constructor(readonly fault: FormulaFault) {
    super(fault.reason);
  }
}

/**
 * A length worked out from a formula: figures with or without a unit, names, + − × ÷ and brackets (`plate * 2 + 0.4`,
 * `1/4 in + wall`). A bare figure counts in `unit` where it is added to a length, or is all there is; it stays a figure
 * where it multiplies. `most(…)` and `least(…)` are what something comes to at most and at least, by the ± that was typed
 * for it, in the formula itself too (`most(shaft) + 0.1`, `most(11.98 ± 0.02) + 0.1`: a clearance on the safe side). A
 * tolerance class behind a size (`10 H7`, `bore g6`) makes it the middle between both limits.
 * `sqrt`, `abs`, `round` and `pi` are what they are everywhere; `sin`, `cos`, `tan` and their inverses count in degrees
 * (`wall / tan(30)`, `sin(30°)`). Nothing of it is ever run: it is read sign by sign.
 */
export function readFormula(text: string, unit: LengthUnit, lookup: NameLookup): FormulaResult {
  const plain = text.trim();
  if (!plain) return { ok: false, fault: { reason: 'empty' } };
  // What is a length as people write it needs no reading as a formula: 11 1/4 is eleven and a quarter.
  const length = parseLength(plain, unit);
  if (length.ok) return { ok: true, mm: length.mm, plusMinusMm: length.plusMinusMm ?? 0 };
  const found = evaluated(plain, unit, lookup, false);
  if ('reason' in found) return { ok: false, fault: found };
  const per = found.bare ? perBareOf(unit) : 1;
  const [value, power] = [found.value * per, found.bare ? 1 : found.power];
  if (power !== 1 || !Number.isFinite(value)) return { ok: false, fault: { reason: 'no-length' } };
  if (!(Math.abs(value) <= LARGEST_MM && found.spread * per <= LARGEST_MM))
    return { ok: false, fault: { reason: 'too-large' } };
  return { ok: true, mm: value, plusMinusMm: found.spread * per };
}

/**
 * A bare number worked out from a formula: how many, or how many degrees. Names stand for lengths where these come to a number
 * (`width / pitch`), else for the figures that were typed for them (`holes * 2`).
 *
 * `lengths` gives what a name comes to, mm; `figures` its bare figure, null where it has none.
 */
export function readNumber(text: string, lengths: NameLookup, figures: NameLookup): NumberResult {
  const plain = text.trim();
  if (!plain) return { ok: false, fault: { reason: 'empty' } };
  const isNumber = (found: Value | FormulaFault): found is Value =>
    !('reason' in found) && found.power === 0 && Math.abs(found.value) <= LARGEST_NUMBER;
  const first = evaluated(plain, 'mm', lengths, false);
  if (isNumber(first)) return { ok: true, value: first.value };
  if ('reason' in first && first.reason !== 'no-length') return { ok: false, fault: first };
  const second = evaluated(plain, 'mm', figures, true);
  return isNumber(second) ? { ok: true, value: second.value } : { ok: false, fault: { reason: 'no-number' } };
}

const perBareOf = (unit: LengthUnit): number => (unit === 'in' ? 25.4 : 1);

/** What a formula comes to, or what is wrong with it; `isFigure`: names stand for bare figures. */
function evaluated(plain: string, unit: LengthUnit, lookup: NameLookup, isFigure: boolean): Value | FormulaFault {
  if (plain.length > LONGEST_TEXT) return { reason: 'unreadable' };
  const perBare = perBareOf(unit);
  let rest = plain.replace(/[−–]/g, '-').replace(/[×·]/g, '*').replace(/[÷:]/g, '/');
  let depth = 0;
  const skip = () => {
    rest = rest.trimStart();
  };
  const takes = (sign: string): boolean => {
    skip();
    if (!rest.startsWith(sign)) return false;
    rest = rest.slice(sign.length);
    return true;
  };
  const asLength = (v: Value): Value =>
    v.bare ? { value: v.value * perBare, power: 1, bare: false, spread: v.spread * perBare } : v;
  const sum = (): Value => {
    if (++depth > DEEPEST) throw new Fault({ reason: 'unreadable' });
    let left = product();
    for (;;) {
      const isSpread = takes('±') || takes('+-') || takes('+/-');
      const sign = isSpread ? 0 : takes('+') ? 1 : takes('-') ? -1 : null;
      if (sign === null) break;
      let right = product();
      // Beside a bare number that lengths come to a figure stays one.
      if (left.bare !== right.bare && left.power + right.power !== 0) [left, right] = [asLength(left), asLength(right)];
      if (left.power !== right.power) throw new Fault({ reason: 'no-length' });
      left = {
        ...left,
        value: left.value + sign * right.value,
        bare: left.bare && right.bare,
        spread: left.spread + (isSpread ? Math.abs(right.value) : right.spread),
      };
    }
    depth -= 1;
    return left;
  };
  const product = (): Value => {
    let left = factor();
    for (;;) {
      const times = takes('*');
      if (!times && !takes('/')) return left;
      const right = factor();
      if (!times && right.value === 0) throw new Fault({ reason: 'divides-by-zero' });
      left = {
        value: times ? left.value * right.value : left.value / right.value,
        power: left.power + (times ? right.power : -right.power),
        bare: left.bare && right.bare,
        spread: times
          ? Math.abs(left.value) * right.spread + Math.abs(right.value) * left.spread
          : (left.spread + Math.abs(left.value / right.value) * right.spread) / Math.abs(right.value),
      };
    }
  };
  const factor = (): Value => {
    const own = plainFactor();
    skip();
    const found = TOLERANCE_CLASS.exec(rest);
    if (!found) return own;
    rest = rest.slice(found[0].length);
    const size = asLength(own);
    const limits = size.power === 1 ? limitsOf(size.value, found[1]!, Number(found[2])) : null;
    if (!limits) throw new Fault({ reason: 'no-fit' });
    return { value: (limits.least + limits.most) / 2, power: 1, bare: false, spread: (limits.most - limits.least) / 2 };
  };
  /** A figure where one stands. */
  const figureHere = (): Value | null => {
    const bare = (value: number, text: string): Value => {
      rest = rest.slice(text.length);
      return { value, power: 0, bare: true, spread: 0 };
    };
    const mixed = MIXED.exec(rest);
    if (mixed) return bare(Number(mixed[1]) + Number(mixed[2]) / Number(mixed[3]), mixed[0]);
    const figure = FIGURE.exec(rest)?.[0];
    if (figure) {
      rest = rest.slice(figure.length);
      const read = parseLength(figure, unit);
      if (!read.ok) throw new Fault({ reason: 'unreadable' });
      return { value: read.mm, power: 1, bare: false, spread: 0 };
    }
    const number = BARE.exec(rest);
    if (!number) return null;
    const [text, digits, power] = number;
    // 10e7 is a shaft of 10 in the class e7; 1e2 is a hundred.
    const isClass = power !== undefined && TOLERANCE_CLASS.test(rest.slice(digits!.length));
    const value = Number(`${digits!.replace(',', '.')}${isClass ? '' : (power ?? '')}`);
    const taken = bare(value, isClass ? digits! : text!);
    // What goes on with a letter is a class of tolerance, or cannot be read.
    if (/^[A-Za-z_]/.test(rest) && !TOLERANCE_CLASS.test(rest)) throw new Fault({ reason: 'unreadable' });
    return taken;
  };
  const plainFactor = (): Value => {
    if (takes('-')) {
      const own = factor();
      return { ...own, value: -own.value };
    }
    if (takes('(')) {
      const own = sum();
      if (!takes(')')) throw new Fault({ reason: 'unreadable' });
      return own;
    }
    skip();
    const own = figureHere();
    if (own) return own;
    const name = NAME.exec(rest)?.[0];
    if (!name) throw new Fault({ reason: 'unreadable' });
    rest = rest.slice(name.length);
    const bound = BOUNDS[name];
    const works = Object.hasOwn(FUNCTIONS, name) ? FUNCTIONS[name]! : null;
    if ((bound || works) && takes('(')) {
      const inner = sum();
      if (!takes(')')) throw new Fault({ reason: 'unreadable' });
      return works ? works(inner) : { ...inner, value: inner.value + bound! * inner.spread, spread: 0 };
    }
    const known = lookup(name);
    if (known === null && name === 'pi') return { value: Math.PI, power: 0, bare: true, spread: 0 };
    if (known === null) throw new Fault({ reason: 'unknown-name', name });
    if (typeof known === 'object' && 'reason' in known) throw new Fault(known);
    const [value, spread] = typeof known === 'object' ? [known.mm, known.plusMinusMm] : [known, 0];
    return isFigure ? { value, power: 0, bare: true, spread } : { value, power: 1, bare: false, spread };
  };
  try {
    const found = sum();
    skip();
    return rest ? { reason: 'unreadable' } : found;
  } catch (error) {
    if (error instanceof Fault) return error.fault;
    throw error;
  }
}
