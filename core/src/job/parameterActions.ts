import type { Expression, Id, Part } from '../sketch';
import type { JobAction } from './history';

const onPart = (label: string, change: (part: Part) => void): JobAction => ({
  label,
  recipe: ({ part }) => change(part),
});

/** Names of parameters begin with a letter and hold no blanks: they stand in formulas. */
export const PARAMETER_NAME = /^[A-Za-z_][A-Za-z0-9_]{0,39}$/;

/** The first name of its kind that is free. */
export function nextParameterName({ parameters }: Part): string {
  for (let k = 1; ; k++) if (!parameters.some((p) => p.name === `size_${k}`)) return `size_${k}`;
}

export const addParameter = (id: Id, name: string, value: Expression): JobAction =>
  onPart('add a parameter', (part) => {
    if (PARAMETER_NAME.test(name) && !part.parameters.some((p) => p.name === name))
      part.parameters.push({ id, name, value });
  });

/** Gives a parameter another formula, or a name that no other has; formulas that call it by its old name do not follow. */
export const changeParameter = (id: Id, change: { name?: string; value?: Expression }): JobAction =>
  onPart(change.name === undefined ? 'change a parameter' : 'name a parameter', (part) => {
    const parameter = part.parameters.find((p) => p.id === id);
    const { name } = change;
    const isFree = name === undefined || !part.parameters.some((p) => p.id !== id && p.name === name);
    if (parameter && isFree && (name === undefined || PARAMETER_NAME.test(name))) Object.assign(parameter, change);
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

/** Says anew what was typed for a size that was decided. */
export const changeSize = (sketch: Id, size: Id, value: Expression): JobAction =>
  onPart('change a size', (part) => {
    const dimension = part.sketches[sketch]?.dimensions[size];
    if (dimension?.origin.kind === 'decided') dimension.origin.value = value;
  });
