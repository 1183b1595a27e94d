import { findPath, type Id, observedOf, type Part, picksOfCurve, pointsOfCurve } from '../sketch';

/** Something of the part that can be chosen: a path, a point of one, a piece of one. */
export type Item =
  | { kind: 'path'; path: Id }
  | { kind: 'point'; path: Id; point: Id }
  | { kind: 'piece'; path: Id; curve: Id };

/** Points and picks of what is chosen, each once: what moves with it. */
export function idsOf(items: readonly Item[], part: Part): Id[] {
  const ids = new Set<Id>();
  for (const item of items) {
    const found = findPath(part, item.path);
    if (!found) continue;
    if (item.kind === 'point') ids.add(item.point);
    else if (item.kind === 'path') for (const id of observedOf(found.sketch, found.path)) ids.add(id);
    else {
      const curve = found.sketch.curves[item.curve];
      if (curve) for (const id of [...pointsOfCurve(curve), ...picksOfCurve(curve)]) ids.add(id);
    }
  }
  return [...ids];
}

/** Paths that are chosen, or of which something is, each once. */
export const pathsOfItems = (items: readonly Item[]): Id[] => [...new Set(items.map((i) => i.path))];
