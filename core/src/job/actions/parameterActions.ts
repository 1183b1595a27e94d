import { MOST } from '../../schema/bounds';
import {
  type Expression,
  expressionsOf,
  expressionsOfFeature,
  type Figure,
  type Id,
  type Part,
  type Variant,
} from '../../sketch';
import type { JobAction } from '../document/history';

const onPart = (label: string, change: (part: Part) => void): JobAction => ({
  label,
  recipe: ({ part }) => change(part),
});

/** Names of parameters begin with a letter and hold no blanks: they stand in formulas, which have two words of their own. */
export const PARAMETER_NAME = /^(?!(?:most|least)$)[A-Za-z_][A-Za-z0-9_]{0,39}$/;

/** The first name of its kind that is free. */
export function nextParameterName({ parameters }: Part): string {
  for (let k = 1; ; k++) if (!parameters.some((p) => p.name === `size_${k}`)) return `size_${k}`;
}

export const addParameter = (id: Id, name: string, value: Expression): JobAction =>
  onPart('add a parameter', (part) => {
    if (PARAMETER_NAME.test(name) && !part.parameters.some((p) => p.name === name))
      part.parameters.push({ id, name, value });
  });

/** Every expression of a part. */
function* expressionsIn({ sketches, parameters, variants, features }: Part): Generator<Expression | Figure> {
  for (const p of parameters) yield p.value;
  for (const v of variants) yield* Object.values(v.overrides);
  for (const f of features) yield* expressionsOfFeature(f);
  for (const sketch of Object.values(sketches)) {
    for (const d of Object.values(sketch.dimensions)) if (d.origin.kind === 'decided') yield d.origin.value;
    for (const maker of Object.values(sketch.makers)) yield* expressionsOf(maker);
  }
}

/** Calls a parameter by another name wherever formulas ask for it. */
function rename(part: Part, before: string, after: string): void {
  const whole = new RegExp(`(?<![A-Za-z0-9_])${before}(?![A-Za-z0-9_])`, 'g');
  for (const expression of expressionsIn(part)) {
    const text = expression.text.replace(whole, after);
    // A formula that grows too long to be kept says so the next time it is read.
    if (text !== expression.text && text.length <= 80) expression.text = text;
  }
}

/** Gives a parameter another formula, or a name that no other has; formulas that ask for it follow. */
export const changeParameter = (id: Id, change: { name?: string; value?: Expression }): JobAction =>
  onPart(change.name === undefined ? 'change a parameter' : 'name a parameter', (part) => {
    const parameter = part.parameters.find((p) => p.id === id);
    const { name } = change;
    const isFree = name === undefined || !part.parameters.some((p) => p.id !== id && p.name === name);
    if (!parameter || !isFree || (name !== undefined && !PARAMETER_NAME.test(name))) return;
    if (name !== undefined && name !== parameter.name) rename(part, parameter.name, name);
    Object.assign(parameter, change);
  });

export const dropParameter = (id: Id): JobAction =>
  onPart('take a parameter away', (part) => {
    part.parameters = part.parameters.filter((p) => p.id !== id);
    for (const variant of part.variants) delete variant.overrides[id];
  });

export const addVariant = (id: Id, name: string): JobAction =>
  onPart('add a variant', (part) => {
    part.variants.push({ id, name, overrides: {} });
    part.variant = id;
  });

export const changeVariant = (id: Id, change: { name?: string; overrides?: Record<Id, Expression> }): JobAction =>
  onPart('change a variant', (part) => {
    const variant = part.variants.find((v) => v.id === id);
    if (variant) Object.assign(variant, change);
  });

/** Takes variants of a table in: those that are there under their own name change, others come last. */
export const putVariants = (variants: readonly Variant[]): JobAction =>
  onPart(variants.length === 1 ? 'read a variant' : `read ${variants.length} variants`, (part) => {
    for (const variant of variants) {
      const own = part.variants.findIndex((v) => v.id === variant.id);
      if (own >= 0) part.variants[own] = variant;
      else if (part.variants.length < MOST.variants) part.variants.push(variant);
    }
  });

export const dropVariant = (id: Id): JobAction =>
  onPart('take a variant away', (part) => {
    part.variants = part.variants.filter((v) => v.id !== id);
    if (part.variant === id) part.variant = null;
  });

/** Shows a variant on the board and hands it over; null for the part as it was drawn. */
export const showVariant = (id: Id | null): JobAction =>
  onPart('show a variant', (part) => {
    if (id === null || part.variants.some((v) => v.id === id)) part.variant = id;
  });
