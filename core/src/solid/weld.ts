/** Triangles over corners that they share. */
export interface TriangleSet {
  /** x, y, z in turn, mm. */
  corners: Float64Array;
  /** Three corners a triangle, anticlockwise seen from outside. */
  triangles: Uint32Array;
}

/** Corners nearer than this are one, mm: the kernel gives those along an edge once a face, with the same figures. */
const ONE_CORNER_MM = 1e-5;

/** Triangles of a mesh whose faces have corners of their own, over shared ones; those that vanish are left out. */
export function welded({ positions, triangles }: { positions: Float32Array; triangles: Uint32Array }): TriangleSet {
  const count = positions.length / 3;
  const byPlace = new Map<string, number>();
  const corners: number[] = [];
  const own = new Uint32Array(count);
  for (let k = 0; k < count; k++) {
    const at = [positions[3 * k]!, positions[3 * k + 1]!, positions[3 * k + 2]!];
    const key = at.map((v) => Math.round(v / ONE_CORNER_MM)).join(' ');
    const known = byPlace.get(key) ?? corners.length / 3;
    if (known === corners.length / 3) {
      byPlace.set(key, known);
      corners.push(...at);
    }
    own[k] = known;
  }
  const kept: number[] = [];
  for (let k = 0; k < triangles.length; k += 3) {
    const [a, b, c] = [own[triangles[k]!]!, own[triangles[k + 1]!]!, own[triangles[k + 2]!]!];
    if (a !== b && b !== c && c !== a) kept.push(a, b, c);
  }
  return { corners: Float64Array.from(corners), triangles: Uint32Array.from(kept) };
}

/** Edges of triangles that do not lie between exactly two of them, run once each way: 0 for a closed body. */
export function looseEdges({ triangles }: TriangleSet): number {
  const open = new Map<string, number>();
  for (let k = 0; k < triangles.length; k += 3)
    for (let e = 0; e < 3; e++) {
      const [a, b] = [triangles[k + e]!, triangles[k + ((e + 1) % 3)]!];
      const key = a < b ? `${a} ${b}` : `${b} ${a}`;
      open.set(key, (open.get(key) ?? 0) + (a < b ? 1 : -1));
    }
  return [...open.values()].filter((n) => n !== 0).length;
}
