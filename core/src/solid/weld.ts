/** Triangles over corners that they share. */
export interface TriangleSet {
  /** x, y, z in turn, mm. */
  corners: Float64Array;
  /** Three corners a triangle, anticlockwise seen from outside. */
  triangles: Uint32Array;
}

/** Corners nearer than this are one, mm: the kernel gives those along an edge once a face, with the same figures. */
const ONE_CORNER_MM = 1e-5;

/** The one corner that each place of a mesh is, and what that corner is called by its place. */
export function cornersOf(positions: Float32Array): {
  corners: Float64Array;
  own: Uint32Array;
  at(x: number, y: number, z: number): number | undefined;
} {
  const byPlace = new Map<string, number>();
  const corners: number[] = [];
  const own = new Uint32Array(positions.length / 3);
  const keyOf = (...at: readonly number[]) => at.map((v) => Math.round(v / ONE_CORNER_MM)).join(' ');
  for (let k = 0; k < own.length; k++) {
    const [x, y, z] = [positions[3 * k]!, positions[3 * k + 1]!, positions[3 * k + 2]!];
    const key = keyOf(x, y, z);
    const known = byPlace.get(key);
    own[k] = known ?? corners.length / 3;
    if (known !== undefined) continue;
    byPlace.set(key, own[k]!);
    corners.push(x, y, z);
  }
  return { corners: Float64Array.from(corners), own, at: (x, y, z) => byPlace.get(keyOf(x, y, z)) };
}

/** Triangles of a mesh whose faces have corners of their own, over shared ones; those that vanish are left out. */
export function welded({ positions, triangles }: { positions: Float32Array; triangles: Uint32Array }): TriangleSet {
  const { corners, own } = cornersOf(positions);
  const kept: number[] = [];
  for (let k = 0; k < triangles.length; k += 3) {
    const [a, b, c] = [own[triangles[k]!]!, own[triangles[k + 1]!]!, own[triangles[k + 2]!]!];
    if (a !== b && b !== c && c !== a) kept.push(a, b, c);
  }
  return { corners, triangles: Uint32Array.from(kept) };
}

/** Edges of triangles that do not lie between exactly two of them, run once each way: 0 for a closed body. */
export function looseEdges({ triangles }: TriangleSet): number {
  const runs = new Map<string, [number, number]>();
  for (let k = 0; k < triangles.length; k += 3)
    for (let e = 0; e < 3; e++) {
      const [a, b] = [triangles[k + e]!, triangles[k + ((e + 1) % 3)]!];
      const key = a < b ? `${a} ${b}` : `${b} ${a}`;
      const own = runs.get(key) ?? [0, 0];
      own[a < b ? 0 : 1] += 1;
      runs.set(key, own);
    }
  return [...runs.values()].filter(([there, back]) => there !== 1 || back !== 1).length;
}

/** Bodies one after the other, each with corners of its own. */
export function together(sets: readonly TriangleSet[]): TriangleSet {
  if (sets.length === 1) return sets[0]!;
  const corners = new Float64Array(sets.reduce((n, s) => n + s.corners.length, 0));
  const triangles = new Uint32Array(sets.reduce((n, s) => n + s.triangles.length, 0));
  let [c, t] = [0, 0];
  for (const set of sets) {
    corners.set(set.corners, c);
    for (const [k, v] of set.triangles.entries()) triangles[t + k] = v + c / 3;
    c += set.corners.length;
    t += set.triangles.length;
  }
  return { corners, triangles };
}
