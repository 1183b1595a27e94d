import type { BodyMesh, EdgeCurve } from '../bodyMesh';
import type { Seen, SeenMesh } from './seenMesh';

/** A line that may be drawn: an edge of the body, or where a round surface turns away. */
export interface Trace {
  /** Places along it. */
  places: Seen[];
  /** Triangles that touch each stretch between two places, and cannot hide it. */
  own: (readonly number[])[];
  /** Of each stretch along which a surface turns away: which way it does, on the sheet; null of any other. */
  away: (readonly [number, number] | null)[];
  curve: EdgeCurve;
}

/** Smooth edges along which a surface is nearer to edge on than this are where it turns away. */
const TURNS_AWAY = 0.02;
/** Shorter than this on the sheet a stretch is a dot, mm. */
export const DOT_MM = 1e-6;

/** All lines of a body that may be seen from a side. */
export const tracesOf = (mesh: BodyMesh, seen: SeenMesh): Trace[] => [...edgeTraces(mesh, seen), ...turnTraces(seen)];

/** Its edges, but for those that run on smoothly where no surface turns away, and those that lie behind both their faces. */
function edgeTraces(mesh: BodyMesh, seen: SeenMesh): Trace[] {
  return mesh.edges.flatMap(({ line, bend, curve }): Trace[] => {
    const places: Seen[] = [];
    const ids: (number | undefined)[] = [];
    for (let k = 0; k + 2 < line.length; k += 3) {
      const [x, y, z] = [line[k]!, line[k + 1]!, line[k + 2]!];
      const id = seen.cornerAt(x, y, z);
      // Told chord by chord: where one ends the next begins.
      if (id !== undefined && id === ids[ids.length - 1]) continue;
      ids.push(id);
      places.push(id === undefined ? seen.seen({ x, y, z }) : seen.corners[id]!);
    }
    const own = places.slice(1).map((_, k) => {
      const [a, b] = [ids[k], ids[k + 1]];
      return a === undefined || b === undefined ? [] : seen.beside(a, b);
    });
    if (places.length < 2) return [];
    const facing = own.flatMap((triangles, k) =>
      triangles.flatMap((t) => [facingAt(seen, t, ids[k]), facingAt(seen, t, ids[k + 1])]),
    );
    const isTurning = facing.length > 0 && facing.every((g) => Math.abs(g) < TURNS_AWAY);
    if (bend === 'smooth' && !isTurning) return [];
    if (facing.length > 0 && facing.every((g) => g < -TURNS_AWAY)) return [];
    const away = own.map((triangles) => (bend === 'smooth' ? awayOf(seen, triangles) : null));
    return [{ places, own, away, curve }];
  });
}

function facingAt({ triangles, facing }: SeenMesh, triangle: number, corner: number | undefined): number {
  for (let e = 0; e < 3; e++) if (triangles[3 * triangle + e] === corner) return facing[3 * triangle + e]!;
  return 0;
}

/** Where round surfaces turn away, within their triangles. */
function turnTraces(seen: SeenMesh): Trace[] {
  const { triangles, facing } = seen;
  const around = trianglesByCorner(triangles);
  const traces: Trace[] = [];
  for (let t = 0; t < triangles.length / 3; t++) {
    const away = [0, 1, 2].map((e) => facing[3 * t + e]! < 0);
    if (away[0] === away[1] && away[1] === away[2]) continue;
    const places: Seen[] = [];
    for (let e = 0; e < 3; e++) {
      const next = (e + 1) % 3;
      if (away[e] !== away[next]) places.push(turnOn(seen, t, e, next));
    }
    const [a, b] = places;
    if (!a || !b || Math.hypot(b.u - a.u, b.v - a.v) < DOT_MM) continue;
    // The triangles round it belong to the same bend of the surface: none of them stands before it.
    const own = [0, 1, 2].flatMap((e) => around.get(triangles[3 * t + e]!) ?? []);
    traces.push({ places: [a, b], own: [own], away: [awayOf(seen, [t])], curve: { kind: 'other' } });
  }
  return traces;
}

/** Which way triangles face on the sheet. */
function awayOf({ normals }: SeenMesh, triangles: readonly number[]): readonly [number, number] | null {
  let [u, v] = [0, 0];
  for (const t of triangles)
    for (let e = 0; e < 3; e++) {
      u += normals[3 * (3 * t + e)]!;
      v += normals[3 * (3 * t + e) + 1]!;
    }
  const long = Math.hypot(u, v);
  return long === 0 ? null : [u / long, v / long];
}

function trianglesByCorner(triangles: Uint32Array): Map<number, number[]> {
  const around = new Map<number, number[]>();
  triangles.forEach((corner, k) => {
    const own = around.get(corner);
    if (own) own.push(Math.floor(k / 3));
    else around.set(corner, [Math.floor(k / 3)]);
  });
  return around;
}

/**
 * Where a surface is edge on along a triangle's side: on the cubic that leaves both corners square to their normals (Vlachos et al.,
 * Curved PN Triangles, 2001), nearer to the surface than the side itself.
 */
function turnOn({ corners, triangles, facing, normals }: SeenMesh, t: number, from: number, to: number): Seen {
  const [i, j] = [3 * t + from, 3 * t + to];
  // Told from the lower corner: both triangles of a side come to the same place.
  const [k, l] = triangles[i]! < triangles[j]! ? [i, j] : [j, i];
  const [a, b] = [corners[triangles[k]!]!, corners[triangles[l]!]!];
  const share = facing[k]! / (facing[k]! - facing[l]!);
  const side = [b.u - a.u, b.v - a.v, b.w - a.w];
  const into = (n: number, turn: 1 | -1) => {
    const normal = [normals[3 * n]!, normals[3 * n + 1]!, normals[3 * n + 2]!];
    const over = side.reduce((sum, x, m) => sum + x * normal[m]!, 0);
    return side.map((x, m) => (turn * (x - over * normal[m]!)) / 3);
  };
  const [leave, arrive] = [into(k, 1), into(l, -1)];
  const s = 1 - share;
  const [w0, w1, w2, w3] = [s ** 3, 3 * s * s * share, 3 * s * share * share, share ** 3];
  const mix = (m: number, p: number, q: number) => w0 * p + w1 * (p + leave[m]!) + w2 * (q + arrive[m]!) + w3 * q;
  return { u: mix(0, a.u, b.u), v: mix(1, a.v, b.v), w: mix(2, a.w, b.w) };
}
