import { makersOf } from '../maker/makeForms';
import type { Id, Maker, Sketch } from '../part';

/** A maker as it is said: its place in the path's list comes of itself. */
type Without<T, K extends PropertyKey> = T extends unknown ? Omit<T, K> : never;
export type NewMaker = Without<Maker, 'place'>;

/** Adds what is made of a path, after what is made of it already. */
export function addMaker(sketch: Sketch, maker: NewMaker): void {
  if (!sketch.paths[maker.path]) return;
  const before = makersOf(sketch.makers, maker.path);
  const place = (before[before.length - 1]?.place ?? -1) + 1;
  sketch.makers[maker.id] = { ...maker, place } as Maker;
}

/** Says anew what a maker makes; it keeps its place. */
export function changeMaker(sketch: Sketch, maker: NewMaker): void {
  const before = sketch.makers[maker.id];
  if (before) sketch.makers[maker.id] = { ...maker, path: before.path, place: before.place } as Maker;
}

export function dropMaker(sketch: Sketch, id: Id): void {
  delete sketch.makers[id];
}

/** Makers of a path that is gone go with it; those that went by it stay, and say what they miss. */
export function dropMakersOf(sketch: Sketch, path: Id): void {
  for (const maker of makersOf(sketch.makers, path)) delete sketch.makers[maker.id];
}
