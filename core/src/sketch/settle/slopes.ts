import { circleThrough, type Vec2 } from '../../geometry';
import { solveLdl } from '../../numeric';
import type { Placer } from '../curveForm';
import type { Curve, Id, Sketch } from '../part';
import { observationIn } from '../part';
import { picksOfCurve, pointsOfCurve } from '../walk';
import { bentPicks, settledPoint } from './carry';
import type { Cluster } from './clusters';
import type { SettledCluster } from './settleSketch';
import { factorAt, linearise } from './solve';
import { shapeStart } from './unknowns';

/** What keeps a singular system from dividing by nothing: small, since slopes are told by what it gives. */
const REGULARISED = 1e-11;

/** Where something lies once it is settled, and how that follows what was seen: at first order. */
export interface SettledPlace {
  place: Vec2;
  /** By what was seen: how x and y follow its x and y: xx, xy, yx, yy. */
  by: ReadonlyMap<Id, readonly [number, number, number, number]>;
}

/** Step of slopes by differences, mm. */
const STEP_MM = 1e-5;

/**
 * How settled places follow what was seen of the whole cluster, the calibration's own errors among it: one solve for each
 * unknown that is asked for.
 *
 * In: a cluster as it was settled from these places. Out: for a point of it, a pick of one of its shapes, or a pick of a
 * curve that goes along with it; null for anything else.
 */
export function settledPlaces(
  sketch: Sketch,
  cluster: Cluster,
  { system, solved }: SettledCluster,
  seen: Placer,
): (id: Id, curve: Curve | null) => SettledPlace | null {
  const { unknowns, h, factor, equations } = system;
  const { size, pointAt, shapeAt } = unknowns;
  const { x } = solved;
  linearise(system, x);
  const isFactored = factorAt(system, true, REGULARISED);
  const observed = startSlopes(sketch, cluster, unknowns, seen);
  type By = Map<Id, [number, number, number, number]>;
  const rows = new Map<number, Map<Id, [number, number]>>();
  /** How an unknown follows x and y of everything that was seen. */
  const rowOf = (k: number): Map<Id, [number, number]> => {
    const known = rows.get(k);
    if (known) return known;
    const z = new Float64Array(size + equations.length);
    z[k] = 1;
    if (isFactored) solveLdl(factor, z);
    const weighed = new Float64Array(size);
    for (const { i, j, value } of h) {
      weighed[i]! += value * z[j]!;
      if (i !== j) weighed[j]! += value * z[i]!;
    }
    const row = new Map<Id, [number, number]>();
    for (const [id, own] of observed) {
      const sum: [number, number] = [0, 0];
      for (const { at, byX, byY } of own) {
        sum[0] += weighed[at]! * byX;
        sum[1] += weighed[at]! * byY;
      }
      row.set(id, sum);
    }
    rows.set(k, row);
    return row;
  };
  const add = (by: By, k: number, toX: number, toY: number) => {
    for (const [id, [gx, gy]] of rowOf(k)) {
      const own = by.get(id) ?? [0, 0, 0, 0];
      by.set(id, [own[0] + toX * gx, own[1] + toX * gy, own[2] + toY * gx, own[3] + toY * gy]);
    }
  };
  return (id, curve) => {
    const k = pointAt.get(id);
    if (k !== undefined) {
      const by: By = new Map();
      add(by, k, 1, 0);
      add(by, k + 1, 0, 1);
      return { place: settledPoint(unknowns, x, id)!, by };
    }
    const shape = curve && shapeAt.get(curve.id);
    if (!curve || !shape) return null;
    const nth = picksOfCurve(curve).indexOf(id);
    const placeAt = (at: Float64Array): Vec2 | null =>
      bentPicks(unknowns, curve, at, (p) => settledPoint(unknowns, at, p) ?? null, seen)?.[nth] ?? null;
    const place = placeAt(x);
    if (!place) return null;
    const by: By = new Map();
    const asked = pointsOfCurve(curve).flatMap((p) => [pointAt.get(p)!, pointAt.get(p)! + 1]);
    const own = curve.kind === 'cubic' ? 4 : 1;
    for (const u of [...asked, ...Array.from({ length: own }, (_, j) => shape.at + j)]) {
      const moved = Float64Array.from(x);
      moved[u]! += STEP_MM;
      const to = placeAt(moved);
      if (to) add(by, u, (to.x - place.x) / STEP_MM, (to.y - place.y) / STEP_MM);
    }
    return { place, by };
  };
}

/** How the start of the unknowns follows x and y of each thing that was seen. */
function startSlopes(
  sketch: Sketch,
  cluster: Cluster,
  { pointAt, shapeAt }: SettledCluster['system']['unknowns'],
  seen: Placer,
): Map<Id, { at: number; byX: number; byY: number }[]> {
  const slopes = new Map<Id, { at: number; byX: number; byY: number }[]>();
  const put = (id: Id, at: number, byX: number, byY: number) => {
    const own = slopes.get(id) ?? [];
    own.push({ at, byX, byY });
    slopes.set(id, own);
  };
  for (const id of cluster.points) {
    if (!observationIn(sketch, id)) continue;
    const k = pointAt.get(id)!;
    put(id, k, 1, 0);
    put(id, k + 1, 0, 1);
  }
  for (const shape of shapeAt.values()) {
    const { curve, at } = shape;
    const picks = picksOfCurve(curve);
    if (picks.length === 0) continue;
    const centreAt =
      curve.kind === 'circle' && !observationIn(sketch, curve.centre) ? pointAt.get(curve.centre)! : null;
    const asked = curve.kind === 'circle' ? picks : [...pointsOfCurve(curve), ...picks];
    const valuesAt = (place: Placer): number[] | null => {
      const own = shapeStart(shape, place);
      if (!own || centreAt === null) return own;
      const [a, b, c] = picks.map(place);
      const circle = circleThrough(a!, b!, c!);
      return circle && [...own, circle.centre.x, circle.centre.y];
    };
    const now = valuesAt(seen);
    const placeOfValue = (k: number) => (centreAt !== null && k > 0 ? centreAt + k - 1 : at + k);
    for (const id of asked) {
      const shifted =
        (dx: number, dy: number): Placer =>
        (p) => {
          const was = seen(p);
          return was && p === id ? { x: was.x + dx, y: was.y + dy } : was;
        };
      const [byX, byY] = [valuesAt(shifted(STEP_MM, 0)), valuesAt(shifted(0, STEP_MM))];
      if (!now || !byX || !byY) continue;
      now.forEach((v, k) => {
        put(id, placeOfValue(k), (byX[k]! - v) / STEP_MM, (byY[k]! - v) / STEP_MM);
      });
    }
  }
  return slopes;
}
