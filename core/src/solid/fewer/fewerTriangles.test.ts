import { describe, expect, it } from 'vitest';
import { looseEdges } from '../weld';
import { fewerTriangles, gapOf, type SurfaceMesh } from '.';
import { squareToTriangle } from './nearTriangle';

type Place = [number, number, number];
/** A piece of surface over a grid: its places and outward normals, from two shares. */
interface Patch {
  at(u: number, v: number): Place;
  normal(u: number, v: number): Place;
  columns: number;
  rows: number;
}

/** A closed mesh of patches, which share the corners that lie at one place, with places of the surface over every triangle. */
function meshOf(patches: readonly Patch[]): SurfaceMesh {
  const own = new Map<string, number>();
  const corners: number[] = [];
  const [triangles, faceOf, normals, places, over]: number[][] = [[], [], [], [], []];
  const corner = (p: Place) => {
    const key = p.map((x) => x.toFixed(6).replace('-0.000000', '0.000000')).join(' ');
    if (!own.has(key)) {
      own.set(key, corners.length / 3);
      corners.push(...p);
    }
    return own.get(key)!;
  };
  for (const [face, { at, normal, columns, rows }] of patches.entries())
    for (let i = 0; i < columns; i++)
      for (let j = 0; j < rows; j++)
        for (const shares of [
          [
            [i, j],
            [i + 1, j],
            [i + 1, j + 1],
          ],
          [
            [i, j],
            [i + 1, j + 1],
            [i, j + 1],
          ],
        ].map((three) => three.map(([x, y]) => [x! / columns, y! / rows] as const))) {
          const ids = shares.map(([u, v]) => corner(at(u, v)));
          if (new Set(ids).size < 3) continue;
          for (const [u, v] of shares) normals!.push(...normal(u, v));
          const mean = (k: 0 | 1) => (shares[0]![k] + shares[1]![k] + shares[2]![k]) / 3;
          places!.push(...at(mean(0), mean(1)));
          over!.push(faceOf!.length);
          triangles!.push(...ids);
          faceOf!.push(face);
        }
  return {
    corners: Float64Array.from(corners),
    triangles: Uint32Array.from(triangles!),
    faceOf: Uint32Array.from(faceOf!),
    normals: Float32Array.from(normals!),
    places: Float64Array.from(places!),
    over: Uint32Array.from(over!),
  };
}

const TURN = 2 * Math.PI;
const round = (r: number, u: number, z: number): Place => [r * Math.cos(TURN * u), r * Math.sin(TURN * u), z];
const disc = (r: number, z: number, columns: number, up: boolean): Patch => ({
  at: (u, v) => round(up ? r * (1 - v) : r * v, u, z),
  normal: () => [0, 0, up ? 1 : -1],
  columns,
  rows: 1,
});
const wall = (r: number, high: number, columns: number, rows: number): Patch => ({
  at: (u, v) => round(r, u, high * v),
  normal: (u) => round(1, u, 0),
  columns,
  rows,
});
const torus = (big: number, small: number, columns: number, rows: number): Patch => ({
  at: (u, v) => round(big + small * Math.cos(TURN * v), u, small * Math.sin(TURN * v)),
  normal: (u, v) => round(Math.cos(TURN * v), u, Math.sin(TURN * v)),
  columns,
  rows,
});
const square = (way: (a: number, b: number) => Place, n: number): Patch => ({
  at: way,
  normal: () => {
    const [o, a, b] = [way(0, 0), way(1, 0), way(0, 1)];
    const [u, v] = [a, b].map((p) => p.map((x, k) => x - o[k]!)) as [Place, Place];
    return [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
  },
  columns: n,
  rows: n,
});

const volumeOf = ({ corners, triangles }: { corners: Float64Array; triangles: Uint32Array }) => {
  let sixfold = 0;
  for (let k = 0; k < triangles.length; k += 3) {
    const [a, b, c] = [0, 1, 2].map((e) => corners.slice(3 * triangles[k + e]!, 3 * triangles[k + e]! + 3));
    sixfold +=
      a![0]! * (b![1]! * c![2]! - b![2]! * c![1]!) +
      a![1]! * (b![2]! * c![0]! - b![0]! * c![2]!) +
      a![2]! * (b![0]! * c![1]! - b![1]! * c![0]!);
  }
  return sixfold / 6;
};

describe('fewer triangles', () => {
  it('leave a box its twelve, whatever it was cut into', () => {
    const n = 9;
    const box = meshOf([
      square((a, b) => [b, a, 0], n),
      square((a, b) => [a, b, 1], n),
      square((a, b) => [a, 0, b], n),
      square((a, b) => [b, 1, a], n),
      square((a, b) => [0, b, a], n),
      square((a, b) => [1, a, b], n),
    ]);
    expect(looseEdges(box)).toBe(0);
    const { set, gapMm } = fewerTriangles(box, 0.01);
    expect(set.triangles.length / 3).toBe(12);
    expect(looseEdges(set)).toBe(0);
    expect(volumeOf(set)).toBeCloseTo(1, 12);
    expect(gapMm).toBeCloseTo(0, 12);
  });

  it('take a cylinder cut into rings for what its rims need, and no less', () => {
    const [r, high, gap] = [10, 25, 0.05];
    const fine = meshOf([disc(r, 0, 96, false), wall(r, high, 96, 40), disc(r, high, 96, true)]);
    expect(looseEdges(fine)).toBe(0);
    const { set, gapMm } = fewerTriangles(fine, gap);
    expect(looseEdges(set)).toBe(0);
    expect(gapMm).toBeLessThanOrEqual(gap);
    // A chord that strays by the gap, and the discs in fans.
    const least = Math.PI / Math.acos(1 - gap / r);
    expect(set.triangles.length / 3).toBeGreaterThan(3.5 * least);
    expect(set.triangles.length / 3).toBeLessThan(6 * least);
  });

  it('keep within the gap of a ring round both ways, seen from everywhere, with a fraction of them', () => {
    const [big, small, gap] = [20, 6, 0.05];
    const fine = meshOf([torus(big, small, 240, 120)]);
    const { set, gapMm } = fewerTriangles(fine, gap);
    expect(looseEdges(set)).toBe(0);
    expect(set.triangles.length).toBeLessThan(0.12 * fine.triangles.length);
    expect(gapMm).toBeLessThanOrEqual(gap);
    // Off the ring itself, at a hundred places of each triangle: independent of the places that it was given.
    let most = 0;
    for (let k = 0; k < set.triangles.length; k += 3) {
      const three = [0, 1, 2].map((e) => set.corners.slice(3 * set.triangles[k + e]!, 3 * set.triangles[k + e]! + 3));
      for (let i = 0; i <= 12; i++)
        for (let j = 0; i + j <= 12; j++) {
          const [x, y, z] = [0, 1, 2].map((e) =>
            [i, j, 12 - i - j].reduce((sum, w, n) => sum + (w / 12) * three[n]![e]!, 0),
          );
          most = Math.max(most, Math.abs(Math.hypot(Math.hypot(x!, y!) - big, z!) - small));
        }
    }
    // Between the places that are measured, which lie a few tenths of a millimetre apart, it is a little more.
    expect(most).toBeLessThan(1.15 * gap);
    expect(most).toBeGreaterThan(0.5 * gap);
  });

  it('of what is coarse already lose the middles of its discs alone', () => {
    const coarse = meshOf([disc(10, 0, 12, false), wall(10, 5, 12, 1), disc(10, 5, 12, true)]);
    expect(gapOf(coarse)).toBeGreaterThan(0.1);
    expect(fewerTriangles(coarse, 0.01).set.triangles.length / 3).toBe(24 + 2 * 10);
  });
});

describe('the distance to a triangle', () => {
  const c = Float64Array.from([0, 0, 0, 4, 0, 0, 0, 3, 0]);
  const to = (x: number, y: number, z: number) => Math.sqrt(Math.abs(squareToTriangle(c, 0, 3, 6, x, y, z)));

  it.each([
    ['over its inside', [1, 1, 2], 2],
    ['beside a side', [2, -1, 0], 1],
    ['beside the slanted side', [4, 3, 0], 2.4],
    ['off a corner', [-3, -4, 0], 5],
    ['off a corner and above', [6, -1, 2], 3],
  ] as const)('%s', (_, [x, y, z], expected) => {
    expect(to(x, y, z)).toBeCloseTo(expected, 12);
  });

  it('says by its sign whether the place stands over it', () => {
    expect(squareToTriangle(c, 0, 3, 6, 1, 1, -2)).toBe(4);
    expect(squareToTriangle(c, 0, 3, 6, 2, -1, 0)).toBe(-1);
  });
});
