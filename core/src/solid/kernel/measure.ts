import { NO_LENGTH_MM, ONE_PLACE_MM, ROUND_SHARE } from '../../geometry';
import type { EdgeName, FaceName } from '../../sketch';
import { isSameFace } from '../names';
import { cross3, dot3, norm3, plus3, type Vec3 } from '../space';
import { Arena, type Edge, type Face, type Kernel } from './arena';
import type { BodyState } from './body';
import { edgesNamed, edgesOfBody } from './finish';
import { vec3 } from './tell';

/** A size of the body; mm, or rad for an angle; and the two places in space that it lies between, where it has two. */
export interface BodySize {
  kind: 'distance' | 'diameter' | 'angle' | 'length' | 'wall';
  value: number;
  between: [Vec3, Vec3] | null;
}

/** What a size is asked of: one or two faces, an edge, or the wall behind a place on a face. */
export type SizeAsked =
  | { of: 'faces'; faces: readonly FaceName[] }
  | { of: 'edge'; edge: EdgeName }
  | { of: 'wall'; at: Vec3; normal: Vec3 };

const PARALLEL = 1e-6;

type Surface =
  | { kind: 'plane'; at: Vec3; normal: Vec3; middle: Vec3 }
  | { kind: 'cylinder'; at: Vec3; along: Vec3; radius: number; middle: Vec3 }
  | { kind: 'other'; middle: Vec3 };

/** A size of a body, by its exact surfaces; null where what is asked for is not there, or has none. */
export function sizeOf(oc: Kernel, state: BodyState, asked: SizeAsked): BodySize | null {
  const arena = new Arena(oc);
  try {
    if (asked.of === 'edge') return sizeOfEdge(arena, state, asked.edge);
    if (asked.of === 'wall') return wallAt(arena, state, asked.at, asked.normal);
    const faces = asked.faces.map((name) => faceNamed(arena, state, name));
    const [a, b] = faces;
    if (!a || (asked.faces.length > 1 && !b)) return null;
    return b ? sizeBetween(arena, a, b) : sizeAcross(arena, a);
  } finally {
    arena.free();
  }
}

function faceNamed(arena: Arena, { shape, tags }: BodyState, name: FaceName): Face | null {
  return (
    arena.faces(shape!).find((f) => {
      const tag = tags.get(f);
      return tag !== undefined && isSameFace(tag.name, name);
    }) ?? null
  );
}

function surfaceOf(arena: Arena, face: Face): Surface {
  const { oc } = arena;
  const surface = arena.keep(new oc.BRepAdaptor_Surface(face, true));
  const u = (surface.FirstUParameter() + surface.LastUParameter()) / 2;
  const v = (surface.FirstVParameter() + surface.LastVParameter()) / 2;
  const middle = vec3(arena.keep(surface.EvalD0(u, v)));
  const kind = surface.GetType();
  if (kind === oc.GeomAbs_SurfaceType.GeomAbs_Plane) {
    const plane = arena.keep(surface.Plane());
    const axis = arena.keep(plane.Axis());
    return {
      kind: 'plane',
      at: vec3(arena.keep(plane.Location())),
      normal: vec3(arena.keep(axis.Direction())),
      middle,
    };
  }
  if (kind === oc.GeomAbs_SurfaceType.GeomAbs_Cylinder) {
    const cylinder = arena.keep(surface.Cylinder());
    const axis = arena.keep(cylinder.Axis());
    return {
      kind: 'cylinder',
      at: vec3(arena.keep(axis.Location())),
      along: vec3(arena.keep(axis.Direction())),
      radius: cylinder.Radius(),
      middle,
    };
  }
  return { kind: 'other', middle };
}

/** The foot of a place on a line. */
const footOn = (p: Vec3, at: Vec3, along: Vec3): Vec3 => plus3(at, along, dot3(plus3(p, at, -1), along));

function sizeAcross(arena: Arena, face: Face): BodySize | null {
  const s = surfaceOf(arena, face);
  if (s.kind === 'plane') return null;
  if (s.kind === 'other') return sizeOfTurned(arena, face);
  const centre = footOn(s.middle, s.at, s.along);
  const out = plus3(s.middle, centre, -1);
  return { kind: 'diameter', value: 2 * s.radius, between: [plus3(centre, out, -1), s.middle] };
}

/** Of a face that turns about an axis, a cone say, the diameter in its middle. */
function sizeOfTurned(arena: Arena, face: Face): BodySize | null {
  const surface = arena.keep(new arena.oc.BRepAdaptor_Surface(face, true));
  const [first, last] = [surface.FirstUParameter(), surface.LastUParameter()];
  const v = (surface.FirstVParameter() + surface.LastVParameter()) / 2;
  const at = (share: number) => vec3(arena.keep(surface.EvalD0(first + share * (last - first), v)));
  const circle = circleOf3(at(0), at(0.3), at(0.65));
  if (!circle) return null;
  const check = [0.15, 0.5, 0.8].map((share) => norm3(plus3(at(share), circle.centre, -1)));
  if (check.some((r) => Math.abs(r - circle.radius) > ROUND_SHARE * circle.radius)) return null;
  const out = plus3(at(0), circle.centre, -1);
  return { kind: 'diameter', value: 2 * circle.radius, between: [plus3(circle.centre, out, -1), at(0)] };
}

/** Square of twice the area of a triangle whose corners lie on one line, mm⁴. */
const NO_TURN_MM4 = 1e-18;

/** The circle through three places in space; null where they lie on one line. */
function circleOf3(a: Vec3, b: Vec3, c: Vec3): { centre: Vec3; radius: number } | null {
  const [p, q] = [plus3(b, a, -1), plus3(c, a, -1)];
  const n = cross3(p, q);
  const square = dot3(n, n);
  if (square < NO_TURN_MM4) return null;
  const [to, other] = [cross3(n, p), cross3(q, n)];
  const centre = plus3(plus3(a, to, dot3(q, q) / (2 * square)), other, dot3(p, p) / (2 * square));
  return { centre, radius: norm3(plus3(centre, a, -1)) };
}

function sizeBetween(arena: Arena, a: Face, b: Face): BodySize | null {
  const [s, t] = [surfaceOf(arena, a), surfaceOf(arena, b)];
  if (s.kind === 'plane' && t.kind === 'plane') {
    const cos = Math.abs(dot3(s.normal, t.normal));
    if (cos < 1 - PARALLEL) return { kind: 'angle', value: Math.acos(Math.min(1, cos)), between: null };
    const over = dot3(plus3(t.at, s.at, -1), s.normal);
    return { kind: 'distance', value: Math.abs(over), between: [s.middle, plus3(s.middle, s.normal, over)] };
  }
  if (s.kind === 'cylinder' && t.kind === 'cylinder' && Math.abs(dot3(s.along, t.along)) > 1 - PARALLEL) {
    const [p, q] = [footOn(s.middle, s.at, s.along), footOn(s.middle, t.at, t.along)];
    const apart = norm3(plus3(q, p, -1));
    // About one axis: what lies between them is a wall.
    if (apart < ONE_PLACE_MM && Math.abs(s.radius - t.radius) > NO_LENGTH_MM)
      return { kind: 'wall', value: Math.abs(s.radius - t.radius), between: null };
    return { kind: 'distance', value: apart, between: [p, q] };
  }
  const [plane, round] = s.kind === 'plane' ? [s, t] : [t, s];
  if (plane.kind === 'plane' && round.kind === 'cylinder' && Math.abs(dot3(plane.normal, round.along)) < PARALLEL) {
    const on = footOn(plane.middle, round.at, round.along);
    const over = dot3(plus3(on, plane.at, -1), plane.normal);
    return { kind: 'distance', value: Math.abs(over), between: [on, plus3(on, plane.normal, -over)] };
  }
  return nearest(arena, a, b);
}

function nearest(arena: Arena, a: Face, b: Face): BodySize | null {
  const { oc } = arena;
  const found = arena.keep(new oc.BRepExtrema_DistShapeShape());
  found.LoadS1(a);
  found.LoadS2(b);
  found.Perform(arena.keep(new oc.Message_ProgressRange()));
  if (!found.IsDone() || found.NbSolution() === 0) return null;
  return {
    kind: 'distance',
    value: found.Value(),
    between: [vec3(arena.keep(found.PointOnShape1(1))), vec3(arena.keep(found.PointOnShape2(1)))],
  };
}

function sizeOfEdge(arena: Arena, state: BodyState, asked: EdgeName): BodySize | null {
  const { oc } = arena;
  const [own] = edgesNamed(arena, edgesOfBody(arena, state), asked);
  if (!own) return null;
  const edge: Edge = own.edge;
  const curve = arena.keep(new oc.BRepAdaptor_Curve(edge));
  const [first, last] = [curve.FirstParameter(), curve.LastParameter()];
  const at = (t: number) => vec3(arena.keep(curve.EvalD0(t)));
  if (curve.GetType() === oc.GeomAbs_CurveType.GeomAbs_Circle) {
    const circle = arena.keep(curve.Circle());
    const centre = vec3(arena.keep(circle.Location()));
    const rim = at(first);
    const value = 2 * circle.Radius();
    return { kind: 'diameter', value, between: [plus3(centre, plus3(rim, centre, -1), -1), rim] };
  }
  const length = arena.keep(new oc.GProp_GProps());
  oc.BRepGProp.LinearProperties(edge, length, false, false);
  return { kind: 'length', value: length.Mass(), between: [at(first), at(last)] };
}

/** The wall behind a place: from there straight into the body until it ends. */
function wallAt(arena: Arena, { shape }: BodyState, at: Vec3, normal: Vec3): BodySize | null {
  const { oc } = arena;
  const way = plus3({ x: 0, y: 0, z: 0 }, normal, -1 / (norm3(normal) || 1));
  const far = plus3(at, way, 1e4);
  // A place that was picked on triangles may lie a little off the surface.
  const near = plus3(at, way, -0.05);
  const ray = arena.keep(arena.keep(new oc.BRepBuilderAPI_MakeEdge(arena.point(near), arena.point(far))).Edge());
  const met = arena.keep(new oc.BRepAlgoAPI_Common());
  met.SetArguments(arena.list([ray]));
  met.SetTools(arena.list([shape!]));
  met.Build(arena.keep(new oc.Message_ProgressRange()));
  const within = arena.parts(arena.keep(met.Shape()), 'EDGE').map((part) => {
    const ends = arena
      .parts(part, 'VERTEX')
      .map((v) => vec3(arena.keep(oc.BRep_Tool.Pnt(arena.keep(oc.TopoDS.Vertex(v))))))
      .map((p) => dot3(plus3(p, at, -1), way));
    return { from: Math.min(...ends), to: Math.max(...ends) };
  });
  const first = within.sort((a, b) => a.from - b.from).find((w) => w.to > 0.01);
  if (!first) return null;
  return {
    kind: 'wall',
    value: first.to - first.from,
    between: [plus3(at, way, first.from), plus3(at, way, first.to)],
  };
}
