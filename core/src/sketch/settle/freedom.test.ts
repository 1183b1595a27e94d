import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../numeric';
import { clustersOf, contradictionIn, freedomOf, newSketch, type Sketch, settleCluster, systemOf } from '..';
import { putPath, seen } from '../traced.test-data';
import { decide, flat, plate, relate } from './rig.test-data';

/** Documents never change in place, and what was worked out of one is kept by it. */
const anew = (sketch: Sketch): Sketch => ({ ...sketch, curves: { ...sketch.curves } });

function freedom(drawn: Sketch) {
  const sketch = anew(drawn);
  const [cluster] = clustersOf(sketch).all;
  const settled = settleCluster(sketch, cluster!, flat(sketch));
  if (!settled.ok) throw new Error(settled.reason);
  return freedomOf(sketch, cluster!, settled, true);
}

function contradiction(drawn: Sketch): string[] {
  const sketch = anew(drawn);
  const [cluster] = clustersOf(sketch).all;
  return contradictionIn(systemOf(sketch, cluster!, flat(sketch))!.system).sort();
}

/** A rectangle that is square all round, two sides decided. */
function rectangle(): Sketch {
  const sketch = plate();
  relate(sketch, 'level', 'rect-c0', 'rect-c2');
  relate(sketch, 'plumb', 'rect-c1', 'rect-c3');
  return sketch;
}

describe('what is free', () => {
  it('of a rectangle are its two sides, until they are decided', () => {
    const sketch = rectangle();
    expect(freedom(sketch).free).toBe(2);
    decide(sketch, 'distance', 40, ['a', 'b']);
    const half = freedom(sketch);
    expect(half.free).toBe(1);
    // What moves, moves plumb.
    for (const { direction, anyWay } of half.points.values()) {
      expect(Math.abs(Math.sin(direction))).toBeCloseTo(1, 6);
      expect(anyWay).toBe(false);
    }
    decide(sketch, 'distance', 20, ['b', 'c']);
    expect(freedom(sketch)).toMatchObject({ free: 0, onlyJust: 0, given: new Set() });
    expect(freedom(sketch).points.size).toBe(0);
  });

  it('tells sizes that the rest gives, the last of them', () => {
    const sketch = rectangle();
    decide(sketch, 'distance', 40, ['a', 'b']);
    decide(sketch, 'distance', 20, ['b', 'c']);
    decide(sketch, 'distance', Math.hypot(40, 20), ['a', 'c']);
    decide(sketch, 'distance', 40, ['d', 'c']);
    expect([...freedom(sketch).given].sort()).toEqual(['d2', 'd3']);
  });

  it('tells the later one of each two that say the same, in whatever order they were typed', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 1, max: 9 }), (seed, count) => {
        const sketch = newSketch('sketch', 'Sketch', null);
        const random = seededRandom(seed);
        // Rectangles in a row, each one's first corner on a corner of the one before.
        const sides: [number, string[]][] = [];
        for (let n = 0; n < count; n++) {
          const [x, y] = [30 * n, 10 * n];
          const own = ['a', 'b', 'c', 'd'].map((k) => `${k}${n}`);
          if (n > 0) own[0] = `c${n - 1}`;
          const at = Object.fromEntries(own.map((id, k) => [id, seen(x + [0, 30, 30, 0][k]!, y + [0, 0, 10, 10][k]!)]));
          putPath(sketch, at, { id: `r${n}`, points: own });
          relate(sketch, 'level', `r${n}-c0`, `r${n}-c2`);
          relate(sketch, 'plumb', `r${n}-c1`, `r${n}-c3`);
          sides.push(
            [30, [own[0]!, own[1]!]],
            [10, [own[1]!, own[2]!]],
            [30, [own[3]!, own[2]!]],
            [10, [own[0]!, own[3]!]],
          );
        }
        const shuffled = sides.map((side) => ({ side, at: random() })).sort((p, q) => p.at - q.at);
        const said = new Map<string, number>();
        const later: string[] = [];
        for (const {
          side: [value, ids],
        } of shuffled) {
          const { id } = decide(sketch, 'distance', value, ids);
          // Width and height of one rectangle are each said by two of its sides.
          const of = `${sides.findIndex(([, own]) => own === ids) >> 2} ${value}`;
          const before = said.get(of) ?? 0;
          said.set(of, before + 1);
          if (before > 0) later.push(id);
        }
        expect([...freedom(sketch).given].sort()).toEqual(later.sort());
      }),
      { numRuns: 40 },
    );
  });

  it('makes no size a mere consequence because the rest is held as it was measured', () => {
    const sketch = rectangle();
    decide(sketch, 'distance', 40, ['a', 'b']);
    // Whoever holds the rest holds its points: the typed size is what says so, and stands without brackets.
    for (const id of ['a', 'b', 'c', 'd']) relate(sketch, 'fixed', id);
    expect([...freedom(sketch).given]).toEqual([]);
    decide(sketch, 'distance', 40, ['d', 'c']);
    expect([...freedom(sketch).given]).toEqual(['d1']);
  });

  it('turns with nothing to turn it are not free; a part that hangs on by one point is', () => {
    const sketch = plate();
    decide(sketch, 'distance', 40, ['a', 'b']);
    decide(sketch, 'distance', 20, ['b', 'c']);
    // Two bars with a hinge: how they stand to each other is free, how both stand on the sheet is not.
    expect(freedom(sketch).free).toBe(1);
    relate(sketch, 'fixed', 'a');
    // With one place held the sheet holds nothing any more.
    expect(freedom(sketch).free).toBe(2);
  });

  it('the ends of a line that is held are held', () => {
    const sketch = plate();
    decide(sketch, 'distance', 20, ['b', 'c']);
    relate(sketch, 'fixed', 'rect-c0');
    const { free, points } = freedom(sketch);
    // Only the far end of the next line can still swing.
    expect(free).toBe(1);
    expect([...points.keys()]).toEqual(['c']);
  });

  it('what is held by a hair is called so: a chain stretched straight', () => {
    const sketch = newSketch('sketch', 'Sketch', null);
    putPath(sketch, { a: seen(0, 0), b: seen(10, 0.001), c: seen(20, 0) }, { points: ['a', 'b', 'c'], closed: false });
    decide(sketch, 'distance', 10, ['a', 'b']);
    decide(sketch, 'distance', 10, ['b', 'c']);
    decide(sketch, 'distance', 20, ['a', 'c']);
    expect(freedom(sketch)).toMatchObject({ free: 0, onlyJust: 1 });
  });

  it('agrees with a dense rank, for sketches at random', () => {
    const kinds = ['level', 'plumb', 'square', 'parallel', 'equal', 'distance', 'x', 'on'] as const;
    const lines = ['rect-c0', 'rect-c1', 'rect-c2', 'rect-c3', 'slot-c0', 'slot-c2', 'curve-c0'];
    const points = ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h', 'p', 'q'];
    const nth = <T>(all: readonly T[], k: number) => all[k % all.length]!;
    const asked = fc.record({ kind: fc.constantFrom(...kinds), i: fc.nat(60), j: fc.nat(60) });
    fc.assert(
      fc.property(fc.array(asked, { minLength: 1, maxLength: 12 }), (all) => {
        const sketch = plate();
        for (const { kind, i, j } of all) {
          const [a, b] = [nth(points, i), nth(points, i + 1 + (j % 9))];
          const [l, m] = [nth(lines, i), nth(lines, i + 1 + (j % 6))];
          const at = flat(sketch);
          const [p, q] = [at(a)!, at(b)!];
          if (kind === 'distance') decide(sketch, 'distance', Math.hypot(q.x - p.x, q.y - p.y), [a, b]);
          else if (kind === 'x') decide(sketch, 'distance', Math.abs(q.x - p.x) || 1, [a, b], 'x');
          else if (kind === 'on') relate(sketch, 'on', a, l);
          else if (kind === 'level' || kind === 'plumb') relate(sketch, kind, l);
          else relate(sketch, kind, l, m);
        }
        for (const cluster of clustersOf(sketch).all) {
          const settled = settleCluster(sketch, cluster, flat(sketch));
          if (!settled.ok) continue;
          const { system, solved } = settled;
          const found = freedomOf(sketch, cluster, settled, false);
          const n = system.unknowns.size;
          const dense = system.equations.map(({ value }) => {
            const slopes = new Float64Array(n);
            value(solved.x, slopes, 1);
            return slopes;
          });
          const singular = ranks(dense);
          // Where the rank itself is in doubt nothing is to be said.
          if (singular.some((s) => s > 1e-9 && s < 1e-4)) continue;
          expect(found.free + found.onlyJust).toBe(n - singular.filter((s) => s >= 1e-4).length);
        }
      }),
      { numRuns: 120 },
    );
  });
});

/** Lengths that are left of rows once those before them are taken out, the longest first: a rank that can be read off. */
function ranks(rows: Float64Array[]): number[] {
  const left = rows.map((row) => row.map((v) => v / (Math.hypot(...row) || 1)));
  const found: number[] = [];
  while (left.length > 0) {
    const best = left.reduce((b, row, k) => (Math.hypot(...row) > Math.hypot(...left[b]!) ? k : b), 0);
    const [row] = left.splice(best, 1);
    const length = Math.hypot(...row!);
    found.push(length);
    if (length < 1e-12) continue;
    for (const other of left) {
      for (let again = 0; again < 2; again++) {
        const along = other.reduce((sum, v, k) => sum + v * row![k]!, 0) / length ** 2;
        for (let k = 0; k < other.length; k++) other[k]! -= along * row![k]!;
      }
    }
  }
  return found;
}

describe('what cannot be together', () => {
  it('is named by a smallest set', () => {
    const sketch = rectangle();
    decide(sketch, 'distance', 40, ['a', 'b']);
    decide(sketch, 'distance', 20, ['b', 'c']);
    decide(sketch, 'diameter', 12, ['hole-c']);
    relate(sketch, 'on', 'hole-o', 'rect-c0');
    expect(contradiction(sketch)).toEqual([]);
    decide(sketch, 'distance', 41, ['c', 'd']);
    // The two lengths, and what makes a rectangle of it; not the other side, nor the hole.
    expect(contradiction(sketch)).toEqual(['c0', 'c1', 'd0', 'd3']);
  });

  it('and without any one of it the rest can be', () => {
    const sketch = plate();
    decide(sketch, 'distance', 40, ['a', 'b']);
    decide(sketch, 'distance', 10, ['b', 'c']);
    decide(sketch, 'distance', 80, ['a', 'c']);
    relate(sketch, 'parallel', 'rect-c0', 'rect-c2');
    expect(contradiction(sketch)).toEqual(['d0', 'd1', 'd2']);
    for (const id of ['d0', 'd1', 'd2']) {
      const without = {
        ...sketch,
        dimensions: Object.fromEntries(Object.entries(sketch.dimensions).filter(([k]) => k !== id)),
      };
      expect(contradiction(without)).toEqual([]);
    }
  });
});
