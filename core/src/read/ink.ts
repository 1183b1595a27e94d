import type { TextImage } from './text';

/** One connected piece of ink: its bounds, px, the last row and column within, and how many pixels it has. */
export interface InkPiece {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
  count: number;
}

/** Tiles of which each has a ground of its own, px. */
const TILE_PX = 64;
/** Ink takes so much of the ground's light away, at least. */
const INK_SHARE = 0.3;
const LEAST_STEP = 25;

/** Where a page is inked: 1 for ink. The ground is the brighter part of what lies round about, so that shade is none. */
export function inkOf({ width, height, light }: TextImage): Uint8Array {
  const [columns, rows] = [Math.ceil(width / TILE_PX), Math.ceil(height / TILE_PX)];
  const ground = new Float32Array(columns * rows);
  const counts = new Uint32Array(256);
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      counts.fill(0);
      let all = 0;
      for (let y = j * TILE_PX; y < Math.min(height, (j + 1) * TILE_PX); y += 2)
        for (let x = i * TILE_PX; x < Math.min(width, (i + 1) * TILE_PX); x += 2) {
          counts[light[y * width + x]!]! += 1;
          all += 1;
        }
      let [level, above] = [255, 0];
      while (level > 0 && above + counts[level]! < 0.3 * all) above += counts[level--]!;
      ground[j * columns + i] = level;
    }
  const ink = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    const j = Math.floor(y / TILE_PX) * columns;
    for (let x = 0; x < width; x++) {
      const g = ground[j + Math.floor(x / TILE_PX)]!;
      const k = y * width + x;
      if (g - light[k]! > Math.max(LEAST_STEP, INK_SHARE * g)) ink[k] = 1;
    }
  }
  return ink;
}

/** The connected pieces of ink, corners counting as touching. */
// biome-ignore lint/complexity/noExcessiveCognitiveComplexity: one pass over the pixels, as quick as it is asked for
export function piecesOf(ink: Uint8Array, width: number, height: number): InkPiece[] {
  const labels = new Int32Array(width * height);
  const parent: number[] = [0];
  const rootOf = (a: number): number => {
    let r = a;
    while (parent[r] !== r) r = parent[r]!;
    while (parent[a] !== r) [a, parent[a]] = [parent[a]!, r];
    return r;
  };
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const k = y * width + x;
      if (!ink[k]) continue;
      let own = x > 0 ? labels[k - 1]! : 0;
      if (y > 0)
        for (let d = -1; d <= 1; d++) {
          const other = x + d >= 0 && x + d < width ? labels[k - width + d]! : 0;
          if (!other || other === own) continue;
          if (!own) own = other;
          else {
            const [a, b] = [rootOf(own), rootOf(other)];
            if (a !== b) parent[Math.max(a, b)] = Math.min(a, b);
          }
        }
      if (!own) {
        own = parent.length;
        parent.push(own);
      }
      labels[k] = own;
    }
  const pieces = new Map<number, InkPiece>();
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const label = labels[y * width + x]!;
      if (!label) continue;
      const root = rootOf(label);
      const p = pieces.get(root);
      if (!p) pieces.set(root, { x0: x, y0: y, x1: x, y1: y, count: 1 });
      else {
        p.x0 = Math.min(p.x0, x);
        p.x1 = Math.max(p.x1, x);
        p.y1 = y;
        p.count += 1;
      }
    }
  return [...pieces.values()];
}

/** The same pieces as they lie once the page is turned by a quarter to the right, `times` over. */
export function turnedPieces(pieces: readonly InkPiece[], width: number, height: number, times: number): InkPiece[] {
  let now = [...pieces];
  let [w, h] = [width, height];
  for (let k = 0; k < times; k++) {
    now = now.map(({ x0, y0, x1, y1, count }) => ({ x0: h - 1 - y1, y0: x0, x1: h - 1 - y0, y1: x1, count }));
    [w, h] = [h, w];
  }
  return now;
}
