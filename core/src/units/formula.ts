import { limitsOf, TOLERANCE_CLASS } from './fits';
import { type LengthUnit, parseLength } from './parseLength';

/** Why a formula is none. */
export type FormulaFault =
  | { reason: 'empty' | 'unreadable' | 'divides-by-zero' | 'no-length' | 'too-large' | 'no-fit' }
  | { reason: 'unknown-name' | 'goes-round'; name: string };

export type FormulaResult = { ok: true; mm: number } | { ok: false; fault: FormulaFault };

/** A value on its way: how often millimetres stand in it, and whether it is a bare figure, which may become a length. */
interface Value {
  value: number;
  power: number;
  bare: boolean;
}

/** Longer ones than this are not read, and no length is larger, mm. */
const LONGEST_TEXT = 80;
const LARGEST_MM = 1e5;
const DEEPEST = 40;

/** What a name stands for, mm; null for one that is not known; or what is wrong with it. */
export type NameLookup = (name: string) => number | null | FormulaFault;

const NAME = /^[A-Za-z_][A-Za-z0-9_]*/;
/** A figure as people write lengths, as far as it goes: with fractions and units. */
const FIGURE =
  /^(?:(?:\d+\s+)?\d+\/\d+\s*(?:mm|cm|inch|in|ft|"|')|(?:\d+(?:[.,]\d+)?|[.,]\d+)\s*(?:mm|cm|m|inch|in|ft|"|')?)(?![A-Za-z0-9_])/;

class Fault extends Error {
  constructor(readonly fault: FormulaFault) {
    super(fault.reason);
  }
}

/**
 * A length worked out from a formula: figures with or without a unit, names, + − × ÷ and brackets (`plate * 2 + 0.4`,
 * `1/4 in + wall`). A bare figure counts in `unit` where it is added to a length, or is all there is; it stays a figure
 * where it multiplies. A tolerance class behind a size (`10 H7`, `bore g6`) makes it the middle between both limits.
 * Nothing of it is ever run: it is read sign by sign.
 */
export function readFormula(text: string, unit: LengthUnit, lookup: NameLookup): FormulaResult {
  const plain = text.trim();
  if (!plain) return { ok: false, fault: { reason: 'empty' } };
  // What is a length as people write it needs no reading as a formula: 11 1/4 is eleven and a quarter.
  const length = parseLength(plain, unit);
  if (length.ok) return { ok: true, mm: length.mm };
  if (plain.length > LONGEST_TEXT) return { ok: false, fault: { reason: 'unreadable' } };
  const perBare = unit === 'in' ? 25.4 : 1;
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
  const asLength = (v: Value): Value => (v.bare ? { value: v.value * perBare, power: 1, bare: false } : v);
  const sum = (): Value => {
    if (++depth > DEEPEST) throw new Fault({ reason: 'unreadable' });
    let left = product();
    for (;;) {
      const sign = takes('+') ? 1 : takes('-') ? -1 : 0;
      if (sign === 0) break;
      let right = product();
      if (left.bare !== right.bare) [left, right] = [asLength(left), asLength(right)];
      if (left.power !== right.power) throw new Fault({ reason: 'no-length' });
      left = { ...left, value: left.value + sign * right.value };
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
    return { value: (limits.least + limits.most) / 2, power: 1, bare: false };
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
    const figure = FIGURE.exec(rest)?.[0];
    if (figure) {
      rest = rest.slice(figure.length);
      const isBare = /^[\d.,]+$/.test(figure.trim());
      if (isBare) return { value: Number(figure.trim().replace(',', '.')), power: 0, bare: true };
      const read = parseLength(figure, unit);
      if (!read.ok) throw new Fault({ reason: 'unreadable' });
      return { value: read.mm, power: 1, bare: false };
    }
    const name = NAME.exec(rest)?.[0];
    if (!name) throw new Fault({ reason: 'unreadable' });
    rest = rest.slice(name.length);
    const known = lookup(name);
    if (known === null) throw new Fault({ reason: 'unknown-name', name });
    if (typeof known === 'object') throw new Fault(known);
    return { value: known, power: 1, bare: false };
  };
  try {
    const found = asLength(sum());
    skip();
    if (rest) return { ok: false, fault: { reason: 'unreadable' } };
    if (found.power !== 1 || !Number.isFinite(found.value)) return { ok: false, fault: { reason: 'no-length' } };
    if (Math.abs(found.value) > LARGEST_MM) return { ok: false, fault: { reason: 'too-large' } };
    return { ok: true, mm: found.value };
  } catch (error) {
    if (error instanceof Fault) return { ok: false, fault: error.fault };
    throw error;
  }
}
