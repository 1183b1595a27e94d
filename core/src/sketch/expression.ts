import { isDraft } from 'immer';
import { MOST } from '../schema/bounds';
import { parseLength, parsePlace, readNumber } from '../units';
import type { Dimension, Expression, Figure, Id, Sketch } from './part';

/** What an expression comes to, mm; null where it is no length. */
export function lengthOf(expression: Expression): number | null {
  const known = lengths.get(expression);
  if (known !== undefined) return known;
  const found = parseLength(expression.text, expression.unit);
  const mm = found.ok ? found.mm : null;
  // A draft changes and stays the same object.
  if (!isDraft(expression)) lengths.set(expression, mm);
  return mm;
}

/** What a bare number comes to; null where it is none, or lies outside of what it may be. */
export function numberOf({ text }: Figure, least = -360, most = 360): number | null {
  const read = readNumber(
    text,
    () => null,
    () => null,
  );
  return read.ok && read.value >= least && read.value <= most ? read.value : null;
}

/** How many of something there are: to the nearest whole number; null where that is less than two, or too many. */
export function copiesOf({ text }: Figure): number | null {
  const read = numberOf({ text, unit: 'number' }, 0, 1e6);
  const count = read === null ? null : Math.round(read);
  return count !== null && count >= 2 && count <= MOST.copies ? count : null;
}

const lengths = new WeakMap<Expression, number | null>();

/** A size that is told from zero or against X, by one thing alone: it may be nothing or negative. */
export const isSigned = ({ kind, refs }: Pick<Dimension, 'kind' | 'refs'>): boolean =>
  refs.length === 1 && (kind === 'distance' || kind === 'angle');

/** What was decided for a size: mm, or, of an angle, rad; null for none, or no figure. */
export function decidedValue(dimension: Dimension): number | null {
  const typed = decidedOf(dimension);
  if (!typed) return null;
  const value = isSigned(dimension) ? parsePlace(typed.text, typed.unit) : lengthOf(typed);
  return value !== null && dimension.kind === 'angle' ? (value * Math.PI) / 180 : value;
}

/** What was typed for a size; null where it is only measured. */
export const decidedOf = ({ origin }: Dimension): Expression | null =>
  origin.kind === 'decided' ? origin.value : null;

/** The size that was decided for a circle; null where none was. */
export function decidedDiameter({ dimensions }: Sketch, curve: Id): Dimension | null {
  for (const d of Object.values(dimensions))
    if (d.kind === 'diameter' && d.origin.kind === 'decided' && d.refs[0]!.id === curve) return d;
  return null;
}

/** The distance that was decided between two points; null where none was. */
export function decidedDistance({ dimensions }: Sketch, a: Id, b: Id): Dimension | null {
  for (const d of Object.values(dimensions)) {
    if (d.kind !== 'distance' || d.along !== 'straight' || d.origin.kind !== 'decided') continue;
    const [p, q] = [d.refs[0]!.id, d.refs[1]!.id];
    if ((p === a && q === b) || (p === b && q === a)) return d;
  }
  return null;
}
