import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arcShape, type Form, formArea, mapForm } from '../geometry';
import { frameOf, halfProfile, inSpace, looseEdges, normalOf, regionsOf, welded } from '.';
import { circle, loop, polygon, rectangle } from './shapes.test-data';

describe('regions', () => {
  it('tells holes from what they are in, and an island in a hole as a region of its own', () => {
    const regions = regionsOf([
      loop('island', circle(10, 10, 1)),
      loop('hole', circle(10, 10, 4)),
      loop('outer', rectangle(0, 0, 40, 20)),
      loop('apart', rectangle(60, 0, 5, 5)),
    ]);
    expect(regions.map((r) => [r.outer.path, r.holes.map((h) => h.path)])).toEqual([
      ['outer', ['hole']],
      ['apart', []],
      ['island', []],
    ]);
  });

  it('runs every loop anticlockwise, with the names of its pieces', () => {
    const clockwise = polygon([0, 0], [0, 20], [40, 20], [40, 0]);
    const [region] = regionsOf([loop('outer', clockwise)]);
    const { form, curves } = region!.outer;
    expect(form.kind === 'chain' && form.segments.map((s) => s.from)).toEqual([
      { x: 0, y: 0 },
      { x: 40, y: 0 },
      { x: 40, y: 20 },
      { x: 0, y: 20 },
    ]);
    expect(curves).toEqual(['outer-3', 'outer-2', 'outer-1', 'outer-0']);
  });
});

describe('slivers of a profile', () => {
  it('are left out with their names, and nothing else moves', () => {
    const thin = polygon([0, 0], [40, 0], [40, 0.001], [40, 20], [0.001, 20], [0, 20]);
    const { form, curves } = regionsOf([loop('outer', thin)])[0]!.outer;
    expect(curves).toEqual(['outer-0', 'outer-2', 'outer-3', 'outer-5']);
    expect(formArea(form)).toBeCloseTo(800, 1);
    const [small] = regionsOf([loop('small', rectangle(0, 0, 1, 0.003))]);
    expect(small!.outer.curves).toHaveLength(4);
  });
});

describe('views in space', () => {
  it('looks at the front along y and at the right side against x, up being up', () => {
    expect(normalOf(frameOf('top', 0))).toEqual({ x: 0, y: 0, z: 1 });
    expect(normalOf(frameOf('front', 0)).y).toBe(-1);
    expect(normalOf(frameOf('side', 0)).x).toBe(1);
    expect(inSpace(frameOf('front', 12.5), { x: 3, y: 7 })).toEqual({ x: 3, y: 12.5, z: 7 });
  });
});

const X_AXIS = { at: { x: 0, y: 0 }, along: { x: 1, y: 0 } };
/** Half the section of a knob: a flange, a neck, a grip. */
const KNOB: [number, number][] = [
  [0, 15],
  [4, 15],
  [5, 9],
  [12, 9],
  [14, 13],
  [36, 13],
];
const open = (...places: [number, number][]): Form => {
  const form = polygon(...places);
  return { ...form, closed: false, segments: form.segments.slice(0, -1) };
};
const areaOf = (form: Form) => formArea(form);
const CLOSED = { closed: true };

describe('a half profile', () => {
  it('closes an open one on the axis, and says so', () => {
    const made = halfProfile(open(...KNOB), X_AXIS);
    expect(made).toMatchObject({ ok: true, closed: true, unlikeMm: null });
    if (!made.ok) return;
    expect(areaOf(made.form)).toBeCloseTo(areaOf(polygon(...KNOB, [36, 0], [0, 0])), 9);
    expect(made.from).toEqual([0, 1, 2, 3, 4, null, null, null]);
  });

  it('makes one of both halves, in the middle between them, and tells how unlike they are', () => {
    const lower = [...KNOB].reverse().map(([x, r]): [number, number] => [x, -r - 0.2]);
    const made = halfProfile(polygon(...KNOB, ...lower), X_AXIS);
    expect(made.ok).toBe(true);
    if (!made.ok) return;
    expect(made.closed).toBe(false);
    expect(made.unlikeMm).toBeCloseTo(0.2, 2);
    const own = areaOf(polygon(...KNOB, [36, 0], [0, 0]));
    expect(areaOf(made.form)).toBeGreaterThan(own);
    expect(areaOf(made.form)).toBeCloseTo(own + 0.1 * 36, 0);
  });

  it('leaves a ring beside the axis as it is, and brings ends that lie nearly on it onto it', () => {
    const ring = halfProfile(rectangle(0, 3, 10, 2), X_AXIS);
    expect(ring).toMatchObject({ ok: true, closed: false });
    const near = halfProfile(open([0, 0.1], [0, 5], [10, 5], [10, -0.1]), X_AXIS);
    expect(near.ok && areaOf(near.form)).toBeCloseTo(50, 9);
  });

  it('refuses what crosses the axis more than once on a side', () => {
    const zigzag = open([0, 5], [5, -5], [10, 5], [15, -5], [20, 5]);
    expect(halfProfile(zigzag, X_AXIS)).toEqual({ ok: false, reason: 'crosses-axis' });
    expect(halfProfile(circle(5, 1, 3), X_AXIS)).toEqual({ ok: false, reason: 'crosses-axis' });
  });

  it('of one half drawn a little past the axis is that half alone; unlike halves are refused', () => {
    const past = halfProfile(open([0, -0.6], [0, 9], [60, 9], [60, -0.5]), X_AXIS);
    expect(past).toMatchObject({ ok: true, unlikeMm: null });
    expect(past.ok && areaOf(past.form)).toBeCloseTo(60 * 9, 6);
    const unlike = polygon([0, -2], [20, -2], [20, 5], [0, 5]);
    expect(halfProfile(unlike, X_AXIS)).toEqual({ ok: false, reason: 'unlike-halves' });
  });

  it('has bases square to its axis where they were drawn nearly so, and cones where not', () => {
    const base = halfProfile(open([0.9, 0], [0, 20], [30, 20], [30, 0]), X_AXIS);
    expect(base.ok && areaOf(base.form)).toBeCloseTo(600, 6);
    const cone = halfProfile(open([5, 0], [0, 20], [30, 20], [30, 0]), X_AXIS);
    expect(cone.ok && areaOf(cone.form)).toBeCloseTo(550, 6);
  });

  it('caps it with a ball about the axis where its arc nearly is one, and with curves where it is none', () => {
    const cap = (centre: number): Form => {
      const r = 10;
      const x = Math.sqrt(r * r - centre * centre);
      const via = { x: r * Math.cos(0.6), y: centre + r * Math.sin(0.6) };
      return {
        kind: 'chain',
        closed: false,
        segments: [
          { kind: 'line', from: { x: 0, y: 0 }, to: { x: 0, y: centre + r } },
          { kind: 'arc', from: { x: 0, y: centre + r }, via, to: { x, y: 0 } },
        ],
      };
    };
    for (const centre of [-0.03, 0.03, 0.2]) {
      const made = halfProfile(cap(centre), X_AXIS);
      const arc = made.ok && made.form.kind === 'chain' ? made.form.segments.find((s) => s.kind === 'arc') : undefined;
      const shape = arc?.kind === 'arc' ? arcShape(arc.from, arc.via, arc.to) : null;
      expect(Math.abs(shape?.centre.y ?? 9)).toBeLessThan(1e-9);
    }
    const ogive = halfProfile(cap(-4), X_AXIS);
    const kinds = ogive.ok && ogive.form.kind === 'chain' ? ogive.form.segments.map((s) => s.kind) : [];
    expect(kinds.includes('arc')).toBe(false);
    expect(ogive.ok && areaOf(ogive.form)).toBeCloseTo(areaOf({ ...cap(-4), ...CLOSED } as Form), 4);
  });

  it('is the same wherever the axis lies', () => {
    const still = halfProfile(open(...KNOB), X_AXIS);
    fc.assert(
      fc.property(fc.double({ min: -3, max: 3, noNaN: true }), fc.integer({ min: -50, max: 50 }), (turn, shift) => {
        const [c, s] = [Math.cos(turn), Math.sin(turn)];
        const at = ({ x, y }: { x: number; y: number }) => ({ x: shift + c * x - s * y, y: s * x + c * y - shift });
        const made = halfProfile(mapForm(open(...KNOB), at), { at: at({ x: 7, y: 0 }), along: { x: c, y: s } });
        expect(made.ok && still.ok && areaOf(made.form) - areaOf(still.form)).toBeCloseTo(0, 6);
      }),
    );
  });
});

describe('triangles', () => {
  /** A tetrahedron whose faces have corners of their own, and its last face left out on demand. */
  const tetrahedron = (faces: number) => {
    const p = [
      [0, 0, 0],
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ];
    const all = [
      [0, 2, 1],
      [0, 1, 3],
      [1, 2, 3],
      [2, 0, 3],
    ].slice(0, faces);
    return {
      positions: Float32Array.from(all.flatMap((f) => f.flatMap((k) => p[k]!))),
      triangles: Uint32Array.from(all.flatMap((_, k) => [3 * k, 3 * k + 1, 3 * k + 2])),
    };
  };

  it('share their corners once they are welded, and tell where they leave a gap', () => {
    const whole = welded(tetrahedron(4));
    expect(whole.corners.length).toBe(12);
    expect(looseEdges(whole)).toBe(0);
    expect(looseEdges(welded(tetrahedron(3)))).toBe(3);
  });
});
