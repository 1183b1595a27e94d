import { findAxes } from '@steady-moth/core/geometry';
import { deviationOf, probesOf, seenForms } from '@steady-moth/core/proof';
import { broughtTogether, islandsOf, mapOf, nearEnds } from '@steady-moth/core/tracing';
import { describe, expect, it } from 'vitest';
import { hand } from './tools/hand.test-data';

const mapper = {
  toPlace: ({ uPx, vPx }: { uPx: number; vPx: number }) => ({ x: uPx / 10, y: -vPx / 10 }),
  toPicture: ({ x, y }: { x: number; y: number }) => ({ uPx: x * 10, vPx: -y * 10 }),
};

describe('a path held against the picture', () => {
  it('tells how far the edges lie to its left, in mm and px, piece by piece', () => {
    const h = hand('line').press(0, 0).press(20, 0).press(20, 15);
    const [own] = h.context().drawn.paths;
    const probes = probesOf(own!, {}, mapper);
    const [first, second] = own!.path.uses.map((u) => u.curve);
    // Along the first piece the edge lies 0.2 mm higher, along the second it is seen nowhere.
    const edges = probes.map(({ curve, picture }) =>
      curve === first ? { uPx: picture.uPx, vPx: picture.vPx - 2 } : null,
    );
    const told = deviationOf(probes, edges, mapper);
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
    const h = hand('shape');
    h.bench.shape = 'three-rim';
    h.press(10, 0).press(0, 10).press(-10, 0);
    const [own] = h.context().drawn.paths;
    const probes = probesOf(own!, {}, mapper);
    for (const { at } of probes) expect(Math.hypot(at.x, at.y)).toBeCloseTo(10, 6);
    expect(Math.min(...probes.map((p) => p.at.y))).toBeLessThan(-9);
    expect(Math.max(...probes.map((p) => p.at.y))).toBeGreaterThan(9);
    expect(probesOf(own!, { [own!.path.uses[0]!.curve]: true }, mapper)).toEqual([]);
  });
});

describe('the form that the picture has along a path', () => {
  it('lies where the edges were found, and its axis is theirs, not that of the trace', () => {
    // Traced as a square whose axes run along X and Y; the edges are those of a kite about a line 0.4 mm beside it.
    const h = hand('line').press(0, 0).press(20, 0).press(20, -20).press(0, -20);
    h.press(0, 0, h.points(h.paths[0]!)[0]);
    const [own] = h.context().drawn.paths;
    const probes = probesOf(own!, {}, mapper);
    const edges = probes.map(({ picture, at, normal }) => {
      const isLevel = Math.abs(normal.y) > 0.5;
      // Left side and right side 0.4 mm to the right; above narrower by up to 0.6 mm on both sides alike.
      const x = isLevel ? 0 : 0.4 + (at.x > 10 ? -0.03 : 0.03) * at.y;
      return { uPx: picture.uPx + 10 * x, vPx: picture.vPx };
    });
    const seen = seenForms(own!, probes, edges, mapper);
    expect(seen).toHaveLength(4);
    const [best] = findAxes(seen);
    expect(Math.abs(Math.cos(Math.atan2(best!.b.y - best!.a.y, best!.b.x - best!.a.x)))).toBeLessThan(0.01);
    const middle = (best!.a.x + best!.b.x) / 2;
    expect(middle).toBeGreaterThan(10.2);
    expect(middle).toBeLessThan(10.45);
    // A piece of which nearly nothing was found tells nothing.
    const few = edges.map((e, k) => (probes[k]!.piece === 0 && k > 2 ? null : e));
    expect(seenForms(own!, probes, few, mapper)).toHaveLength(3);
  });
});

describe('closed paths as one piece of material', () => {
  it('are holes where they lie in an odd number of others', () => {
    const h = hand('line');
    const square = (x: number, y: number, size: number) => {
      h.press(x, y)
        .press(x + size, y)
        .press(x + size, y - size)
        .press(x, y - size);
      h.press(x, y, h.points(h.paths.at(-1)!)[0]);
    };
    square(0, 0, 40);
    square(5, -5, 20);
    square(8, -8, 5);
    square(30, -5, 5);
    square(60, 0, 10);
    const { paths } = h.context().drawn;
    expect(paths.map((p) => islandsOf(paths).get(p.path.id))).toEqual([false, true, false, true, false]);
    h.press(80, 0).press(90, 0);
    h.finish();
    expect(islandsOf(h.context().drawn.paths).size).toBe(5);
  });
});

describe('ends that nearly meet', () => {
  it('are told in pairs, the narrowest gap first, each end once', () => {
    const h = hand('line').press(0, 0).press(20, 0);
    h.finish();
    h.press(20.4, 0).press(40, 0);
    h.finish();
    h.press(20.1, 0.2).press(20, 30);
    h.finish();
    const near = nearEnds(h.context().drawn, 1);
    expect(near).toHaveLength(1);
    expect(near[0]!.gapMm).toBeCloseTo(Math.hypot(0.1, 0.2), 9);
    expect(nearEnds(h.context().drawn, 0.1)).toEqual([]);
  });

  it('of one path are told once it can enclose something', () => {
    const h = hand('line').press(0, 0).press(20, 0).press(0, 0.3);
    h.finish();
    expect(nearEnds(h.context().drawn, 1)).toEqual([]);
    const three = hand('line').press(0, 0).press(20, 0).press(10, 10).press(0, 0.3);
    three.finish();
    expect(nearEnds(three.context().drawn, 1)).toMatchObject([{ gapMm: expect.closeTo(0.3, 9) }]);
  });
});

describe('changes', () => {
  it('map places as they say', () => {
    expect(mapOf({ kind: 'turn', angle: Math.PI / 2, about: { x: 1, y: 0 } })({ x: 3, y: 0 })).toMatchObject({
      x: expect.closeTo(1, 12),
      y: expect.closeTo(2, 12),
    });
    expect(mapOf({ kind: 'scale', factor: 3, about: { x: 1, y: 1 } })({ x: 2, y: 1 })).toEqual({ x: 4, y: 1 });
    expect(mapOf({ kind: 'mirror', a: { x: 0, y: 0 }, b: { x: 0, y: 5 } })({ x: 2, y: 1 })).toEqual({ x: -2, y: 1 });
  });

  it('bring two halves together, and say what is left apart', () => {
    const how = broughtTogether(
      [
        { x: 0, y: 0 },
        { x: 10, y: 0 },
      ],
      [
        { x: 50, y: 0 },
        { x: 50, y: 10.4 },
      ],
    );
    expect(how?.leftMm).toBeCloseTo(0.2, 12);
    expect(how?.at({ x: 0, y: 0 })).toMatchObject({ x: expect.closeTo(50, 9), y: expect.closeTo(0.2, 9) });
    const same = { x: 1, y: 1 };
    expect(broughtTogether([same, same], [same, { x: 2, y: 2 }])).toBeNull();
  });
});
