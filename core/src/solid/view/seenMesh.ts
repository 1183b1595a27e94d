import type { BodyMesh } from '../bodyMesh';
import { cross3, dot3, norm3, plus3, type Vec3, VIEW_OF, type ViewSide } from '../space';
import { cornersOf } from '../weld';

/** A place as it is seen: u to the right, v up, w towards whoever looks, mm. */
export interface Seen {
  u: number;
  v: number;
  w: number;
}

/** A body's triangles as they are seen from a side, over corners that they share. */
export interface SeenMesh {
  corners: readonly Seen[];
  /** Three corners a triangle. */
  triangles: Uint32Array;
  /** How far the surface faces whoever looks at each corner of each triangle: 1 squarely, 0 edge on, less than 0 away. */
  facing: Float64Array;
  /** The surface's normal there, as it is seen: u, v, w in turn. */
  normals: Float64Array;
  /** The corner at a place in space, where there is one. */
  cornerAt(x: number, y: number, z: number): number | undefined;
  /** Triangles with both corners. */
  beside(a: number, b: number): readonly number[];
  seen(p: Vec3): Seen;
}

/** Triangles of one surface that meet at a corner at more than this meet in a tip, the cosine of rad. */
const TIP = Math.cos(1);

/** Corners where one surface comes to a tip, as a cone's does, each as its face's number and its own. */
function tipsOf({ positions, triangles, faces }: BodyMesh, own: Uint32Array): ReadonlySet<string> {
  const tips = new Set<string>();
  const at = (n: number): Vec3 => ({ x: positions[3 * n]!, y: positions[3 * n + 1]!, z: positions[3 * n + 2]! });
  faces.forEach(({ from, count }, face) => {
    const first = new Map<number, Vec3>();
    for (let k = 3 * from; k < 3 * (from + count); k += 3) {
      const ids = [triangles[k]!, triangles[k + 1]!, triangles[k + 2]!];
      const [a, b, c] = ids.map(at) as [Vec3, Vec3, Vec3];
      const normal = cross3(plus3(b, a, -1), plus3(c, a, -1));
      for (const corner of ids.map((n) => own[n]!)) {
        const known = first.get(corner);
        if (!known) first.set(corner, normal);
        else if (dot3(known, normal) < TIP * norm3(known) * norm3(normal)) tips.add(`${face} ${corner}`);
      }
    }
  });
  return tips;
}

function faceOfTriangles({ triangles, faces }: BodyMesh): Int32Array {
  const faceOf = new Int32Array(triangles.length / 3).fill(-1);
  faces.forEach(({ from, count }, face) => {
    faceOf.fill(face, from, from + count);
  });
  return faceOf;
}

/** Nearer to edge on than this a surface counts as edge on: its normals are rounded. */
const EDGE_ON = 1e-4;

export function seenMesh(mesh: BodyMesh, side: ViewSide): SeenMesh {
  const { right, up } = VIEW_OF[side];
  const to = cross3(right, up);
  const seen = (p: Vec3): Seen => ({ u: dot3(p, right), v: dot3(p, up), w: dot3(p, to) });
  const { corners: places, own, at } = cornersOf(mesh.positions);
  const corners: Seen[] = [];
  for (let k = 0; k < places.length; k += 3)
    corners.push(seen({ x: places[k]!, y: places[k + 1]!, z: places[k + 2]! }));
  const tips = tipsOf(mesh, own);
  const faceOf = faceOfTriangles(mesh);
  const triangles: number[] = [];
  const normals: number[] = [];
  for (let k = 0; k < mesh.triangles.length; k += 3) {
    const ids = [mesh.triangles[k]!, mesh.triangles[k + 1]!, mesh.triangles[k + 2]!];
    const [a, b, c] = ids.map((n) => own[n]!) as [number, number, number];
    if (a === b || b === c || c === a) continue;
    triangles.push(a, b, c);
    for (const n of ids) {
      // At a tip the surface has no normal: whatever turns away there does so in the tip itself.
      if (tips.has(`${faceOf[k / 3]} ${own[n]}`)) {
        normals.push(0, 0, 0);
        continue;
      }
      const [x, y, z] = [mesh.normals[3 * n]!, mesh.normals[3 * n + 1]!, mesh.normals[3 * n + 2]!];
      const normal = seen({ x, y, z });
      normals.push(normal.u, normal.v, Math.abs(normal.w) < EDGE_ON ? 0 : normal.w);
    }
  }
  const besides = new Map<string, number[]>();
  const keyOf = (a: number, b: number) => (a < b ? `${a} ${b}` : `${b} ${a}`);
  for (let k = 0; k < triangles.length; k += 3)
    for (let e = 0; e < 3; e++) {
      const key = keyOf(triangles[k + e]!, triangles[k + ((e + 1) % 3)]!);
      besides.set(key, [...(besides.get(key) ?? []), k / 3]);
    }
  return {
    corners,
    triangles: Uint32Array.from(triangles),
    normals: Float64Array.from(normals),
    facing: Float64Array.from({ length: normals.length / 3 }, (_, k) => normals[3 * k + 2]!),
    cornerAt: at,
    beside: (a, b) => besides.get(keyOf(a, b)) ?? [],
    seen,
  };
}
