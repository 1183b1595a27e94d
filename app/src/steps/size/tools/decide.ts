import { addDimensions, decideSize } from '@steady-moth/core/job';
import { formulaSentence } from '@steady-moth/core/say';
import { type Dimension, dimensionsFor, isSigned } from '@steady-moth/core/sketch';
import { DRAFT, type Made, type SizeContext } from './context';

/** What a figure typed now decides: the size that is looked at, or the first that what is chosen has. */
export function awaited({
  state,
  condition,
}: SizeContext): { label: string; dimension: Dimension; isNew: boolean } | null {
  if (!state) return null;
  const looked = condition === null ? undefined : state.sketch.dimensions[condition];
  if (looked) return { label: 'Decide this size', dimension: looked, isNew: false };
  // A place from zero or a direction is decided once it is on the board: a bare figure means a size.
  const first = dimensionsFor(state.sketch, state.chosen, state.place, DRAFT).find((d) => !isSigned(d));
  return first ? { label: 'Decide the size of what is chosen', dimension: first, isNew: true } : null;
}

/** Decides it. `draft`: the size that is about to be put, where there is one. */
export function decided(text: string, context: SizeContext, draft: Dimension | null): Partial<Made> {
  const found = awaited(context);
  if (!found || !context.state) return {};
  const read = context.read(text, context.unit);
  if (!read.ok) return { refused: formulaSentence(read.fault) };
  const dimension = (found.isNew && draft) || found.dimension;
  if (!(read.mm > 0) && !isSigned(dimension)) return { refused: 'A size is above 0.' };
  const isAngle = dimension.kind === 'angle';
  const value = { text: text.trim(), unit: isAngle ? ('mm' as const) : context.unit };
  const { sketch } = context.state;
  if (!found.isNew) return { action: decideSize(sketch.id, dimension.id, value) };
  const origin = { kind: 'decided', value, why: '' } as const;
  return { action: addDimensions(sketch.id, [{ ...dimension, id: context.newId(), origin }]) };
}
