import type { Vec2 } from '@steady-moth/core/geometry';
import { pointsOfRun } from '@steady-moth/core/job';
import Flatbush from 'flatbush';
import type { DrawnRun } from './useForms';

interface Index {
  tree: Flatbush;
  ids: string[];
}

/** Built when points are first looked for, and again once something was drawn or moved. */
const built = new WeakMap<readonly DrawnRun[], Index | null>();

/** Names of the points within reach of a place of the board, in board units; `placeOf` tells where each is. */
export function pointsNear(
  drawn: readonly DrawnRun[],
  placeOf: (id: string) => Vec2 | null,
  at: Vec2,
  reach: number,
): string[] {
  let index = built.get(drawn);
  if (index === undefined) {
    index = build(drawn, placeOf);
    built.set(drawn, index);
  }
  if (!index) return [];
  const { tree, ids } = index;
  return tree.search(at.x - reach, at.y - reach, at.x + reach, at.y + reach).map((k) => ids[k]);
}

function build(drawn: readonly DrawnRun[], placeOf: (id: string) => Vec2 | null): Index | null {
  const ids: string[] = [];
  const places: Vec2[] = [];
  for (const id of drawn.flatMap(({ run }) => pointsOfRun(run))) {
    const place = placeOf(id);
    if (!place) continue;
    ids.push(id);
    places.push(place);
  }
  if (ids.length === 0) return null;
  const tree = new Flatbush(ids.length);
  for (const { x, y } of places) tree.add(x, y, x, y);
  tree.finish();
  return { tree, ids };
}
