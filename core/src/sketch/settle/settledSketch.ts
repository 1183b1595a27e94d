import type { Vec2 } from '../../geometry';
import type { Placer } from '../curveForm';
import type { Id, Path, Sketch } from '../part';
import { observationIn } from '../part';
import { type EvaluateOptions, type Placing, seenIn } from '../placing';
import { picksOfCurve, pointsOfCurve, walkOf } from '../walk';
import { carriedPicks } from './carry';
import { type Cluster, clustersOf } from './clusters';
import { type ClusterResult, settleCluster } from './settleSketch';

/** A sketch with what its relations and decided sizes hold together. */
export interface SettledSketch {
  /** Where points and picks lie: settled, or where they were seen. */
  place: Placer;
  /** What was found of each cluster; those that could not be settled are left where they were seen. */
  results: ReadonlyMap<Cluster, ClusterResult>;
  /** Clusters that a path hangs on. */
  with(path: Path): readonly ClusterResult[];
}

export interface Settler {
  /** Works out again only what something changed of. */
  settle(sketch: Sketch, placing: Placing, options: EvaluateOptions): SettledSketch;
}

interface Kept {
  of: readonly unknown[];
  result: ClusterResult;
  dragged: boolean;
}

export function createSettler(): Settler {
  const kept = new Map<Id, ReadonlyMap<Id, Kept>>();
  return {
    settle(sketch, placing, options) {
      const { all } = clustersOf(sketch);
      const seen = seenIn(sketch, placing, options);
      if (all.length === 0) return { place: seen, results: new Map(), with: () => [] };
      const before = kept.get(sketch.id);
      const next = new Map<Id, Kept>();
      const results = new Map<Cluster, ClusterResult>();
      for (const cluster of all) {
        const first = cluster.points[0] ?? cluster.shapes[0]!;
        const result = settledOnce(before?.get(first), sketch, cluster, seen, placing, options);
        if (!result) continue;
        next.set(first, result);
        results.set(cluster, result.result);
      }
      kept.set(sketch.id, next);
      return gathered(sketch, seen, results);
    },
  };
}

function settledOnce(
  before: Kept | undefined,
  sketch: Sketch,
  cluster: Cluster,
  seen: Placer,
  placing: Placing,
  { truly, draft }: EvaluateOptions,
): Kept | null {
  const observed = [...cluster.points, ...cluster.shapes.flatMap((id) => picksOfCurve(sketch.curves[id]!))];
  const pictures = new Set<string>();
  for (const id of observed) {
    const at = observationIn(sketch, id);
    if (at) pictures.add(at.picture);
  }
  // In pixels nothing has a size, and a lens bends what is straight.
  if (![...pictures].every((id) => placing.get(id)?.isTrue)) return null;
  const grabbed = draft ? observed.filter((id) => Object.hasOwn(draft, id)) : [];
  const of: unknown[] = [
    truly,
    ...cluster.conditions,
    ...cluster.points.map((id) => sketch.points[id]),
    ...cluster.shapes.map((id) => sketch.curves[id]),
    ...cluster.shapes.flatMap((id) => picksOfCurve(sketch.curves[id]!).map((p) => sketch.picks[p])),
    ...[...pictures].map((id) => placing.get(id)),
    ...grabbed.map((id) => draft![id]),
  ];
  if (before && before.of.length === of.length && of.every((v, k) => v === before.of[k])) return before;
  // From frame to frame of a drag it goes on from where it was.
  const last = grabbed.length > 0 && before?.dragged && before.result.ok ? before.result : null;
  const result = settleCluster(sketch, cluster, seen, grabbed.length > 0 ? new Set(grabbed) : null, last);
  // What cannot be followed stays as it last was: the hand may come back.
  if (!result.ok && grabbed.length > 0 && before?.result.ok) return { ...before, of, dragged: true };
  return { of, result, dragged: grabbed.length > 0 };
}

function gathered(sketch: Sketch, seen: Placer, results: ReadonlyMap<Cluster, ClusterResult>): SettledSketch {
  const places = new Map<Id, Vec2>();
  for (const result of results.values()) if (result.ok) for (const [id, at] of result.places) places.set(id, at);
  const place: Placer = (id) => places.get(id) ?? seen(id);
  if (places.size > 0)
    for (const curve of Object.values(sketch.curves)) {
      if (curve.kind === 'line' || curve.kind === 'circle') continue;
      const picks = picksOfCurve(curve);
      if (picks.some((p) => places.has(p)) || !pointsOfCurve(curve).some((p) => places.has(p))) continue;
      const [from, to] = [place(curve.from), place(curve.to)];
      const carried = from && to && carriedPicks(curve, from, to, seen);
      if (carried)
        picks.forEach((p, k) => {
          places.set(p, carried[k]!);
        });
    }
  const { of } = clustersOf(sketch);
  return {
    place,
    results,
    with(path) {
      const found = new Set<ClusterResult>();
      for (const id of walkOf(sketch, path)?.points ?? []) {
        const cluster = of.get(id);
        const result = cluster && results.get(cluster);
        if (result) found.add(result);
      }
      return [...found];
    },
  };
}
