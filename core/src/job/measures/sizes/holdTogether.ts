import { type HeldPlace, type PlacedPicks, type PlanePick, placeOfPick } from '../../../calibration';
import type { Vec2 } from '../../../geometry';
import {
  type Cluster,
  type Curve,
  carriedPicks,
  clustersOf,
  type Id,
  observationIn,
  type Path,
  type Placer,
  picksOfCurve,
  type Sketch,
  seenOf,
  settleCluster,
  settledPlaces,
  type Walk,
} from '../../../sketch';

/** Points and curves that something is measured of. */
export interface Measured {
  points: readonly Id[];
  curves: readonly Curve[];
}

/** A path with what was seen of it, and as picks in the same order. */
export interface Traced {
  sketch: Sketch;
  path: Path;
  walk: Walk;
  ids: readonly Id[];
  picks: PlanePick[];
  clusters: readonly Cluster[];
}

/** What relations and decided sizes tie to points and curves. */
export function clustersAlong(sketch: Sketch, { points, curves }: Measured): Cluster[] {
  const { of } = clustersOf(sketch);
  const ids = [...points, ...curves.map((c) => c.id)];
  return [...new Set(ids.flatMap((id) => of.get(id) ?? []))];
}

/** Everything that was seen of points and curves, and of what holds them, each once. */
export const seenAlong = (sketch: Sketch, { points, curves }: Measured, clusters: readonly Cluster[]): Id[] =>
  [
    ...new Set([...points, ...curves.flatMap(picksOfCurve), ...clusters.flatMap((cluster) => seenOf(sketch, cluster))]),
  ].filter((id) => observationIn(sketch, id));

export const measuredOf = ({ points, pieces }: Walk): Measured => ({ points, curves: pieces.map((p) => p.curve) });

/** Picks with what holds them together: where they are settled, and how that follows where they were seen. */
export function holdTogether(
  { sketch, ids, clusters }: Pick<Traced, 'sketch' | 'ids' | 'clusters'>,
  { points, curves }: Measured,
  all: PlacedPicks,
): PlacedPicks {
  if (clusters.length === 0) return all;
  const index = new Map(ids.map((id, k) => [id, k]));
  const seen: Placer = (id) => {
    const k = index.get(id);
    if (k === undefined) return null;
    const [x, y] = placeOfPick(all, k);
    return { x, y };
  };
  const held = new Map<number, HeldPlace>();
  for (const cluster of clusters) {
    const settled = settleCluster(sketch, cluster, seen);
    if (!settled.ok) continue;
    const placeOf = settledPlaces(sketch, cluster, settled, seen);
    const put = (id: Id, curve: Curve | null) => {
      const k = index.get(id);
      const found = k === undefined ? null : placeOf(id, curve);
      if (!found) return;
      const by = [...found.by].flatMap(([of, slopes]) => {
        const pick = index.get(of);
        return pick === undefined ? [] : [{ pick, slopes }];
      });
      held.set(k!, { ...found.place, by });
    };
    for (const id of new Set(points)) put(id, null);
    for (const curve of curves) for (const id of picksOfCurve(curve)) put(id, curve);
  }
  // What bends a curve between held ends goes along with them.
  for (const curve of curves) if (curve.kind === 'arc' || curve.kind === 'cubic') carryAlong(curve, index, held, seen);
  return { ...all, held };
}

/** Step of slopes by differences, mm. */
const CARRY_STEP_MM = 1e-5;

function carryAlong(
  curve: Extract<Curve, { kind: 'arc' | 'cubic' }>,
  index: ReadonlyMap<Id, number>,
  held: Map<number, HeldPlace>,
  seen: Placer,
): void {
  const picks = picksOfCurve(curve);
  const ends = [curve.from, curve.to];
  const at = ends.map((id) => held.get(index.get(id) ?? -1));
  if (picks.some((p) => held.has(index.get(p) ?? -1)) || at.every((h) => !h)) return;
  const where = ends.map((id, k) => at[k] ?? seen(id));
  const carried = (shift: Id | null, dx: number, dy: number, isEnd: boolean): Vec2[] | null => {
    const moved: Placer = (id) => {
      const p = seen(id);
      return p && id === shift && !isEnd ? { x: p.x + dx, y: p.y + dy } : p;
    };
    const [from, to] = where.map((p, k) => p && (isEnd && ends[k] === shift ? { x: p.x + dx, y: p.y + dy } : p));
    return from && to ? carriedPicks(curve, from, to, moved) : null;
  };
  const now = carried(null, 0, 0, false);
  if (!now) return;
  picks.forEach((pick, n) => {
    const by = new Map<number, [number, number, number, number]>();
    const add = (k: number, s: readonly [number, number, number, number]) => {
      const own = by.get(k) ?? [0, 0, 0, 0];
      by.set(k, [own[0] + s[0], own[1] + s[1], own[2] + s[2], own[3] + s[3]]);
    };
    const slopesOf = (id: Id, isEnd: boolean): [number, number, number, number] => {
      const [a, b] = [carried(id, CARRY_STEP_MM, 0, isEnd)?.[n], carried(id, 0, CARRY_STEP_MM, isEnd)?.[n]];
      if (!a || !b) return [0, 0, 0, 0];
      const { x, y } = now[n]!;
      return [
        (a.x - x) / CARRY_STEP_MM,
        (b.x - x) / CARRY_STEP_MM,
        (a.y - y) / CARRY_STEP_MM,
        (b.y - y) / CARRY_STEP_MM,
      ];
    };
    for (const id of [...ends, pick]) {
      const k = index.get(id);
      if (k !== undefined) add(k, slopesOf(id, false));
    }
    ends.forEach((id, e) => {
      const s = slopesOf(id, true);
      const own = at[e] ? at[e].by : [{ pick: index.get(id)!, slopes: [1, 0, 0, 1] as const }];
      for (const { pick: k, slopes: t } of own)
        add(k, [
          s[0] * t[0] + s[1] * t[2],
          s[0] * t[1] + s[1] * t[3],
          s[2] * t[0] + s[3] * t[2],
          s[2] * t[1] + s[3] * t[3],
        ]);
    });
    const k = index.get(pick);
    if (k !== undefined) held.set(k, { ...now[n]!, by: [...by].map(([p, slopes]) => ({ pick: p, slopes })) });
  });
}
