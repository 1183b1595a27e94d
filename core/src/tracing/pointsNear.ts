import Flatbush from 'flatbush';
import type { Vec2 } from '../geometry';
import { type EvaluatedPath, observedOf, walkOf } from '../sketch';
import type { Traced } from './setting';

interface Index {
  tree: Flatbush;
  ids: string[];
}

/** Built when points are first looked for, and again once something was drawn or moved. */
const built = new WeakMap<readonly EvaluatedPath[], Index | null>();

/** Names of the points, picks and centres within reach of a place. */
export function pointsNear({ paths, placeOf }: Traced, at: Vec2, reach: number): string[] {
  let index = built.get(paths);
  if (index === undefined) {
    index = build(paths, placeOf);
    built.set(paths, index);
  }
  if (!index) return [];
  const { tree, ids } = index;
  return tree.search(at.x - reach, at.y - reach, at.x + reach, at.y + reach).map((k) => ids[k]!);
}

function build(paths: readonly EvaluatedPath[], placeOf: (id: string) => Vec2 | null): Index | null {
  const ids: string[] = [];
  const places: Vec2[] = [];
  const all = new Set(
    paths.flatMap(({ sketch, path }) => [...(walkOf(sketch, path)?.points ?? []), ...observedOf(sketch, path)]),
  );
  for (const id of all) {
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
