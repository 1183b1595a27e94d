import Flatbush from 'flatbush';
import type { Vec2 } from '../geometry';
import { type EvaluatedPath, type Id, walkOf } from '../sketch';
import type { Traced } from './setting';

/** Two open ends that lie near each other, mm. */
export interface NearEnd {
  path: Id;
  other: Id;
  keep: Id;
  gone: Id;
  gapMm: number;
  /** Where one of them lies. */
  at: Vec2;
}

/** Open ends within a distance of one another, the narrowest gap first; each end stands in one pair at most. */
export function nearEnds({ paths, placeOf }: Pick<Traced, 'paths' | 'placeOf'>, withinMm: number): NearEnd[] {
  const ends = paths.flatMap((own) => endsOf(own, placeOf));
  if (ends.length < 2) return [];
  const tree = new Flatbush(ends.length);
  for (const { at } of ends) tree.add(at.x, at.y, at.x, at.y);
  tree.finish();
  const pairs = ends.flatMap((a, i) =>
    tree
      .search(a.at.x - withinMm, a.at.y - withinMm, a.at.x + withinMm, a.at.y + withinMm, (j) => j > i)
      .flatMap((j) => {
        const b = ends[j]!;
        const gapMm = Math.hypot(a.at.x - b.at.x, a.at.y - b.at.y);
        // Ends of one path need two pieces more between them, or nothing is enclosed; points are shared in one sketch.
        const isLoop = a.path === b.path && a.pieces < 3;
        return gapMm > withinMm || isLoop || a.sketch !== b.sketch || a.point === b.point ? [] : [{ a, b, gapMm }];
      }),
  );
  const used = new Set<Id>();
  return pairs
    .sort((p, q) => p.gapMm - q.gapMm)
    .flatMap(({ a, b, gapMm }) => {
      if (used.has(a.point) || used.has(b.point)) return [];
      used.add(a.point).add(b.point);
      return [{ path: a.path, other: b.path, keep: a.point, gone: b.point, gapMm, at: a.at }];
    });
}

function endsOf({ sketch, path }: EvaluatedPath, placeOf: Traced['placeOf']) {
  const points = path.closed || path.role === 'centre-line' ? [] : (walkOf(sketch, path)?.points ?? []);
  if (points.length < 2) return [];
  return [points[0]!, points[points.length - 1]!].flatMap((point) => {
    const at = placeOf(point);
    return at ? [{ path: path.id, sketch: sketch.id, point, at, pieces: path.uses.length }] : [];
  });
}
