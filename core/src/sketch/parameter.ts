import { type FormulaFault, type NameLookup, readFormula, readNumber, type Spread } from '../units';
import type { Expression, Feature, Figure, Id, Maker, Parameter, Part, Sketch } from './part';

/** What the names of a part come to, in one of its variants. */
export interface Scope {
  /** By the parameter's name, mm. */
  values: ReadonlyMap<string, number>;
  /** Those that were typed with a ±, or come to one: how far they may be off at most, mm. */
  spreads: ReadonlyMap<string, number>;
  /** Those that were typed as bare figures, or come to one, as these. */
  figures: ReadonlyMap<string, number>;
  /** Parameters that come to nothing, and why, by their own names in the document. */
  faults: ReadonlyMap<Id, FormulaFault>;
}

/** What overrides parameters, by their own names in the document. */
export type Overrides = Readonly<Record<Id, Expression>>;

const scopes = new WeakMap<object, Map<Overrides | null, Scope>>();
const NOTHING: Overrides = {};

/** The overrides of the variant that is shown; none where none is. */
const shownOverrides = ({ variants, variant }: Pick<Part, 'variants' | 'variant'>): Overrides =>
  variants.find((v) => v.id === variant)?.overrides ?? NOTHING;

/**
 * Works all parameters out, each from what was typed for it or from what overrides it. A name that leads back to itself,
 * and one that is not known, is a fault of the parameter that asks for it.
 */
export function scopeOf(
  part: Pick<Part, 'parameters' | 'variants' | 'variant'>,
  overrides = shownOverrides(part),
): Scope {
  const known = scopes.get(part.parameters)?.get(overrides);
  if (known) return known;
  const byName = new Map(part.parameters.map((p) => [p.name, p]));
  const values = new Map<string, number>();
  const spreads = new Map<string, number>();
  const faults = new Map<Id, FormulaFault>();
  const spread = (name: string): Spread => ({ mm: values.get(name)!, plusMinusMm: spreads.get(name) ?? 0 });
  const saidOf = (p: Parameter): Expression => (Object.hasOwn(overrides, p.id) ? overrides[p.id]! : p.value);
  inTurn(part.parameters, (parameter, ask, isOpen) => {
    const own = saidOf(parameter);
    const read = readFormula(own.text, own.unit, (name) => {
      const other = byName.get(name);
      if (!other) return null;
      if (values.has(name)) return spread(name);
      const fault = faults.get(other.id);
      if (fault) return fault;
      return isOpen(other) ? { reason: 'goes-round', name } : ask(other);
    });
    if (!read.ok) faults.set(parameter.id, read.fault);
    else {
      values.set(parameter.name, read.mm);
      if (read.plusMinusMm > 0) spreads.set(parameter.name, read.plusMinusMm);
    }
  });
  const figures = new Map<string, number>();
  // What comes to no figure is kept as well: else a long chain of names would be followed anew for each of them.
  const told = new Map<string, number | null>();
  inTurn(
    part.parameters.filter((p) => values.has(p.name)),
    (parameter, ask, isOpen) => {
      const read = readNumber(
        saidOf(parameter).text,
        (n) => values.get(n) ?? null,
        (n) => {
          const other = byName.get(n);
          const known = told.get(n);
          if (!other || !values.has(n) || isOpen(other)) return known ?? null;
          return known === undefined ? ask(other) : known;
        },
      );
      const figure = read.ok ? read.value : null;
      told.set(parameter.name, figure);
      if (figure !== null) figures.set(parameter.name, figure);
    },
  );
  const scope: Scope = { values, spreads, figures, faults };
  const kept = scopes.get(part.parameters) ?? new Map();
  kept.set(overrides, scope);
  scopes.set(part.parameters, kept);
  return scope;
}

/**
 * Works parameters out one after the other, however long the chain of those that ask for one another: whoever asks for
 * one that is not worked out yet is given up, and begun again once that one is.
 */
function inTurn(
  all: readonly Parameter[],
  work: (one: Parameter, ask: (other: Parameter) => never, isOpen: (other: Parameter) => boolean) => void,
): void {
  const done = new Set<Parameter>();
  // In the order in which they were begun: the last one is worked at, the others wait for it.
  const open = new Set<Parameter>();
  for (const first of all) {
    const stack = [first];
    for (let one = stack.pop(); one; one = stack.pop()) {
      if (done.has(one)) continue;
      open.add(one);
      const waits: Waits = { on: null };
      try {
        work(
          one,
          (other) => {
            waits.on = other;
            throw waits;
          },
          (other) => open.has(other),
        );
      } catch (error) {
        if (error !== waits) throw error;
        stack.push(one, waits.on!);
        continue;
      }
      done.add(one);
      open.delete(one);
    }
  }
}

/** A parameter that another one has to wait for; no error, whose trace would cost more than the work. */
interface Waits {
  on: Parameter | null;
}

/** What an expression comes to in a scope, or why it comes to nothing. */
const valueIn = (scope: Scope, { text, unit }: Expression) => readFormula(text, unit, lookupIn(scope));

/** How formulas find what a name stands for. */
export const lookupIn =
  ({ values, spreads }: Scope): NameLookup =>
  (name) => {
    const mm = values.get(name);
    return mm === undefined ? null : { mm, plusMinusMm: spreads.get(name) ?? 0 };
  };

/** What a bare number comes to in a scope. */
export const numberIn = ({ values, figures }: Scope, { text }: Figure) =>
  readNumber(
    text,
    (name) => values.get(name) ?? null,
    (name) => figures.get(name) ?? null,
  );

const NAMED = /[A-Za-z_]/;
const PLAIN = /^[\s\d.,/'"±+-]*(?:mm|cm|m|in|inch|ft|feet|ø|r)?\s*$/i;

/** Whether an expression asks for names, or has to be worked out. */
const isFormula = ({ text }: Pick<Expression, 'text'>): boolean =>
  !PLAIN.test(text) && (NAMED.test(text) || /[*×·÷:()]/.test(text));

/** An expression as plain millimetres; as it was where it is plain already, or comes to nothing. */
function plainIn<T extends Expression | Figure>(scope: Scope, own: T): T | Expression | Figure {
  if (!isFormula(own)) return own;
  if (own.unit === 'number') {
    const read = numberIn(scope, own);
    return read.ok ? { text: String(Number(read.value.toFixed(9))), unit: 'number' } : own;
  }
  const read = valueIn(scope, own);
  return read.ok ? { text: String(Number(read.mm.toFixed(9))), unit: 'mm' } : own;
}

const plain = new WeakMap<Sketch, WeakMap<Scope, Sketch>>();

/**
 * A part with each formula worked out: everything after it knows plain lengths alone. A sketch without formulas is the
 * same object; one with them is the same as long as neither it nor what the names come to changed.
 */
export function workedOut(part: Part): Part {
  if (part.parameters.length === 0 && !hasFormulas(part)) return part;
  const scope = scopeOf(part);
  let changed = false;
  const sketches: Part['sketches'] = {};
  for (const [id, sketch] of Object.entries(part.sketches)) {
    const own = workedOutSketch(sketch, scope);
    sketches[id] = own;
    changed ||= own !== sketch;
  }
  const features = workedOutFeatures(part.features, scope);
  return changed || features !== part.features ? { ...part, sketches, features } : part;
}

/** Features with each formula worked out; the same list where none has one. */
function workedOutFeatures(features: readonly Feature[], scope: Scope): Feature[] {
  let changed = false;
  const worked = features.map((feature) => {
    const own = withExpressions(feature, (e) => plainIn(scope, e));
    changed ||= own !== feature;
    return own;
  });
  return changed ? worked : (features as Feature[]);
}

const isExpression = (value: object): value is Expression | Figure => 'text' in value && 'unit' in value;

/** A feature, or a part of one, with each expression in it replaced; the same object where none was. */
function withExpressions<T>(value: T, by: (one: Expression | Figure) => Expression | Figure): T {
  if (typeof value !== 'object' || value === null) return value;
  if (isExpression(value)) return by(value) as T;
  let changed = false;
  const entries = Object.entries(value).map(([key, one]) => {
    const own = withExpressions(one, by);
    changed ||= own !== one;
    return [key, own] as const;
  });
  if (!changed) return value;
  return (Array.isArray(value) ? entries.map(([, one]) => one) : Object.fromEntries(entries)) as T;
}

/** Every expression of a feature. */
export function expressionsOfFeature(feature: Feature): (Expression | Figure)[] {
  return expressionsIn(feature);
}

function expressionsIn(value: unknown): (Expression | Figure)[] {
  const all: (Expression | Figure)[] = [];
  withExpressions(value, (e) => {
    all.push(e);
    return e;
  });
  return all;
}

const formulas = new WeakMap<Sketch, boolean>();

function hasFormulas({ sketches, features }: Part): boolean {
  if (features.some((f) => expressionsOfFeature(f).some(isFormula))) return true;
  return Object.values(sketches).some((sketch) => {
    const known = formulas.get(sketch);
    if (known !== undefined) return known;
    const found =
      Object.values(sketch.dimensions).some((d) => d.origin.kind === 'decided' && isFormula(d.origin.value)) ||
      Object.values(sketch.makers).some((m) => expressionsOf(m).some(isFormula));
    formulas.set(sketch, found);
    return found;
  });
}

/** Everything that is typed for a maker. */
export const expressionsOf = (maker: Maker): (Expression | Figure)[] => expressionsIn(maker);

function workedOutSketch(sketch: Sketch, scope: Scope): Sketch {
  const known = plain.get(sketch)?.get(scope);
  if (known) return known;
  const swap = (e: Expression | Figure) => plainIn(scope, e);
  const dimensions = swapped(sketch.dimensions, (d) => {
    if (d.origin.kind !== 'decided') return d;
    const origin = withExpressions(d.origin, swap);
    return origin === d.origin ? d : { ...d, origin };
  });
  const makers = swapped(sketch.makers, (m) => withExpressions(m, swap));
  const isSame = dimensions === sketch.dimensions && makers === sketch.makers;
  const own = isSame ? sketch : { ...sketch, dimensions, makers };
  const kept = plain.get(sketch) ?? new WeakMap<Scope, Sketch>();
  kept.set(scope, own);
  plain.set(sketch, kept);
  return own;
}

/** A record with each of its things replaced; the same record where none of them was. */
function swapped<T>(record: Record<Id, T>, by: (one: T) => T): Record<Id, T> {
  let changed = false;
  const made: Record<Id, T> = {};
  for (const [id, one] of Object.entries(record)) {
    made[id] = by(one);
    changed ||= made[id] !== one;
  }
  return changed ? made : record;
}
