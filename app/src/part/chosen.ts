import type { Id } from '@steady-moth/core/sketch';
import type { Item } from '@steady-moth/core/tracing';
import type { Selection } from '../session/sessionStore';

const NOTHING: readonly Item[] = [];

/** Everything of the trace that is chosen. */
export function itemsOf(selection: Selection): readonly Item[] {
  if (selection === null || selection.kind === 'pick' || selection.kind === 'place') return NOTHING;
  return selection.kind === 'several' ? selection.items : [selection];
}

export const isPathChosen = (selection: Selection, path: Id): boolean =>
  itemsOf(selection).some((i) => i.path === path);

/** The one path that is chosen, or of which something is; null where there are none or several. */
export function onePathOf(selection: Selection): Id | null {
  const [first, ...rest] = itemsOf(selection);
  return first && rest.every((i) => i.path === first.path) ? first.path : null;
}

const isSame = (a: Item, b: Item): boolean =>
  a.kind === b.kind &&
  a.path === b.path &&
  (a.kind !== 'point' || a.point === (b as typeof a).point) &&
  (a.kind !== 'piece' || a.curve === (b as typeof a).curve);

export const isItemChosen = (selection: Selection, item: Item): boolean =>
  itemsOf(selection).some((i) => isSame(i, item));

/** What is chosen once more is chosen, or less where it was already. */
export function toggled(selection: Selection, item: Item): Selection {
  const before = itemsOf(selection);
  return chosenOf(before.some((i) => isSame(i, item)) ? before.filter((i) => !isSame(i, item)) : [...before, item]);
}

/** A list as what is chosen: nothing, one thing, or several. */
export function chosenOf(items: readonly Item[]): Selection {
  if (items.length > 1) return { kind: 'several', items };
  return items[0] ?? null;
}
