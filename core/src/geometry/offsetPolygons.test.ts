import { EndType, inflatePathsD, JoinType } from 'clipper2-ts';
import { describe, expect, it } from 'vitest';
import { type Random, seededRandom } from '../numeric';
import { type Form, formArea, offsetForm, polygonArea, type Vec2 } from '.';

const random = seededRandom(Number(process.env.SEED ?? 4));

/** Twenty cells of a grid that hang together without holes, as the outline round them. */
function rectilinear(r: Random): Vec2[] {
  const taken = new Set(['0 0']);
  const all = () => [...taken].map((c) => c.split(' ').map(Number) as [number, number]);
  const ways = [
    [1, 0],
    [-1, 0],
    [0, 1],
    [0, -1],
  ] as const;
  while (taken.size < 20) {
    const cells = all();
    const [x, y] = cells[Math.floor(r() * cells.length)]!;
    const [dx, dy] = ways[Math.floor(r() * 4)]!;
    taken.add(`${x + dx} ${y + dy}`);
  }
  const next = new Map<string, string[]>();
  const side = (a: string, b: string) => next.set(a, [...(next.get(a) ?? []), b]);
  for (const [x, y] of all()) {
    if (!taken.has(`${x} ${y - 1}`)) side(`${x} ${y}`, `${x + 1} ${y}`);
    if (!taken.has(`${x + 1} ${y}`)) side(`${x + 1} ${y}`, `${x + 1} ${y + 1}`);
    if (!taken.has(`${x} ${y + 1}`)) side(`${x + 1} ${y + 1}`, `${x} ${y + 1}`);
    if (!taken.has(`${x - 1} ${y}`)) side(`${x} ${y + 1}`, `${x} ${y}`);
  }
  // Where cells touch by a corner alone, or enclose a hole, there is no one outline.
  if ([...next.values()].some((n) => n.length > 1)) return rectilinear(r);
  const walked: string[] = [];
  for (let at = [...next.keys()][0]!; !walked.includes(at); at = next.get(at)![0]!) walked.push(at);
  if (walked.length < next.size) return rectilinear(r);
  const points = walked.map((c) => c.split(' ').map((v) => 10 * Number(v)) as [number, number]);
  // Corners alone.
  return points
    .filter(([x, y], k) => {
      const [a, b] = [points[(k + points.length - 1) % points.length]!, points[(k + 1) % points.length]!];
      return (x - a[0]) * (b[1] - y) !== (y - a[1]) * (b[0] - x);
    })
    .map(([x, y]) => ({ x, y }));
}

/** A star round its middle: corners both ways, and webs of any thickness. */
const star = (r: Random): Vec2[] => {
  const count = 7 + Math.floor(r() * 8);
  return Array.from({ length: count }, (_, k) => {
    const a = (2 * Math.PI * (k + 0.6 * (r() - 0.5))) / count;
    const out = 8 + 34 * r();
    return { x: out * Math.cos(a), y: out * Math.sin(a) };
  });
};

const formOf = (p: readonly Vec2[]): Form => ({
  kind: 'chain',
  closed: true,
  segments: p.map((from, k) => ({ kind: 'line', from, to: p[(k + 1) % p.length]! })),
});

/** Cosine of half the sharpest turn: of the sharpest ones tips are cut, and everybody cuts them in another way. */
const bluntest = (p: readonly Vec2[]): number =>
  Math.min(
    ...p.map((q, k) => {
      const [a, b] = [p[(k + p.length - 1) % p.length]!, p[(k + 1) % p.length]!];
      const turn = Math.atan2(b.y - q.y, b.x - q.x) - Math.atan2(q.y - a.y, q.x - a.x);
      return Math.abs(Math.cos(turn / 2));
    }),
  );

const JOINS = { round: JoinType.Round, sharp: JoinType.Miter, cut: JoinType.Bevel } as const;

/** Another library's offset: its rims, each with its area, those that are too small to tell left out. */
function theirs(p: readonly Vec2[], by: number, corners: keyof typeof JOINS): number[] {
  const made = inflatePathsD(
    [p.map(({ x, y }) => ({ x, y, z: 0 }))],
    by,
    JOINS[corners],
    EndType.Polygon,
    4,
    6,
    0.0005,
  );
  return made.map((rim) => polygonArea(rim)).filter((area) => Math.abs(area) > SMALL);
}

/** Rims of less are not counted, mm²: where a lobe is about to vanish both round otherwise. */
const SMALL = 0.02;

describe.each([
  ['rectilinear', rectilinear],
  ['of any corners', star],
] as const)('offsets of forms that are %s', (_, draw) => {
  it.each(['round', 'sharp', 'cut'] as const)('keep every lobe that another library keeps, %s', (corners) => {
    let lobes = 0;
    for (let n = 0; n < 300; n++) {
      const p = draw(random);
      if (corners === 'sharp' && bluntest(p) < 0.27) continue;
      for (const by of [-0.5 - 6 * random(), 0.5 + 6 * random(), -10 - 60 * random()]) {
        const other = theirs(p, by, corners);
        const own = offsetForm(formOf(p), by, corners).filter((f) => formArea(f) > SMALL);
        const sum = (all: readonly number[]) => all.reduce((a, b) => a + b, 0);
        const area = sum(own.map((f) => (f.kind === 'chain' ? polygonArea(f.segments.map((s) => s.from)) : 0)));
        const rims = JSON.stringify({ p, by, own: own.map(formArea), other });
        expect(own.length, rims).toBe(other.length);
        // Round corners are arcs: their own area is told by their chords here.
        if (corners !== 'round') expect(Math.abs(Math.abs(area) - Math.abs(sum(other))), rims).toBeLessThan(0.01);
        else expect(sum(own.map(formArea)), rims).toBeCloseTo(sum(other.map(Math.abs)), 1);
        if (by < 0) lobes += own.length;
      }
    }
    expect(lobes).toBeGreaterThan(200);
  });
});
