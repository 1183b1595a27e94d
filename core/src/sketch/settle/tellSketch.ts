import type { Placer } from '../curveForm';
import type { Id, Sketch } from '../part';
import { type Cluster, clustersOf } from './clusters';
import { contradictionIn } from './contradiction';
import { freedomOf } from './freedom';
import { type LostCondition, settleCluster } from './settleSketch';

/** What is told of a sketch: what is free, what is said twice, what cannot be together, what holds nothing. */
export interface SketchTold {
  /** Ways in which the sketch can move that nothing holds, its place and turn on the sheet left out; and of how many. */
  free: number;
  of: number;
  /** Ways that are held at second order only. */
  onlyJust: number;
  /** By point that something ties to others and that can still move: which way, rad, y up, or any way. */
  points: Readonly<Record<Id, { direction: number; anyWay: boolean }>>;
  /** Points that are settled. */
  settled: readonly Id[];
  /** Decided sizes that the rest already gives. */
  given: readonly Id[];
  /** Smallest sets of conditions that cannot be together. */
  contradictions: readonly (readonly Id[])[];
  /** Clusters that could not be settled from where they were seen, and nothing of them is known to contradict: by a point or a shape of each. */
  notFound: readonly Id[];
  lost: readonly LostCondition[];
  /** How far settling led points from where they were seen: how many of them, the farthest, and in the mean, mm. */
  moved: {
    points: number;
    largestMm: number;
    rmsMm: number /** The farthest in its own scatter. */;
    largestSigmas: number;
  };
}

/** Three ways in which a sketch lies on its sheet: they are as measured, and count as settled. */
const ON_THE_SHEET = 3;

/** What moves by less, mm, has not moved. */
const MOVED_MM = 1e-6;

/** In: a sketch, where everything was seen, mm, and how well, one sigma in mm; null where that is not known. */
// biome-ignore lint/complexity/noExcessiveCognitiveComplexity: one sum over the clusters, of a dozen figures that go together
export function tellSketch(sketch: Sketch, seen: Placer, sigmaOf: (id: Id) => number | null = () => null): SketchTold {
  const { all, of } = clustersOf(sketch);
  const main = all.reduce<Cluster | null>(
    (best, c) => (best === null || c.conditions.length > best.conditions.length ? c : best),
    null,
  );
  const told = {
    free: 0,
    of: 0,
    onlyJust: 0,
    points: {} as Record<Id, { direction: number; anyWay: boolean }>,
    settled: [] as Id[],
    given: [] as Id[],
    contradictions: [] as Id[][],
    notFound: [] as Id[],
    lost: [] as LostCondition[],
    moved: { points: 0, largestMm: 0, rmsMm: 0, largestSigmas: 0 },
  };
  let squares = 0;
  for (const cluster of all) {
    const settled = settleCluster(sketch, cluster, seen);
    told.lost.push(...settled.lost);
    if (!settled.ok) {
      if (!settled.system) continue;
      const set = settled.reason === 'contradicts' ? contradictionIn(settled.system) : [];
      if (set.length > 0) told.contradictions.push(set);
      else told.notFound.push(cluster.points[0] ?? cluster.shapes[0]!);
      continue;
    }
    const found = freedomOf(sketch, cluster, settled, cluster === main);
    for (const [id, at] of settled.places) {
      const was = Object.hasOwn(sketch.points, id) ? seen(id) : null;
      const by = was ? Math.hypot(at.x - was.x, at.y - was.y) : 0;
      if (by < MOVED_MM) continue;
      squares += by * by;
      told.moved.points += 1;
      told.moved.largestMm = Math.max(told.moved.largestMm, by);
      const sigma = sigmaOf(id);
      if (sigma) told.moved.largestSigmas = Math.max(told.moved.largestSigmas, by / sigma);
    }
    told.free += found.free;
    told.of += settled.system.unknowns.size;
    told.onlyJust += found.onlyJust;
    told.given.push(...found.given);
    Object.assign(told.points, Object.fromEntries(found.points));
    for (const id of cluster.points) if (!found.points.has(id)) told.settled.push(id);
  }
  // What nothing is said of moves as it likes.
  let loose = 0;
  for (const [id, { at }] of Object.entries(sketch.points)) if (at.kind === 'observed' && !of.has(id)) loose += 2;
  for (const curve of Object.values(sketch.curves)) {
    if (curve.kind === 'line' || of.has(curve.id)) continue;
    if (curve.kind === 'circle') loose += curve.evidence.length > 0 && !of.has(curve.centre) ? 3 : 1;
    else loose += curve.kind === 'arc' ? 1 : 4;
  }
  const sheet = main === null ? Math.min(ON_THE_SHEET, loose) : Math.min(ON_THE_SHEET, told.of);
  told.moved.rmsMm = Math.sqrt(squares / Math.max(1, told.moved.points));
  return {
    ...told,
    free: told.free + loose - (main === null ? sheet : 0),
    of: told.of + loose - sheet,
  };
}
