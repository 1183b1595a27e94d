import type { Bend, BodyMesh, EdgeCurve, MeshEdge } from '../bodyMesh';
import { Arena, type Edge, type Kernel, type Shape, ShapeMap } from './arena';
import type { BodyState } from './body';
import { vec3 } from './tell';

export interface MeshTolerance {
  /** Largest gap between a triangle and the surface, mm. */
  linearMm: number;
  angularRad: number;
}

/** Fine enough for a screen: a share of the body's size. */
export const screenTolerance = (sizeMm: number): MeshTolerance => ({
  linearMm: Math.max(sizeMm * 5e-4, 0.005),
  angularRad: 0.25,
});

const HASHES = 2 ** 31 - 1;

export interface RawMesh {
  positions: Float32Array;
  normals: Float32Array;
  triangles: Uint32Array;
  /** First index, count of indices, and hash of each face. */
  groups: Int32Array;
}

/** Triangles as the kernel makes them, each face with corners of its own. */
export function rawMesh(oc: Kernel, shape: Shape, { linearMm, angularRad }: MeshTolerance): RawMesh {
  const data = oc.ReplicadMeshExtractor.extract(shape, linearMm, angularRad, false);
  try {
    const { buffer } = oc.wasmMemory;
    return {
      positions: new Float32Array(buffer, data.getVerticesPtr(), data.getVerticesSize()).slice(),
      normals: new Float32Array(buffer, data.getNormalsPtr(), data.getNormalsSize()).slice(),
      triangles: new Uint32Array(buffer, data.getTrianglesPtr(), data.getTrianglesSize()).slice(),
      groups: new Int32Array(buffer, data.getFaceGroupsPtr(), data.getFaceGroupsSize()).slice(),
    };
  } finally {
    data.delete();
  }
}

/** Edges as lines on the triangles' own corners, by their hash. */
function rawEdges(oc: Kernel, shape: Shape, { linearMm, angularRad }: MeshTolerance): Map<number, Float32Array> {
  const data = oc.ReplicadEdgeMeshExtractor.extract(shape, linearMm, angularRad);
  try {
    const { buffer } = oc.wasmMemory;
    const lines = new Float32Array(buffer, data.getLinesPtr(), data.getLinesSize()).slice();
    const groups = new Int32Array(buffer, data.getEdgeGroupsPtr(), data.getEdgeGroupsSize()).slice();
    const byHash = new Map<number, Float32Array>();
    for (let k = 0; k + 2 < groups.length; k += 3)
      byHash.set(groups[k + 2]!, lines.slice(3 * groups[k]!, 3 * (groups[k]! + groups[k + 1]!)));
    return byHash;
  } finally {
    data.delete();
  }
}

export const hashOf = (oc: Kernel, shape: Shape): number => oc.ReplicadShapeHasher.HashCode(shape, HASHES);

/** Turned by less than this at an edge two faces run on smoothly, rad. */
const SMOOTH_RAD = 0.02;

/** How each edge of a shape is bent; edges of one face alone are smooth. */
export function bentEdges(arena: Arena, shape: Shape): ShapeMap<Bend> {
  const { oc } = arena;
  const bends: ShapeMap<Bend> = new ShapeMap(oc);
  for (const { edge, bend } of edgesWith(arena, shape)) bends.set(edge, bend);
  return bends;
}

interface Beside {
  face: Shape;
  /** Outwards, and along the face away from the edge, at the edge's middle. */
  normal: Triple;
  inwards: Triple;
}

type Triple = [number, number, number];
const dot = (a: Triple, b: Triple) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: Triple, b: Triple): Triple => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
const unit = (a: Triple): Triple => {
  const long = Math.hypot(...a) || 1;
  return [a[0] / long, a[1] / long, a[2] / long];
};

/** Each edge with the faces beside it, and how it is bent in its middle. */
function edgesWith(arena: Arena, shape: Shape): { edge: Shape; faces: Shape[]; bend: Bend }[] {
  const { oc } = arena;
  const beside = new ShapeMap<Beside[]>(oc);
  const order: Shape[] = [];
  for (const face of arena.faces(shape))
    for (const part of arena.parts(face, 'EDGE')) {
      const edge = arena.keep(oc.TopoDS.Edge(part));
      if (oc.BRep_Tool.Degenerated(edge)) continue;
      const here = middleOf(arena, edge, face);
      const own = beside.get(edge);
      if (own) own.push({ face, ...here });
      else {
        beside.set(edge, [{ face, ...here }]);
        order.push(edge);
      }
    }
  return order.map((edge) => {
    const [a, b] = beside.get(edge)!;
    const faces = beside.get(edge)!.map((x) => x.face);
    if (!a || !b || a.face.IsSame(b.face)) return { edge, faces, bend: 'smooth' as const };
    const turn = Math.acos(Math.max(-1, Math.min(1, dot(a.normal, b.normal))));
    const bend: Bend = turn < SMOOTH_RAD ? 'smooth' : dot(b.inwards, a.normal) < 0 ? 'out' : 'in';
    return { edge, faces, bend };
  });
}

/** The face's normal in the middle of an edge, and the way into the face there. */
function middleOf(arena: Arena, edge: ReturnType<Arena['edges']>[number], face: ReturnType<Arena['faces']>[number]) {
  const { oc } = arena;
  const curve = arena.keep(new oc.BRepAdaptor_Curve(edge));
  const at = (curve.FirstParameter() + curve.LastParameter()) / 2;
  const d1 = curve.EvalD1(at);
  const tangent = tripleOf(arena.keep(d1.D1));
  const uv = arena.keep(arena.keep(new oc.BRepAdaptor_Curve2d(edge, face)).EvalD0(at));
  const surface = arena.keep(new oc.BRepAdaptor_Surface(face, true));
  const s = surface.EvalD1(uv.X(), uv.Y());
  const raw = cross(tripleOf(arena.keep(s.D1U)), tripleOf(arena.keep(s.D1V)));
  const isTurned = face.Orientation() === oc.TopAbs_Orientation.TopAbs_REVERSED;
  const normal = unit(isTurned ? [-raw[0], -raw[1], -raw[2]] : raw);
  // With the normal up, a face lies to the left of each of its edges.
  const runsBack = edge.Orientation() === oc.TopAbs_Orientation.TopAbs_REVERSED;
  const along = unit(runsBack ? [-tangent[0], -tangent[1], -tangent[2]] : tangent);
  return { normal, inwards: cross(normal, along) };
}

const tripleOf = (v: { X(): number; Y(): number; Z(): number }): Triple => [v.X(), v.Y(), v.Z()];

/** A body as it is drawn. What it was drawn with before is forgotten first: the same body gives the same triangles. */
export function meshOf(oc: Kernel, { shape, tags }: BodyState, tolerance: MeshTolerance): BodyMesh {
  const arena = new Arena(oc);
  try {
    oc.BRepTools.Clean(shape!, true);
    const raw = rawMesh(oc, shape!, tolerance);
    const byHash = new Map(arena.faces(shape!).map((f) => [hashOf(oc, f), tags.get(f) ?? null]));
    const faces: BodyMesh['faces'] = [];
    for (let k = 0; k + 2 < raw.groups.length; k += 3) {
      const tag = byHash.get(raw.groups[k + 2]!) ?? null;
      faces.push({
        name: tag?.name ?? null,
        isHole: tag?.isHole ?? false,
        from: raw.groups[k]! / 3,
        count: raw.groups[k + 1]! / 3,
      });
    }
    const lines = rawEdges(oc, shape!, tolerance);
    const edges = edgesWith(arena, shape!).flatMap(({ edge, faces: beside, bend }): MeshEdge[] => {
      const line = lines.get(hashOf(oc, edge));
      const [a, b] = beside.map((f) => tags.get(f)?.name);
      return line ? [{ line, bend, faces: a && b ? [a, b] : null, curve: curveOf(arena, edge as Edge) }] : [];
    });
    const { positions, normals, triangles } = raw;
    return { positions, normals, triangles, faces, edges };
  } finally {
    arena.free();
  }
}

function curveOf(arena: Arena, edge: Edge): EdgeCurve {
  const { oc } = arena;
  const curve = arena.keep(new oc.BRepAdaptor_Curve(edge));
  const kind = curve.GetType();
  if (kind === oc.GeomAbs_CurveType.GeomAbs_Line) return { kind: 'line' };
  if (kind !== oc.GeomAbs_CurveType.GeomAbs_Circle) return { kind: 'other' };
  const circle = arena.keep(curve.Circle());
  const axis = arena.keep(circle.Axis());
  return {
    kind: 'circle',
    centre: vec3(arena.keep(circle.Location())),
    along: vec3(arena.keep(axis.Direction())),
    radius: circle.Radius(),
  };
}
