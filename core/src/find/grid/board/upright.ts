import type { Vec2 } from '../../../geometry';

/** Numbered to the right and upwards as it is seen, from 0. */
export function upright<Own extends { i: number; j: number }>(
  placed: readonly Own[],
  placeOf: (own: Own) => Vec2,
): Own[] {
  const mean = (di: number, dj: number) => {
    const at = new Map(placed.map((p) => [`${p.i} ${p.j}`, placeOf(p)]));
    let [x, y] = [0, 0];
    for (const p of placed) {
      const next = at.get(`${p.i + di} ${p.j + dj}`);
      if (!next) continue;
      x += next.x - placeOf(p).x;
      y += next.y - placeOf(p).y;
    }
    return { x, y };
  };
  const [a, b] = [mean(1, 0), mean(0, 1)];
  const swaps = Math.abs(a.x) / Math.hypot(a.x, a.y) < Math.abs(b.x) / Math.hypot(b.x, b.y);
  const [right, up] = swaps ? [b, a] : [a, b];
  const [si, sj] = [right.x < 0 ? -1 : 1, up.y > 0 ? -1 : 1];
  const turned = placed.map((p) => ({ ...p, i: si * (swaps ? p.j : p.i), j: sj * (swaps ? p.i : p.j) }));
  const [left, low] = [Math.min(...turned.map((p) => p.i)), Math.min(...turned.map((p) => p.j))];
  return turned.map((p) => ({ ...p, i: p.i - left, j: p.j - low }));
}
