import { findAll, findGrid, findRuler, findSheet } from '../../core/src/find';
import { normalRandom, seededRandom } from '../../core/src/numeric';
import { buildCamera, type Camera, pictureOf } from '../../rig/src/camera';
import {
  type LyingGrid,
  type LyingRule,
  type LyingSheet,
  lyingGrid,
  lyingRule,
  lyingSheet,
} from '../../rig/src/harder';
import { type Item, toScene } from '../../rig/src/scene';
import { photographed } from './photographed';

/** Flaw things of known size through the simulated camera, where they are worn, faint, covered, or badly developed. */
export interface LyingRow {
  scenes: number;
  /** Found, and every place told lies on its own line. */
  right: number;
  /** Found otherwise. */
  wrong: number;
  refused: number;
  /** Found by the search of the whole picture. */
  alone: number;
  /** Rules only: other long edge taken, and taken where none is. */
  far: number;
  farWrong: number;
}

/** A place off its line by more is of something else, px; and so many of them may be. */
const OFF_PX = 1.5;
const FEW = 0.03;

type Px = readonly [number, number];

const lookAt = (camera: Camera, { lie, base, thickness }: Item) => {
  return (x: number, y: number): Px => {
    const [sx, sy] = toScene(lie, x, y);
    return pictureOf(camera, { x: sx, y: sy, z: base + thickness })!;
  };
};

const offLine = (a: Px, b: Px, u: number, v: number): number => {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  return ((u - a[0]) * -dy + (v - a[1]) * dx) / Math.hypot(dx, dy);
};

const empty = (scenes: number): LyingRow => ({
  scenes,
  right: 0,
  wrong: 0,
  refused: 0,
  alone: 0,
  far: 0,
  farWrong: 0,
});

export async function measureLyingRules(kind: LyingRule, firstSeed: number, scenes: number): Promise<LyingRow> {
  const row = empty(scenes);
  for (let k = 0; k < scenes; k++) {
    const { scene, rule } = lyingRule(kind, firstSeed + k);
    const pixels = await photographed(scene);
    const at = lookAt(buildCamera(scene.camera), rule);
    const random = seededRandom(firstSeed + k);
    const click = at(60 + 80 * random(), -2 - 4 * random());
    const found = findRuler(pixels, { uPx: click[0], vPx: click[1] });
    if (findAll(pixels).some((t) => t.kind === 'ruler')) row.alone += 1;
    if (!found.ok) {
      row.refused += 1;
      continue;
    }
    const every = rule.look?.everyMm ?? 1;
    const lines = Array.from({ length: rule.lengthMm / every + 1 }, (_, n) => [at(n * every, 0), at(n * every, -8)]);
    const strokeAt = (u: number, v: number): number => {
      const off = lines.map(([a, b]) => Math.abs(offLine(a!, b!, u, v)));
      const n = off.indexOf(Math.min(...off));
      return off[n]! < OFF_PX ? n : Number.NaN;
    };
    const { graduations, far } = found.graduations;
    const told = graduations.map((g) => ({
      n: g.n,
      on: strokeAt(g.places[0]!.uPx, g.places[0]!.vPx),
    }));
    // Either way round; most of them tell which.
    const fits = [1, -1].map((way) => {
      const first = told.map((t) => t.on - way * t.n).sort((a, b) => a - b)[told.length >> 1]!;
      return told.filter((t) => t.on === first + way * t.n).length / told.length;
    });
    if (Math.max(...fits) >= 1 - FEW) row.right += 1;
    else row.wrong += 1;
    if (far.length) {
      // The lens bends it: held against short pieces.
      const edge = Array.from({ length: rule.lengthMm / 5 + 3 }, (_, k) => at(5 * (k - 1), -rule.widthMm));
      const near = far.filter(({ uPx, vPx }) =>
        edge.some((a, k) => {
          const b = edge[k + 1];
          if (!b || Math.abs(offLine(a, b, uPx, vPx)) > OFF_PX) return false;
          const along = (b[0] - a[0]) * (uPx - a[0]) + (b[1] - a[1]) * (vPx - a[1]);
          return along >= 0 && along <= (b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2;
        }),
      );
      if (near.length > 0.9 * far.length) row.far += 1;
      else row.farWrong += 1;
    }
  }
  return row;
}

/** What the lens bends a side of a sheet by in such a picture, px. */
const BENT_PX = 3;

export async function measureLyingGrids(kind: LyingGrid, firstSeed: number, scenes: number): Promise<LyingRow> {
  const row = empty(scenes);
  for (let k = 0; k < scenes; k++) {
    const { scene, mat } = lyingGrid(kind, firstSeed + k);
    const pixels = await photographed(scene);
    const at = lookAt(buildCamera(scene.camera), mat);
    const normal = normalRandom(seededRandom(firstSeed + k));
    const click = at(100 + 25 * normal(), 75 + 15 * normal());
    const found = findGrid(pixels, { uPx: click[0], vPx: click[1] });
    if (findAll(pixels).some((t) => t.kind === 'grid')) row.alone += 1;
    if (!found.ok) {
      row.refused += 1;
      continue;
    }
    const nodes = Array.from({ length: 21 * 16 }, (_, n) => {
      const [i, j] = [n % 21, Math.floor(n / 21)];
      return { i, j, at: at(10 * i, 10 * j) };
    });
    const told = found.crossings.map(({ i, j, pick }) => {
      const near = nodes
        .map((node) => ({ node, off: Math.hypot(node.at[0] - pick.uPx, node.at[1] - pick.vPx) }))
        .reduce((a, b) => (b.off < a.off ? b : a));
      return { i, j, node: near.off < OFF_PX ? near.node : null };
    });
    // The eight ways in which a lattice may be numbered; from any crossing on.
    const ways = [
      [1, 0, 0, 1],
      [-1, 0, 0, 1],
      [1, 0, 0, -1],
      [-1, 0, 0, -1],
      [0, 1, 1, 0],
      [0, -1, 1, 0],
      [0, 1, -1, 0],
      [0, -1, -1, 0],
    ];
    const best = Math.max(
      ...ways.map(([a, b, c, d]) => {
        const offs = told.flatMap((t) =>
          t.node ? [`${t.node.i - a! * t.i - b! * t.j},${t.node.j - c! * t.i - d! * t.j}`] : [],
        );
        const counts = new Map<string, number>();
        for (const o of offs) counts.set(o, (counts.get(o) ?? 0) + 1);
        return Math.max(0, ...counts.values()) / told.length;
      }),
    );
    if (best >= 1 - FEW) row.right += 1;
    else row.wrong += 1;
  }
  return row;
}

export async function measureLyingSheets(kind: LyingSheet, firstSeed: number, scenes: number): Promise<LyingRow> {
  const row = empty(scenes);
  for (let k = 0; k < scenes; k++) {
    const { scene, sheet } = lyingSheet(kind, firstSeed + k);
    const pixels = await photographed(scene);
    const at = lookAt(buildCamera(scene.camera), sheet);
    const random = seededRandom(firstSeed + k);
    const click = at(30 + 80 * random(), 25 + 55 * random());
    const found = findSheet(pixels, { uPx: click[0], vPx: click[1] });
    if (findAll(pixels).some((t) => t.kind === 'sheet')) row.alone += 1;
    if (!found.ok) {
      row.refused += 1;
      continue;
    }
    const corners = [at(0, 0), at(sheet.widthMm, 0), at(sheet.widthMm, sheet.heightMm), at(0, sheet.heightMm)];
    // Each edge told is one of the true sides, all its places near it; the lens bends a side by less than `BENT_PX`.
    const own = found.edges.map((edge) => {
      const offs = corners.map((a, n) => {
        const b = corners[(n + 1) % 4]!;
        return edge.filter((p) => Math.abs(offLine(a, b, p.uPx, p.vPx)) < OFF_PX + BENT_PX).length / edge.length;
      });
      return { side: offs.indexOf(Math.max(...offs)), share: Math.max(...offs) };
    });
    if (own.every((e) => e.share >= 1 - FEW) && new Set(own.map((e) => e.side)).size === 4) row.right += 1;
    else row.wrong += 1;
  }
  return row;
}
