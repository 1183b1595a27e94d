import { type SurfaceMesh, squareToTriangle } from '../fewer';
import { cross3, dot3, norm3, plus3, type Vec3 } from '../space';
import { cornersOf } from '../weld';
import { Arena, type Face, type Kernel, type Shape } from './arena';
import type { BodyState } from './body';
import { hashOf, type MeshTolerance, type RawMesh, rawMesh } from './mesh';
import { vec3 } from './tell';

/** Triangles of each separate body of a shape by itself, with places of its surfaces: those that touch share no corner. */
export function surfaceMeshes(oc: Kernel, { shape }: BodyState, tolerance: MeshTolerance): SurfaceMesh[] {
  const arena = new Arena(oc);
  try {
    oc.BRepTools.Clean(shape!, true);
    // All at once, so that edges between faces are cut alike.
    const whole = rawMesh(oc, shape!, tolerance);
    const parts = arena.parts(shape!, 'SOLID');
    return parts.length > 1
      ? parts.map((solid) => surfaceMesh(oc, arena, solid, rawMesh(oc, solid, tolerance)))
      : [surfaceMesh(oc, arena, shape!, whole)];
  } finally {
    arena.free();
  }
}

/** How many triangles the kernel makes of a body. */
export function triangleCount(oc: Kernel, { shape }: BodyState, tolerance: MeshTolerance): number {
  oc.BRepTools.Clean(shape!, true);
  return rawMesh(oc, shape!, tolerance).triangles.length / 3;
}

/** A mesh over shared corners, with a place of the surface over the middle of each triangle and of its sides. */
function surfaceMesh(oc: Kernel, arena: Arena, shape: Shape, raw: RawMesh): SurfaceMesh {
  const { corners, own } = cornersOf(raw.positions);
  const faces = new Map(arena.faces(shape).map((face) => [hashOf(oc, face), face]));
  const kept: number[] = [];
  const faceOf: number[] = [];
  const normals: number[] = [];
  const places: number[] = [];
  const over: number[] = [];
  // Corners of a face stand together, in the order in which the kernel numbers them.
  let firstNode = 0;
  for (let g = 0; g + 2 < raw.groups.length; g += 3) {
    const face = faces.get(raw.groups[g + 2]!)!;
    const surface = surfaceOver(oc, face);
    const { free } = surface;
    for (let k = raw.groups[g]!; k < raw.groups[g]! + raw.groups[g + 1]!; k += 3) {
      const nodes = [raw.triangles[k]!, raw.triangles[k + 1]!, raw.triangles[k + 2]!] as const;
      const [a, b, c] = nodes.map((n) => own[n]!) as [number, number, number];
      if (a === b || b === c || c === a) continue;
      for (const n of nodes) for (let e = 0; e < 3; e++) normals.push(raw.normals[3 * n + e]!);
      if (surface.at)
        for (const weights of MIDDLES) {
          // A side that two triangles share is asked for once.
          const [i, j] = weights.flatMap((w, e) => (w === 0.5 ? [nodes[e]!] : []));
          if (i !== undefined && i > j!) continue;
          const { x, y, z } = surface.at(
            nodes.map((n) => n - firstNode),
            weights,
          );
          if (!standsOver({ x, y, z }, nodes, raw.positions)) continue;
          places.push(x, y, z);
          over.push(faceOf.length);
        }
      kept.push(a, b, c);
      faceOf.push(g / 3);
    }
    firstNode += surface.nodes;
    free();
  }
  return {
    corners,
    triangles: Uint32Array.from(kept),
    faceOf: Uint32Array.from(faceOf),
    normals: Float32Array.from(normals),
    places: Float64Array.from(places),
    over: Uint32Array.from(over),
  };
}

/** The middle of a triangle and of each of its sides. */
const MIDDLES: readonly (readonly number[])[] = [
  [1 / 3, 1 / 3, 1 / 3],
  [0.5, 0.5, 0],
  [0, 0.5, 0.5],
  [0.5, 0, 0.5],
];
const FREED_EVERY = 500;
/** A place stands over its triangle as long as it lies no further off than its height over the plane times this … */
const MOST_ASIDE = 2;
/** … and this share of the longest side. */
const ASIDE_SHARE = 1e-3;

/** Whether a place lies over a triangle: at a pole, where a surface's figures run together, their middle is elsewhere. */
function standsOver(p: Vec3, nodes: readonly number[], positions: Float32Array): boolean {
  const corners = Float64Array.from(nodes.flatMap((n) => [0, 1, 2].map((e) => positions[3 * n + e]!)));
  const square = squareToTriangle(corners, 0, 3, 6, p.x, p.y, p.z);
  if (square >= 0) return true;
  const [a, b, c] = [0, 3, 6].map((k) => ({ x: corners[k]!, y: corners[k + 1]!, z: corners[k + 2]! })) as [
    Vec3,
    Vec3,
    Vec3,
  ];
  const [u, v] = [plus3(b, a, -1), plus3(c, a, -1)];
  const normal = cross3(u, v);
  const height = Math.abs(dot3(normal, plus3(p, a, -1))) / (norm3(normal) || 1);
  return Math.sqrt(-square) < MOST_ASIDE * height + ASIDE_SHARE * Math.max(norm3(u), norm3(v));
}

/** A face as it was last meshed: how many corners, and the surface between them; none over a plane, which is its triangles. */
function surfaceOver(
  oc: Kernel,
  face: Face,
): {
  nodes: number;
  at: ((nodes: readonly number[], weights: readonly number[]) => { x: number; y: number; z: number }) | null;
  free(): void;
} {
  const arena = new Arena(oc);
  const mesh = oc.BRep_Tool.Triangulation(face, arena.keep(new oc.TopLoc_Location()), 0);
  if (!mesh) return { nodes: 0, at: null, free: () => arena.free() };
  arena.keep(mesh);
  const surface = arena.keep(new oc.BRepAdaptor_Surface(face, true));
  const count = mesh.NbNodes();
  const isFlat = surface.GetType() === oc.GeomAbs_SurfaceType.GeomAbs_Plane;
  if (isFlat || !mesh.HasUVNodes()) return { nodes: count, at: null, free: () => arena.free() };
  const uv = new Float64Array(2 * count);
  const inner = new Arena(oc);
  for (let n = 0; n < count; n++) {
    const p = inner.keep(mesh.UVNode(n + 1));
    uv[2 * n] = p.X();
    uv[2 * n + 1] = p.Y();
    if (n % FREED_EVERY === 0) inner.free();
  }
  let asked = 0;
  return {
    nodes: count,
    at(nodes, weights) {
      let [u, v] = [0, 0];
      for (const [e, n] of nodes.entries()) {
        u += weights[e]! * uv[2 * n]!;
        v += weights[e]! * uv[2 * n + 1]!;
      }
      const place = vec3(inner.keep(surface.EvalD0(u, v)));
      if (++asked % FREED_EVERY === 0) inner.free();
      return place;
    },
    free() {
      inner.free();
      arena.free();
    },
  };
}
