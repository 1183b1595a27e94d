import type { Vec2 } from '../../geometry';

export interface Side {
  from: Vec2;
  to: Vec2;
}

/** The convex hull, counter-clockwise as a picture is seen (v down). Source: Andrew's monotone chain (1979). */
export function convexHull(points: readonly Vec2[]): Vec2[] {
  const sorted = [...points].sort((p, q) => p.x - q.x || p.y - q.y);
  const chain = (list: readonly Vec2[]): Vec2[] => {
    const out: Vec2[] = [];
    for (const p of list) {
      while (out.length > 1 && turn(out[out.length - 2]!, out[out.length - 1]!, p) >= 0) out.pop();
      out.push(p);
    }
    out.pop();
    return out;
  };
  return [...chain(sorted), ...chain([...sorted].reverse())];
}

const turn = (a: Vec2, b: Vec2, c: Vec2): number => (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);

/** Pieces of a hull that turn less than this altogether are one side, bent by the lens or jagged by pixels, rad. */
const ONE_SIDE = 0.2;
/** The shortest of four sides may be so much shorter than the longest. */
const SHORTEST_SHARE = 0.15;
/** The four sides make up so much of the way round. */
const MOST_OF_IT = 0.8;

/** The four long sides of a hull, in order round it; null where it has not four. */
export function longSides(hull: readonly Vec2[]): [Side, Side, Side, Side] | null {
  const n = hull.length;
  if (n < 4) return null;
  const round = hull.reduce((sum, p, k) => sum + Math.hypot(hull[(k + 1) % n]!.x - p.x, hull[(k + 1) % n]!.y - p.y), 0);
  const pieces = hull.map((from, k) => ({ from, to: hull[(k + 1) % n]! }));
  const lengthOf = ({ from, to }: Side) => Math.hypot(to.x - from.x, to.y - from.y);
  const angleOf = ({ from, to }: Side) => Math.atan2(to.y - from.y, to.x - from.x);
  // Directions of the four greatest lengths of way, each with all pieces near it.
  const sides: { angle: number; from: Vec2; to: Vec2; length: number }[] = [];
  const left = new Set(pieces.keys());
  while (sides.length < 4 && left.size) {
    let best: { members: number[]; length: number; angle: number } | null = null;
    for (const k of left) {
      const angle = angleOf(pieces[k]!);
      const members = [...left].filter((j) => Math.abs(wrap(angleOf(pieces[j]!) - angle)) < ONE_SIDE);
      const length = members.reduce((sum, j) => sum + lengthOf(pieces[j]!), 0);
      if (!best || length > best.length) best = { members, length, angle };
    }
    if (!best) break;
    for (const k of best.members) left.delete(k);
    const side = lineThrough(best.members.map((k) => pieces[k]!));
    sides.push({ angle: best.angle, length: best.length, ...side });
  }
  if (sides.length < 4) return null;
  const lengths = sides.map((s) => s.length);
  if (Math.min(...lengths) < SHORTEST_SHARE * Math.max(...lengths)) return null;
  if (lengths.reduce((a, b) => a + b, 0) < MOST_OF_IT * round) return null;
  // Round the hull in the order of their directions, which turn one way all round; opposite ones are not neighbours.
  const ordered = sides.sort((p, q) => q.angle - p.angle).map(({ from, to }) => ({ from, to }));
  return ordered as unknown as [Side, Side, Side, Side];
}

const wrap = (angle: number): number => angle - 2 * Math.PI * Math.round(angle / (2 * Math.PI));

/** The line through the ends of pieces, weighted by their length (total least squares). */
function lineThrough(pieces: readonly Side[]): Side {
  let [w, x, y] = [0, 0, 0];
  const ends = pieces.flatMap(({ from, to }) => {
    const weight = Math.hypot(to.x - from.x, to.y - from.y);
    return [
      { p: from, weight },
      { p: to, weight },
    ];
  });
  for (const { p, weight } of ends) {
    w += weight;
    x += weight * p.x;
    y += weight * p.y;
  }
  x /= w;
  y /= w;
  let [xx, xy, yy] = [0, 0, 0];
  for (const { p, weight } of ends) {
    xx += weight * (p.x - x) ** 2;
    xy += weight * (p.x - x) * (p.y - y);
    yy += weight * (p.y - y) ** 2;
  }
  const angle = 0.5 * Math.atan2(2 * xy, xx - yy);
  const first = pieces[0]!;
  const sense =
    Math.cos(angle) * (first.to.x - first.from.x) + Math.sin(angle) * (first.to.y - first.from.y) < 0 ? -1 : 1;
  const way = { x: sense * Math.cos(angle), y: sense * Math.sin(angle) };
  const reach = Math.sqrt(xx + yy);
  return {
    from: { x: x - reach * way.x, y: y - reach * way.y },
    to: { x: x + reach * way.x, y: y + reach * way.y },
  };
}

/** Where two lines cross; null where they hardly do. */
export function crossingOf(a: Side, b: Side): Vec2 | null {
  const [ax, ay] = [a.to.x - a.from.x, a.to.y - a.from.y];
  const [bx, by] = [b.to.x - b.from.x, b.to.y - b.from.y];
  const det = ax * by - ay * bx;
  if (Math.abs(det) < 0.05 * Math.hypot(ax, ay) * Math.hypot(bx, by)) return null;
  const t = ((b.from.x - a.from.x) * by - (b.from.y - a.from.y) * bx) / det;
  return { x: a.from.x + t * ax, y: a.from.y + t * ay };
}
