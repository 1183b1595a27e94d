import { cross3, dot3, norm3, plus3, type Vec3 } from '../space';
import { Arena, type Kernel, type Shape } from './arena';
import { vec3 } from './tell';

/**
 * How far the triangles that a shape was last meshed with stray from its surfaces, mm: the largest gap found at the middle of
 * each triangle and of its sides; of a face with very many triangles, of so many of them, evenly spread.
 */
export function deviationOf(oc: Kernel, shape: Shape): number {
  const arena = new Arena(oc);
  let largest = 0;
  let measured = 0;
  try {
    for (const face of arena.faces(shape)) {
      const at = arena.keep(new oc.TopLoc_Location());
      const mesh = oc.BRep_Tool.Triangulation(face, at, 0);
      const surface = arena.keep(new oc.BRepAdaptor_Surface(face, true));
      // A plane is its triangles.
      if (!mesh || surface.GetType() === oc.GeomAbs_SurfaceType.GeomAbs_Plane) continue;
      arena.keep(mesh);
      if (!mesh.HasUVNodes()) continue;
      const inner = new Arena(oc);
      const stride = Math.ceil(mesh.NbTriangles() / MOST_MEASURED);
      for (let k = 1; k <= mesh.NbTriangles(); k += stride) {
        const triangle = inner.keep(mesh.Triangle(k));
        const ids = [triangle.Value(1), triangle.Value(2), triangle.Value(3)];
        const places = ids.map((n) => vec3(inner.keep(mesh.Node(n))));
        const uv = ids.map((n) => {
          const p = inner.keep(mesh.UVNode(n));
          return { u: p.X(), v: p.Y() };
        });
        for (const weights of MIDDLES) {
          const mean = (of: (k: number) => number) => weights.reduce((sum, w, n) => sum + w * of(n), 0);
          const on = vec3(
            inner.keep(
              surface.EvalD0(
                mean((n) => uv[n]!.u),
                mean((n) => uv[n]!.v),
              ),
            ),
          );
          largest = Math.max(largest, Math.abs(overTriangle(on, places)));
        }
        if (++measured % 500 === 0) inner.free();
      }
      inner.free();
    }
    return largest;
  } finally {
    arena.free();
  }
}

/** So many triangles of a face are measured. */
const MOST_MEASURED = 20_000;

/** How far a place lies over a triangle's plane. */
function overTriangle(p: Vec3, [a, b, c]: readonly Vec3[]): number {
  const n = cross3(plus3(b!, a!, -1), plus3(c!, a!, -1));
  return dot3(n, plus3(p, a!, -1)) / (norm3(n) || 1);
}

/** The middle of a triangle and of each of its sides. */
const MIDDLES: readonly (readonly number[])[] = [
  [1 / 3, 1 / 3, 1 / 3],
  [0.5, 0.5, 0],
  [0, 0.5, 0.5],
  [0.5, 0, 0.5],
];
