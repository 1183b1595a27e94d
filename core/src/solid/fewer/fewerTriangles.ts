import type { TriangleSet } from '../weld';
import { Heap } from './heap';
import { squareToTriangle } from './nearTriangle';

/** Triangles with more of the surface than their corners: what tells how far coarser ones would stray from it. */
export interface SurfaceMesh extends TriangleSet {
  /** Which face of the body each triangle lies on. */
  faceOf: Uint32Array;
  /** Outward normals of the surface at a triangle's three corners, nine figures a triangle. */
  normals: Float32Array;
  /** Places of the surface itself, x, y, z in turn, mm. */
  places: Float64Array;
  /** Which triangle each of them lies over. */
  over: Uint32Array;
}

/** A triangle's normal and the surface's at its corners differ by no more (0.26 rad), so that small rounds still look round. */
const LEAST_COSINE = Math.cos(0.26);
/** Cosine of the most that a triangle turns from what it was: it never folds over. */
const NOT_FOLDED = 0.2;
/** No triangle is flatter than this, mm: a file with single floats would make a line of it. */
const LEAST_HEIGHT_MM = 1e-4;

/**
 * As few triangles as keep within a gap of the surface: corners are taken away one by one, the cheapest first, each drawn on to
 * a neighbour, as long as every place of the surface stays within the gap of a triangle of its own face. Corners inside a face
 * go to any neighbour, those between two faces along what they share, those where three meet stay; so edges stay edges, and
 * what was closed stays closed.
 *
 * @param withinMm the largest gap that is allowed
 * @returns the triangles, and the largest gap of a place that the mesh was given, mm
 */
export function fewerTriangles(mesh: SurfaceMesh, withinMm: number): { set: TriangleSet; gapMm: number } {
  const thinning = new Thinning(mesh, withinMm);
  thinning.run();
  return thinning.result();
}

/** The largest gap between a mesh and the places of the surface that it was given, mm. */
export function gapOf({ corners, triangles, places, over }: SurfaceMesh): number {
  let square = 0;
  for (let k = 0; k < over.length; k++) {
    const [i, j, l] = [0, 1, 2].map((e) => 3 * triangles[3 * over[k]! + e]!) as [number, number, number];
    const own = squareToTriangle(corners, i, j, l, places[3 * k]!, places[3 * k + 1]!, places[3 * k + 2]!);
    square = Math.max(square, Math.abs(own));
  }
  return Math.sqrt(square);
}

interface Move {
  cost: number;
  from: number;
  to: number;
  /** How often the surroundings had changed when it was judged. */
  age: number;
}

/** A triangle's normal, as long as twice its area, with its longest side. */
interface Normal {
  x: number;
  y: number;
  z: number;
  long: number;
  side: number;
}

const noNormal = (): Normal => ({ x: 0, y: 0, z: 0, long: 0, side: 0 });

const cosine = (n: Normal, x: number, y: number, z: number, size: number): number =>
  (n.x * x + n.y * y + n.z * z) / (size * n.long);

class Thinning {
  private readonly corners: Float64Array;
  private readonly triangles: Uint32Array;
  private readonly normals: Float32Array;
  private readonly isGone: Uint8Array;
  /** Triangles around each corner. */
  private readonly around: number[][];
  /** Places over each triangle; corners of the mesh are places too. */
  private readonly placesOver: number[][];
  private readonly places: Float64Array;
  private readonly age: Uint32Array;
  private readonly mark: Uint32Array;
  private marked = 0;
  // Made once: a million of them are asked for.
  private readonly before = noNormal();
  private readonly after = noNormal();

  constructor(
    private readonly mesh: SurfaceMesh,
    private readonly withinMm: number,
  ) {
    const count = mesh.corners.length / 3;
    this.corners = mesh.corners;
    this.triangles = mesh.triangles.slice();
    this.normals = mesh.normals.slice();
    this.isGone = new Uint8Array(mesh.triangles.length / 3);
    this.around = Array.from({ length: count }, () => []);
    for (let k = 0; k < mesh.triangles.length; k++) this.around[mesh.triangles[k]!]!.push((k / 3) | 0);
    this.placesOver = Array.from(this.isGone, () => []);
    const given = mesh.places.length / 3;
    this.places = new Float64Array(mesh.places.length + mesh.corners.length);
    this.places.set(mesh.places);
    this.places.set(mesh.corners, mesh.places.length);
    for (let k = 0; k < given; k++) this.placesOver[mesh.over[k]!]!.push(k);
    for (let v = 0; v < count; v++) {
      // On each face that it belongs to.
      const faces = new Set<number>();
      for (const t of this.around[v]!) {
        if (faces.has(mesh.faceOf[t]!)) continue;
        faces.add(mesh.faceOf[t]!);
        this.placesOver[t]!.push(given + v);
      }
    }
    this.age = new Uint32Array(count);
    this.mark = new Uint32Array(count);
  }

  run(): void {
    const heap = new Heap<Move>();
    const stands = new Uint8Array(this.around.length);
    const judge = (from: number) => {
      const move = this.cheapest(from);
      stands[from] = move ? 1 : 0;
      if (move) heap.push(move);
    };
    for (let v = 0; v < this.around.length; v++) judge(v);
    for (let move = heap.pop(); move; move = heap.pop()) {
      // What it cost before its surroundings changed is where it stood in the row: it is judged anew, and stands again.
      if (move.age !== this.age[move.from]) judge(move.from);
      // What had no way at all may have one now.
      else for (const v of this.take(move)) if (!stands[v]) judge(v);
    }
  }

  result(): { set: TriangleSet; gapMm: number } {
    const kept: number[] = [];
    const own = new Int32Array(this.around.length).fill(-1);
    const corners: number[] = [];
    let square = 0;
    for (let t = 0; t < this.isGone.length; t++) {
      if (this.isGone[t]) continue;
      for (const v of this.cornersOf(t)) {
        if (own[v]! < 0) {
          own[v] = corners.length / 3;
          corners.push(this.corners[3 * v]!, this.corners[3 * v + 1]!, this.corners[3 * v + 2]!);
        }
        kept.push(own[v]!);
      }
      const [a, b, c] = this.cornersOf(t);
      for (const p of this.placesOver[t]!) square = Math.max(square, Math.abs(this.squareTo(p, a, b, c)));
    }
    return {
      set: { corners: Float64Array.from(corners), triangles: Uint32Array.from(kept) },
      gapMm: Math.sqrt(square),
    };
  }

  private cornersOf(t: number): [number, number, number] {
    return [this.triangles[3 * t]!, this.triangles[3 * t + 1]!, this.triangles[3 * t + 2]!];
  }

  private squareTo(place: number, a: number, b: number, c: number): number {
    const p = this.places;
    return squareToTriangle(this.corners, 3 * a, 3 * b, 3 * c, p[3 * place]!, p[3 * place + 1]!, p[3 * place + 2]!);
  }

  /** The cheapest way to take a corner away; null where there is none within the gap. */
  private cheapest(from: number): Move | null {
    const around = this.around[from]!;
    const faces = new Set(around.map((t) => this.mesh.faceOf[t]!));
    if (faces.size > 2 || around.length === 0) return null;
    let best: Move | null = null;
    let limit = this.withinMm ** 2;
    const seen = new Set<number>([from]);
    for (const t of around)
      for (const to of this.cornersOf(t)) {
        if (seen.has(to)) continue;
        seen.add(to);
        const cost = this.costOf(from, to, faces.size, limit);
        if (cost === null) continue;
        // The shorter of two that cost alike leaves the rounder triangles.
        best = { cost, from, to, age: this.age[from]! };
        limit = cost;
        if (cost === 0) return best;
      }
    return best;
  }

  /** Square of the largest gap that taking a corner away would leave, mm²; null where that is over the limit or no way at all. */
  private costOf(from: number, to: number, faceCount: number, limit: number): number | null {
    const around = this.around[from]!;
    const changed: number[] = [];
    const vanishing: number[] = [];
    for (const t of around) (this.cornersOf(t).includes(to) ? vanishing : changed).push(t);
    if (vanishing.length !== 2 || changed.length === 0) return null;
    const { faceOf } = this.mesh;
    // Between two faces it goes along their edge alone.
    if (faceCount === 2 && faceOf[vanishing[0]!] === faceOf[vanishing[1]!]) return null;
    if (!this.sharesTwo(from, to)) return null;
    for (const t of changed) if (!this.maySpan(t, from, to)) return null;
    let worst = 0;
    for (const t of around)
      for (const p of this.placesOver[t]!) {
        const square = this.gapOver(p, faceOf[t]!, changed, from, to, limit);
        if (square > limit) return null;
        if (square > worst) worst = square;
      }
    return worst;
  }

  /**
   * Square of the gap between a place and the triangles of its face, with one corner drawn elsewhere, mm²: the largest to those
   * that it stands over, as along a hollow edge it stands over both and one of them strays further; else the nearest.
   */
  private gapOver(p: number, face: number, among: readonly number[], from: number, to: number, limit: number): number {
    let over = -1;
    let least = Number.POSITIVE_INFINITY;
    for (const t of among) {
      if (this.mesh.faceOf[t] !== face) continue;
      const square = this.squareOver(p, t, from, to);
      if (square < 0) least = Math.min(least, -square);
      else if (square > over) over = square;
      if (over > limit) return over;
    }
    return over < 0 ? least : over;
  }

  /** Square of the distance from a place to a triangle with one corner drawn elsewhere, mm²; negative where it stands beside it. */
  private squareOver(place: number, t: number, from: number, to: number): number {
    const a = this.triangles[3 * t]!;
    const b = this.triangles[3 * t + 1]!;
    const c = this.triangles[3 * t + 2]!;
    return this.squareTo(place, a === from ? to : a, b === from ? to : b, c === from ? to : c);
  }

  /** Whether two corners have just two neighbours in common: else sheets would be glued together. */
  private sharesTwo(a: number, b: number): boolean {
    const stamp = ++this.marked;
    for (const t of this.around[a]!) for (const v of this.cornersOf(t)) this.mark[v] = stamp;
    this.mark[a] = 0;
    this.mark[b] = 0;
    let common = 0;
    for (const t of this.around[b]!)
      for (const v of this.cornersOf(t))
        if (this.mark[v] === stamp) {
          this.mark[v] = 0;
          common++;
        }
    return common === 2;
  }

  /** Whether a triangle with one corner drawn elsewhere still looks the way that the surface does. */
  private maySpan(t: number, from: number, to: number): boolean {
    const [was, now] = [this.before, this.after];
    this.normalOf(t, from, from, was);
    this.normalOf(t, from, to, now);
    if (now.long < now.side * LEAST_HEIGHT_MM) return false;
    if (was.long > 0 && cosine(now, was.x, was.y, was.z, was.long) < NOT_FOLDED) return false;
    for (let e = 0; e < 3; e++) {
      const at = this.triangles[3 * t + e] === from ? this.normalAt(t, from, to) : 9 * t + 3 * e;
      if (at === null) return false;
      const x = this.normals[at]!;
      const y = this.normals[at + 1]!;
      const z = this.normals[at + 2]!;
      const size = Math.sqrt(x * x + y * y + z * z);
      if (size > 0 && cosine(now, x, y, z, size) < LEAST_COSINE) return false;
    }
    return true;
  }

  /** Where the normal of a corner is noted that lies beside a triangle's own on the same face. */
  private normalAt(t: number, from: number, to: number): number | null {
    const face = this.mesh.faceOf[t]!;
    for (const beside of this.around[from]!) {
      if (this.mesh.faceOf[beside] !== face) continue;
      const e = this.cornersOf(beside).indexOf(to);
      if (e >= 0) return 9 * beside + 3 * e;
    }
    return null;
  }

  /** Of a triangle, with one corner drawn elsewhere: the normal, as long as twice the area, and the longest side. */
  private normalOf(t: number, from: number, to: number, into: Normal): void {
    const q = this.corners;
    const [a, b, c] = this.cornersOf(t);
    const i = 3 * (a === from ? to : a);
    const j = 3 * (b === from ? to : b);
    const k = 3 * (c === from ? to : c);
    const ux = q[j]! - q[i]!;
    const uy = q[j + 1]! - q[i + 1]!;
    const uz = q[j + 2]! - q[i + 2]!;
    const vx = q[k]! - q[i]!;
    const vy = q[k + 1]! - q[i + 1]!;
    const vz = q[k + 2]! - q[i + 2]!;
    into.x = uy * vz - uz * vy;
    into.y = uz * vx - ux * vz;
    into.z = ux * vy - uy * vx;
    into.long = Math.sqrt(into.x ** 2 + into.y ** 2 + into.z ** 2);
    const third = (ux - vx) ** 2 + (uy - vy) ** 2 + (uz - vz) ** 2;
    into.side = Math.sqrt(Math.max(ux * ux + uy * uy + uz * uz, vx * vx + vy * vy + vz * vz, third));
  }

  /** Takes a corner away; those that were beside it. */
  private take({ from, to }: Move): Iterable<number> {
    const loose: [number, number][] = [];
    const changed: number[] = [];
    const { faceOf } = this.mesh;
    for (const t of this.around[from]!) {
      for (const p of this.placesOver[t]!) loose.push([p, faceOf[t]!]);
      this.placesOver[t] = [];
      for (const v of this.cornersOf(t)) this.age[v]!++;
      if (this.cornersOf(t).includes(to)) this.isGone[t] = 1;
      else changed.push(t);
    }
    for (const t of changed) {
      const e = this.cornersOf(t).indexOf(from);
      const at = this.normalAt(t, from, to)!;
      for (let k = 0; k < 3; k++) this.normals[9 * t + 3 * e + k] = this.normals[at + k]!;
    }
    for (const t of changed) this.triangles[3 * t + this.cornersOf(t).indexOf(from)] = to;
    const beside = new Set<number>([to]);
    for (const t of this.around[from]!) for (const v of this.cornersOf(t)) if (v !== from) beside.add(v);
    this.around[to]!.push(...changed);
    this.around[from] = [];
    for (const v of beside) this.around[v] = this.around[v]!.filter((t) => !this.isGone[t]);
    for (const [p, face] of loose) {
      let best = -1;
      let least = Number.POSITIVE_INFINITY;
      for (const t of changed) {
        if (faceOf[t] !== face) continue;
        const square = Math.abs(this.squareTo(p, ...this.cornersOf(t)));
        if (square < least) [best, least] = [t, square];
      }
      this.placesOver[best]!.push(p);
    }
    return beside;
  }
}
