import type { Does, FaceName, Id } from '../../sketch';
import { type Arena, type Shape, ShapeMap } from './arena';

/** What is known of a face: what made it, and whether that was a hole's form. */
export interface FaceTag {
  name: FaceName;
  isHole: boolean;
}

export type Tags = ShapeMap<FaceTag>;

/** What a step adds, cuts or keeps, to be repeated elsewhere. */
export interface Tool {
  shape: Shape;
  tags: Tags;
  does: Does;
}

/** A body between two steps. */
export interface BodyState {
  /** Null before anything was made. */
  shape: Shape | null;
  tags: Tags;
  tools: ReadonlyMap<Id, Tool>;
}

export const nothingYet = (arena: Arena): BodyState => ({
  shape: null,
  tags: new ShapeMap(arena.oc),
  tools: new Map(),
});

interface History {
  Modified(shape: Shape): Parameters<Arena['listed']>[0];
  IsDeleted(shape: Shape): boolean;
}

/** What faces are called after an operation, by what it says became of them. */
export function tagsAfter(
  arena: Arena,
  result: Shape,
  inputs: readonly { shape: Shape; tags: Tags }[],
  history: History,
): Tags {
  const tags: Tags = new ShapeMap(arena.oc);
  for (const { shape, tags: before } of inputs)
    for (const face of arena.faces(shape)) {
      const tag = before.get(face);
      if (!tag) continue;
      const became = arena.listed(history.Modified(face));
      if (became.length > 0) for (const one of became) tags.set(one, tag);
      else if (!history.IsDeleted(face)) tags.set(face, tag);
    }
  return onlyThere(arena, result, tags);
}

/** Tags of the faces that a shape has, by its own faces. */
function onlyThere(arena: Arena, shape: Shape, tags: Tags): Tags {
  const there: Tags = new ShapeMap(arena.oc);
  for (const face of arena.faces(shape)) {
    const tag = tags.get(face);
    if (tag) there.set(face, tag);
  }
  return there;
}
