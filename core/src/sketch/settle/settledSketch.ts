import type { Vec2 } from '../../geometry';
import type { Placer } from '../curveForm';
import type { Id, Path, Sketch } from '../part';
import { observationIn } from '../part';
import { type EvaluateOptions, type Placing, seenIn } from '../placing';
import { picksOfCurve, pointsOfCurve, walkOf } from '../walk';
import { carriedPicks } from './carry';
import { type Cluster, clustersOf } from './clusters';
import { type SettledCluster, type SettledPlaces, settleCluster } from './settleSketch';

/** A sketch with what its relations and decided sizes hold together. */
export interface SettledSketch {
  /** Where points and picks lie: settled, or where they were seen. */
  place: Placer;
  /** What was found of each cluster; those that could not be settled are left where they were seen. */
  results: ReadonlyMap<Cluster, SettledPlaces>;
  /** What is being dragged: where it lay before, as far as that is known, and the last frame to go on from. */
  drags: ReadonlyMap<Cluster, { rest: SettledPlaces | null; last: SettledCluster | null }>;
  /** Clusters that a path hangs on. */
  with(path: Path): readonly SettledPlaces[];
}

/** A cluster that takes long to be settled: to be done elsewhere, and told to `take`. */
export interface LongSettling {
  sketch: Sketch;
  cluster: Cluster;
  /** What it hangs on: once one of these is another, what comes back is no use any more. */
  of: readonly unknown[];
}

export interface Settler {
  /** Works out again only what something changed of. */
  settle(sketch: Sketch, placing: Placing, options: EvaluateOptions): SettledSketch;
  /** Those that `settle` would take long for now. */
  long(sketch: Sketch, placing: Placing, options: EvaluateOptions): LongSettling[];
  /** What was found of one elsewhere: `settle` takes it as long as nothing that it hangs on changed. */
  take(settling: LongSettling, result: SettledPlaces): void;
}

/** With this many conditions in one cluster some tens of milliseconds are gone. */
const LONG_CONDITIONS = 100;

interface Kept {
  of: readonly unknown[];
  result: SettledPlaces;
  /** The last frame of a drag, and what was known before it began; null at rest. */
  drag: { rest: SettledPlaces | null; last: SettledCluster | null } | null;
}

const keyOf = (cluster: Cluster): Id => cluster.points[0] ?? cluster.shapes[0]!;

export function createSettler(): Settler {
  const kept = new Map<Id, Map<Id, Kept>>();
  return {
    long(sketch, placing, options) {
      if (options.draft) return [];
      const before = kept.get(sketch.id);
      return clustersOf(sketch).all.flatMap((cluster) => {
        if (cluster.conditions.length < LONG_CONDITIONS) return [];
        const asked = askedOf(sketch, cluster, placing, options);
        return asked && !isSame(before?.get(keyOf(cluster)), asked.of) ? [{ sketch, cluster, of: asked.of }] : [];
      });
    },
    take({ sketch, cluster, of }, result) {
      const own = kept.get(sketch.id) ?? new Map<Id, Kept>();
      own.set(keyOf(cluster), { of, result, drag: null });
      kept.set(sketch.id, own);
    },
    settle(sketch, placing, options) {
      const { all } = clustersOf(sketch);
      const seen = seenIn(sketch, placing, options);
      if (all.length === 0) return { place: seen, results: new Map(), drags: new Map(), with: () => [] };
      const before = kept.get(sketch.id);
      const next = new Map<Id, Kept>();
      const results = new Map<Cluster, SettledPlaces>();
      const drags = new Map<Cluster, NonNullable<Kept['drag']>>();
      for (const cluster of all) {
        const own = settledOnce(before?.get(keyOf(cluster)), sketch, cluster, seen, placing, options);
        if (!own) continue;
        next.set(keyOf(cluster), own);
        results.set(cluster, own.result);
        if (own.drag) drags.set(cluster, own.drag);
      }
      kept.set(sketch.id, next);
      return gathered(sketch, seen, results, drags);
    },
  };
}

/** All that a cluster hangs on, and what of it is being dragged; null where it has no size yet. */
function askedOf(
  sketch: Sketch,
  cluster: Cluster,
  placing: Placing,
  { truly, draft }: EvaluateOptions,
): { of: readonly unknown[]; grabbed: readonly Id[] } | null {
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
  return { of, grabbed };
}

const isSame = (before: Kept | undefined, of: readonly unknown[]): boolean =>
  before !== undefined && before.of.length === of.length && of.every((v, k) => v === before.of[k]);

function settledOnce(
  before: Kept | undefined,
  sketch: Sketch,
  cluster: Cluster,
  seen: Placer,
  placing: Placing,
  options: EvaluateOptions,
): Kept | null {
  const asked = askedOf(sketch, cluster, placing, options);
  if (!asked) return null;
  const { of, grabbed } = asked;
  if (before && isSame(before, of)) return before;
  if (grabbed.length === 0) return { of, result: settleCluster(sketch, cluster, seen), drag: null };
  // From frame to frame of a drag it goes on from where it was.
  const rest = before ? (before.drag?.rest ?? (before.drag ? null : before.result)) : null;
  const last = before?.drag?.last ?? null;
  const result = settleCluster(sketch, cluster, seen, new Set(grabbed), last);
  // What cannot be followed stays as it last was: the hand may come back.
  if (!result.ok && before?.result.ok) return { of, result: before.result, drag: { rest, last } };
  return { of, result, drag: { rest, last: result.ok ? result : null } };
}

function gathered(
  sketch: Sketch,
  seen: Placer,
  results: SettledSketch['results'],
  drags: SettledSketch['drags'],
): SettledSketch {
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
    drags,
    with(path) {
      const found = new Set<SettledPlaces>();
      for (const id of walkOf(sketch, path)?.points ?? []) {
        const cluster = of.get(id);
        const result = cluster && results.get(cluster);
        if (result) found.add(result);
      }
      return [...found];
    },
  };
}
