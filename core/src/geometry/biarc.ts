import { nearestOn } from './nearest';
import { NO_CROSSING_SINE, NO_HANDLE_MM } from './nothing';
import { cubicSpeed, pointAt, type Segment } from './segment';
import { splitSegment } from './split';
import { add, cross, dot, lerp, norm, scale, sub, type Vec2 } from './vector';

type Curve = Extract<Segment, { kind: 'curve' }>;

/** Halvings at most: far finer than any tolerance that is asked for. */
const DEEPEST = 14;
/** Places along a curve at which it is held against its arcs. */
const LOOKED_AT = 9;

/**
 * A curve as lines and arcs that run on tangent to one another, nowhere further from it than the tolerance, mm: two arcs over
 * each stretch (Bolton 1975, Biarc curves), halved until they lie near enough.
 */
export function arcsOf(curve: Curve, toleranceMm: number): Segment[] {
  const arcs = stretch(curve, toleranceMm, DEEPEST);
  if (arcs.length === 0) return [{ kind: 'line', from: curve.from, to: curve.to }];
  // What was too short for a piece of its own is closed up.
  return arcs.map((s, k) => ({ ...s, from: arcs[k - 1]?.to ?? curve.from, to: k < arcs.length - 1 ? s.to : curve.to }));
}

function stretch(curve: Curve, tolerance: number, deepest: number): Segment[] {
  const arcs = twoArcs(curve);
  if (arcs && (deepest === 0 || isNear(curve, arcs, tolerance))) return arcs;
  if (deepest === 0) return [{ kind: 'line', from: curve.from, to: curve.to }];
  const [first, second] = splitSegment(curve, 0.5) as [Curve, Curve];
  return [...stretch(first, tolerance, deepest - 1), ...stretch(second, tolerance, deepest - 1)];
}

function isNear(curve: Curve, arcs: readonly Segment[], tolerance: number): boolean {
  for (let k = 1; k < LOOKED_AT; k++) {
    const p = pointAt(curve, k / LOOKED_AT);
    if (Math.min(...arcs.map((s) => nearestOn(s, p).distance)) > tolerance) return false;
  }
  return true;
}

/** Two arcs from end to end with both ends' directions, whose joint lies equally far along both; null where there are none. */
function twoArcs(curve: Curve): Segment[] | null {
  const { from, to } = curve;
  const [t0, t1] = [directionAt(curve, 0), directionAt(curve, 1)];
  const v = sub(to, from);
  const length = norm(v);
  if (!t0 || !t1 || length === 0) return null;
  const t = add(t0, t1);
  const [vt, tt] = [dot(v, t), 2 * (1 - dot(t0, t1))];
  let d: number;
  if (Math.abs(tt) < SAME_WAY) {
    // Both ends run the same way: straight on, or an S.
    const along = dot(v, t1);
    if (Math.abs(along) < NO_CROSSING_SINE * length) return null;
    d = dot(v, v) / (4 * along);
  } else d = (-vt + Math.sqrt(vt * vt + tt * dot(v, v))) / tt;
  if (!(d > 0) || d > 4 * length) return null;
  const joint = scale(add(add(add(from, scale(t0, d)), to), scale(t1, -d)), 0.5);
  return [...arcFrom(from, t0, joint), ...arcTo(joint, to, t1)];
}

function directionAt(curve: Curve, t: number): Vec2 | null {
  const slope = cubicSpeed(curve, t);
  const size = norm(slope);
  return size > NO_HANDLE_MM ? scale(slope, 1 / size) : null;
}

/** Flatter than this an arc is a line, mm. */
const FLAT_MM = 1e-7;
/** Twice one minus the cosine between ways that are the same. */
const SAME_WAY = 1e-9;

function arcFrom(from: Vec2, way: Vec2, to: Vec2): Segment[] {
  const chord = sub(to, from);
  const half = norm(chord) / 2;
  if (half < FLAT_MM) return [];
  // The arc turns by twice the angle between its direction and its chord.
  const turn = Math.atan2(cross(way, chord), dot(way, chord));
  const sagitta = half * Math.tan(turn / 2);
  if (Math.abs(sagitta) < FLAT_MM) return [{ kind: 'line', from, to }];
  const middle = lerp(from, to, 0.5);
  const side = scale({ x: chord.y, y: -chord.x }, sagitta / (2 * half));
  return [{ kind: 'arc', from, via: add(middle, side), to }];
}

function arcTo(from: Vec2, to: Vec2, way: Vec2): Segment[] {
  return arcFrom(to, scale(way, -1), from).map((s) =>
    s.kind === 'arc' ? { ...s, from: s.to, to: s.from } : { kind: 'line' as const, from, to },
  );
}
