import type { Segment } from './segment';
import type { Vec2 } from './vector';

/**
 * A smooth line over x through places, mm: at each of them it has the slope of the parabola through it and its neighbours, so
 * a parabola comes out as it is, and it never goes back on itself.
 *
 * @param places in order of x, two or more
 * @returns a piece between each two of them; null where one does not lie further on than the one before
 */
export function smoothOver(places: readonly Vec2[]): Segment[] | null {
  const spans = places.slice(1).map((p, k) => ({ dx: p.x - places[k]!.x, dy: p.y - places[k]!.y }));
  if (spans.length === 0 || spans.some(({ dx }) => !(dx > 0))) return null;
  if (spans.length === 1) return [{ kind: 'line', from: places[0]!, to: places[1]! }];
  const steep = spans.map(({ dx, dy }) => dy / dx);
  const last = spans.length - 1;
  const end = (own: number, beside: number) =>
    steep[own]! + ((steep[own]! - steep[beside]!) * spans[own]!.dx) / (spans[own]!.dx + spans[beside]!.dx);
  const slopes = places.map((_, k) => {
    if (k === 0) return end(0, 1);
    if (k === places.length - 1) return end(last, last - 1);
    const [a, b] = [spans[k - 1]!.dx, spans[k]!.dx];
    return (b * steep[k - 1]! + a * steep[k]!) / (a + b);
  });
  return spans.map(({ dx }, k) => {
    const [from, to] = [places[k]!, places[k + 1]!];
    return {
      kind: 'curve',
      from,
      handleFrom: { x: from.x + dx / 3, y: from.y + (slopes[k]! * dx) / 3 },
      handleTo: { x: to.x - dx / 3, y: to.y - (slopes[k + 1]! * dx) / 3 },
      to,
    };
  });
}
