import type { Vec2 } from '../../geometry';
import type { Placer } from '../curveForm';
import type { Id, Sketch } from '../part';
import { picksOfCurve } from '../walk';
import { bentPicks, settledPoint } from './carry';
import { type Cluster, isConstraint } from './clusters';
import { type Equation, equationsOf } from './equations';
import { nearestWay, newSystem, renewSystem, type Solved, type System, solve } from './solve';
import { type Unknowns, unknownsOf } from './unknowns';
import type { ConditionFault } from './wanted';

/** A condition that holds nothing, and why. */
export interface LostCondition {
  condition: Id;
  reason: ConditionFault;
}

export interface SettledCluster {
  /** Where points and picks lie, mm. */
  places: ReadonlyMap<Id, Vec2>;
  system: System;
  solved: Solved;
  lost: readonly LostCondition[];
}

/**
 * Why a cluster stays where it was seen: something of it has no place; its conditions cannot all hold; or no way to where
 * they hold was found from here, and nobody can say that there is none.
 */
export type UnsettledReason = 'no-place' | 'contradicts' | 'not-found';

/** Where a cluster lies, without what it was worked out with: as much as may be told from elsewhere. */
export type SettledPlaces =
  | { ok: true; places: ReadonlyMap<Id, Vec2>; lost: readonly LostCondition[] }
  | { ok: false; reason: UnsettledReason; lost: readonly LostCondition[] };

export type ClusterResult =
  | ({ ok: true } & SettledCluster)
  | { ok: false; reason: UnsettledReason; system: System | null; lost: readonly LostCondition[] };

/** Points and curves that are to stay where they were measured: a curve that is held has ends, or a centre, that are. */
export function heldIn(sketch: Sketch, { conditions }: Cluster): Set<Id> {
  const held = new Set<Id>();
  for (const c of conditions) {
    if (!isConstraint(c) || c.kind !== 'fixed') continue;
    for (const { id } of c.refs) {
      held.add(id);
      const curve = Object.hasOwn(sketch.curves, id) ? sketch.curves[id] : undefined;
      if (curve?.kind === 'circle') held.add(curve.centre);
      else if (curve) held.add(curve.from).add(curve.to);
    }
  }
  return held;
}

/** Sets a cluster's equations up; null where something of it has no place. */
export function systemOf(
  sketch: Sketch,
  cluster: Cluster,
  seen: Placer,
  grabbed: ReadonlySet<Id> | null = null,
  before: System | null = null,
): { system: System; lost: LostCondition[] } | null {
  const held = heldIn(sketch, cluster);
  for (const id of grabbed ?? []) held.add(id);
  const unknowns = unknownsOf(sketch, cluster, seen, held);
  if (!unknowns) return null;
  // From frame to frame of a drag the same is asked, in the same of two ways.
  if (before?.unknowns.size === unknowns.size) return { system: renewSystem(before, unknowns), lost: [] };
  const equations: Equation[] = [];
  const lost: LostCondition[] = [];
  for (const condition of cluster.conditions) {
    const made = equationsOf(sketch, unknowns, condition);
    if (made.ok) equations.push(...made.equations);
    else lost.push({ condition: condition.id, reason: made.fault });
  }
  return { system: newSystem(unknowns, equations, cluster), lost };
}

/**
 * Settles what a cluster ties together: every relation and every decided size holds, and everything lies as near as can be
 * to where it was seen. `grabbed`: what is being dragged, which goes first; `before`: the frame before.
 */
export function settleCluster(
  sketch: Sketch,
  cluster: Cluster,
  seen: Placer,
  grabbed: ReadonlySet<Id> | null = null,
  before: SettledCluster | null = null,
): ClusterResult {
  const set = systemOf(sketch, cluster, seen, grabbed, before?.system);
  if (!set) return { ok: false, reason: 'no-place', system: null, lost: [] };
  const { system, lost } = set;
  const solved = solve(system, before?.solved.x.length === system.unknowns.size ? before.solved.x : null);
  if (!solved) return { ok: false, reason: nearestWay(system).isSure ? 'contradicts' : 'not-found', system, lost };
  return { ok: true, places: placesAt(sketch, cluster, system.unknowns, solved.x, seen), system, solved, lost };
}

/** Where points and picks of a cluster lie when its unknowns are these. */
function placesAt(sketch: Sketch, cluster: Cluster, unknowns: Unknowns, x: Float64Array, seen: Placer): Map<Id, Vec2> {
  const places = new Map<Id, Vec2>();
  for (const id of cluster.points) places.set(id, settledPoint(unknowns, x, id)!);
  const place: Placer = (id) => places.get(id) ?? seen(id);
  for (const id of cluster.shapes) {
    const curve = sketch.curves[id]!;
    const bent = bentPicks(unknowns, curve, x, place, seen);
    if (bent)
      picksOfCurve(curve).forEach((p, k) => {
        places.set(p, bent[k]!);
      });
  }
  return places;
}
