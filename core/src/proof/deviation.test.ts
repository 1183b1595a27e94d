import { describe, expect, it } from 'vitest';
import { findAxes } from '../geometry';
import { drawnJob, MAP, run, square } from '../tracing/drawn.test-data';
import { deviationOf, probesOf, seenForms } from '.';

describe('a path held against the picture', () => {
  it('tells how far the edges lie to its left, in mm and px, piece by piece', () => {
    const [own] = drawnJob(
      run([
        [0, 0],
        [20, 0],
        [20, 15],
      ]),
    ).paths;
    const probes = probesOf(own!, {}, MAP);
    const [first, second] = own!.path.uses.map((u) => u.curve);
    // Along the first piece the edge lies 0.2 mm higher, along the second it is seen nowhere.
    const edges = probes.map(({ curve, picture }) =>
      curve === first ? { uPx: picture.uPx, vPx: picture.vPx - 2 } : null,
    );
    const told = deviationOf(probes, edges, MAP);
    expect(told.pieces[first!]).toMatchObject({
      found: 20,
      asked: 20,
      rmsMm: expect.closeTo(0.2, 9),
      largestMm: expect.closeTo(0.2, 9),
      largestPx: expect.closeTo(2, 6),
    });
    expect(told.pieces[second!]).toMatchObject({ found: 0, asked: 15 });
    expect(told.whiskers).toHaveLength(20);
    // It runs along X, so that its left is up.
    for (const { mm } of told.whiskers) expect(mm).toBeCloseTo(0.2, 9);
  });

  it('leaves worn pieces out, and goes all round a circle', () => {
    const [own] = drawnJob({ kind: 'circle', centre: { x: 0, y: 0 }, radius: 10 }).paths;
    const probes = probesOf(own!, {}, MAP);
    for (const { at } of probes) expect(Math.hypot(at.x, at.y)).toBeCloseTo(10, 6);
    expect(Math.min(...probes.map((p) => p.at.y))).toBeLessThan(-9);
    expect(Math.max(...probes.map((p) => p.at.y))).toBeGreaterThan(9);
    expect(probesOf(own!, { [own!.path.uses[0]!.curve]: true }, MAP)).toEqual([]);
  });
});

describe('the form that the picture has along a path', () => {
  it('lies where the edges were found, and its axis is theirs, not that of the trace', () => {
    // Traced as a square whose axes run along X and Y; the edges are those of a kite about a line 0.4 mm beside it.
    const [own] = drawnJob(square(0, 0, 20)).paths;
    const probes = probesOf(own!, {}, MAP);
    const edges = probes.map(({ picture, at, normal }) => {
      const isLevel = Math.abs(normal.y) > 0.5;
      // Left side and right side 0.4 mm to the right; above narrower by up to 0.6 mm on both sides alike.
      const x = isLevel ? 0 : 0.4 + (at.x > 10 ? -0.03 : 0.03) * at.y;
      return { uPx: picture.uPx + 10 * x, vPx: picture.vPx };
    });
    const seen = seenForms(own!, probes, edges, MAP);
    expect(seen).toHaveLength(4);
    const [best] = findAxes(seen);
    expect(Math.abs(Math.cos(Math.atan2(best!.b.y - best!.a.y, best!.b.x - best!.a.x)))).toBeLessThan(0.01);
    const middle = (best!.a.x + best!.b.x) / 2;
    expect(middle).toBeGreaterThan(10.2);
    expect(middle).toBeLessThan(10.45);
    // A piece of which nearly nothing was found tells nothing.
    const few = edges.map((e, k) => (probes[k]!.piece === 0 && k > 2 ? null : e));
    expect(seenForms(own!, probes, few, MAP)).toHaveLength(3);
  });
});
