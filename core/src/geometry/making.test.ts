import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Random, seededRandom } from '../numeric';
import {
  between,
  cornersOf,
  crossingsOf,
  type Form,
  flattenForm,
  flattenSegment,
  formArea,
  formLength,
  isInside,
  mirrorForm,
  nearestOn,
  offsetForm,
  pointAt,
  polygonArea,
  reverseForm,
  type Segment,
  smoothEnd,
  turnForm,
  type Vec2,
  vec,
  workCorners,
} from '.';

/** A closed form of lines, arcs and curves about the origin, its corners at uneven distances: never across itself. */
function star(random: Random, corners: number, bow = 0.25): Extract<Form, { kind: 'chain' }> {
  const at = Array.from({ length: corners }, (_, k) => {
    const angle = (2 * Math.PI * (k + 0.6 * random())) / corners;
    const far = 20 + 20 * random();
    return vec(far * Math.cos(angle), far * Math.sin(angle));
  });
  const segments = at.map((from, k): Segment => {
    const to = at[(k + 1) % corners]!;
    const out = { x: (to.y - from.y) * bow, y: (from.x - to.x) * bow };
    const kind = Math.floor(3 * random());
    const share = random() - 0.4;
    const place = (t: number, s: number) =>
      vec(from.x + t * (to.x - from.x) + s * out.x, from.y + t * (to.y - from.y) + s * out.y);
    if (kind === 1 && Math.abs(share) > 0.05) return { kind: 'arc', from, via: place(0.5, share), to };
    if (kind === 2) return { kind: 'curve', from, handleFrom: place(0.3, share), handleTo: place(0.7, share), to };
    return { kind: 'line', from, to };
  });
  return { kind: 'chain', segments, closed: true };
}

/** Distance of a place from a polygon's rim. */
function away(polygon: readonly Vec2[], p: Vec2): number {
  let least = Number.POSITIVE_INFINITY;
  polygon.forEach((a, k) => {
    const b = polygon[(k + 1) % polygon.length]!;
    const [dx, dy] = [b.x - a.x, b.y - a.y];
    const t = Math.min(1, Math.max(0, ((p.x - a.x) * dx + (p.y - a.y) * dy) / (dx * dx + dy * dy || 1)));
    least = Math.min(least, Math.hypot(p.x - a.x - t * dx, p.y - a.y - t * dy));
  });
  return least;
}

const FINE_MM = 2e-4;

describe('crossings', () => {
  it('of any two pieces are those of their fine polygons, each of them on both', () => {
    const random = seededRandom(41);
    for (let round = 0; round < 120; round++) {
      const [a, b] = [star(random, 4).segments[0]!, star(random, 4).segments[1]!].map((s, k): Segment => {
        const form = turnForm({ kind: 'chain', segments: [s], closed: false }, vec(15, 15), k * 2 + random());
        return form.kind === 'chain' ? form.segments[0]! : s;
      }) as [Segment, Segment];
      const found = crossingsOf(a, b);
      for (const { at, t, u } of found) {
        expect(between(pointAt(a, t), at)).toBeLessThan(1e-6);
        expect(between(pointAt(b, u), at)).toBeLessThan(1e-6);
      }
      expect(found.length).toBe(
        polygonsCross([a.from, ...flattenSegment(a, 1e-3)], [b.from, ...flattenSegment(b, 1e-3)]),
      );
    }
  });

  it('touching is told once, parallel and far apart is none, end to end is one', () => {
    const line = (x0: number, y0: number, x1: number, y1: number): Segment => ({
      kind: 'line',
      from: vec(x0, y0),
      to: vec(x1, y1),
    });
    const arc: Segment = { kind: 'arc', from: vec(-5, 0), via: vec(0, 5), to: vec(5, 0) };
    expect(crossingsOf(line(-9, 5, 9, 5), arc)).toHaveLength(1);
    expect(crossingsOf(line(0, 0, 9, 0), line(0, 1, 9, 1))).toHaveLength(0);
    expect(crossingsOf(line(0, 0, 9, 0), line(9, 0, 12, 0))).toHaveLength(1);
    expect(crossingsOf(line(0, 0, 9, 0), line(4, 0, 12, 0))).toHaveLength(0);
    expect(crossingsOf(arc, arc)).toHaveLength(0);
  });
});

function polygonsCross(p: readonly Vec2[], q: readonly Vec2[]): number {
  let count = 0;
  for (let i = 0; i + 1 < p.length; i++)
    for (let j = 0; j + 1 < q.length; j++) {
      const [a, b, c, d] = [p[i]!, p[i + 1]!, q[j]!, q[j + 1]!];
      const side = (u: Vec2, v: Vec2, w: Vec2) => (v.x - u.x) * (w.y - u.y) - (v.y - u.y) * (w.x - u.x);
      if (side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0) count += 1;
    }
  return count;
}

describe('an offset', () => {
  it.each([3, -2.5, 8, -6])('by %d mm lies so far from its form everywhere, and leaves out nothing', (by) => {
    const random = seededRandom(7 + Math.round(10 * by));
    for (let round = 0; round < 12; round++) {
      const form = star(random, 5 + Math.floor(5 * random()));
      const polygon = flattenForm(form, FINE_MM);
      const made = offsetForm(form, by);
      for (const one of made) {
        if (one.kind === 'chain') expect(one.closed).toBe(true);
        for (const p of flattenForm(one, 0.05)) expect(Math.abs(away(polygon, p) - Math.abs(by))).toBeLessThan(0.006);
      }
      // Its area against a count of places by their distance, which knows nothing of corners and crossings.
      const area = made.reduce((sum, one) => sum + formArea(one), 0);
      const [step, half] = [0.8, 60];
      let count = 0;
      const coarse = flattenForm(form, 0.02);
      for (let x = -half + step / 2; x < half; x += step)
        for (let y = -half + step / 2; y < half; y += step) {
          const p = vec(x, y);
          const inside = isInside(coarse, p);
          if (by > 0 ? inside || away(coarse, p) < by : inside && away(coarse, p) > -by) count += 1;
        }
      expect(Math.abs(area - count * step * step)).toBeLessThan(0.02 * area + 6);
    }
  });

  it('of a convex form is larger by its perimeter times the distance and a circle; sharp corners stay corners', () => {
    const square: Form = {
      kind: 'chain',
      closed: true,
      segments: [vec(0, 0), vec(30, 0), vec(30, 20), vec(0, 20)].map((from, k, all) => ({
        kind: 'line',
        from,
        to: all[(k + 1) % 4]!,
      })),
    };
    const area = (corners: 'round' | 'sharp' | 'cut', by: number) =>
      offsetForm(square, by, corners).reduce((sum, f) => sum + formArea(f), 0);
    expect(area('round', 3)).toBeCloseTo(600 + 300 + Math.PI * 9, 9);
    expect(area('sharp', 3)).toBeCloseTo(36 * 26, 9);
    expect(area('cut', 3)).toBeCloseTo(36 * 26 - 4 * 4.5, 9);
    expect(area('sharp', -3)).toBeCloseTo(24 * 14, 9);
    expect(offsetForm(square, -11)).toEqual([]);
    // Whichever way round it was drawn.
    expect(offsetForm(reverseForm(square), 3).reduce((s, f) => s + formArea(f), 0)).toBeCloseTo(900 + Math.PI * 9, 9);
    const [made] = offsetForm(square, 3);
    expect(made?.kind === 'chain' && made.segments.map((s) => s.kind)).toEqual(expect.arrayContaining(['line', 'arc']));
  });

  it('falls apart where the form is narrow, and of an open one runs along one side', () => {
    const waisted = [
      vec(0, 0),
      vec(20, 0),
      vec(24, 8),
      vec(28, 0),
      vec(48, 0),
      vec(48, 20),
      vec(28, 20),
      vec(24, 12),
      vec(20, 20),
      vec(0, 20),
    ];
    const form: Form = {
      kind: 'chain',
      closed: true,
      segments: waisted.map((from, k) => ({ kind: 'line', from, to: waisted[(k + 1) % waisted.length]! })),
    };
    expect(offsetForm(form, -3)).toHaveLength(2);
    const open: Form = { kind: 'chain', closed: false, segments: form.segments.slice(0, 1) };
    const [beside] = offsetForm(open, 2);
    expect(beside?.kind === 'chain' && beside.segments).toEqual([{ kind: 'line', from: vec(0, 2), to: vec(20, 2) }]);
  });
});

describe('corners', () => {
  it('are rounded by arcs that touch both sides, and cut by as much of each', () => {
    const random = seededRandom(5);
    for (let round = 0; round < 20; round++) {
      const form = star(random, 6);
      const { form: made, tooLarge } = workCorners(form, 'fillet', 1.5);
      if (made.kind !== 'chain') throw new Error('no chain');
      expect(made.segments.length).toBe(form.segments.length + cornersOf(form).length - tooLarge.length);
      made.segments.forEach((s, k) => {
        expect(between(s.to, made.segments[(k + 1) % made.segments.length]!.from)).toBeLessThan(1e-6);
      });
      // What is left of corners are those that were too large for their sides.
      expect(cornersOf(made).length).toBe(tooLarge.length);
    }
    const square = { kind: 'chain' as const, closed: true, segments: [] as Segment[] };
    const at = [vec(0, 0), vec(10, 0), vec(10, 10), vec(0, 10)];
    square.segments = at.map((from, k) => ({ kind: 'line', from, to: at[(k + 1) % 4]! }));
    expect(formArea(workCorners(square, 'fillet', 2).form)).toBeCloseTo(100 - (4 - Math.PI) * 4, 9);
    expect(formArea(workCorners(square, 'chamfer', 2).form)).toBeCloseTo(100 - 8, 9);
    expect(workCorners(square, 'fillet', 6).tooLarge.length).toBeGreaterThan(0);
    expect(workCorners(square, 'fillet', 20)).toEqual({ form: square, tooLarge: [0, 1, 2, 3] });
  });
});

describe('mirrored and turned', () => {
  it('twice is where it was, with its length and its area', () => {
    const random = seededRandom(3);
    for (let round = 0; round < 20; round++) {
      const form = star(random, 5);
      const [a, b] = [vec(random(), random()), vec(3 + random(), random())];
      const once = mirrorForm(form, a, b)!;
      expect(formLength(once)).toBeCloseTo(formLength(form), 9);
      expect(formArea(once)).toBeCloseTo(formArea(form), 9);
      expect(polygonArea(flattenForm(once, 0.01)) * polygonArea(flattenForm(form, 0.01))).toBeLessThan(0);
      const twice = flattenForm(mirrorForm(once, a, b)!, 0.1);
      flattenForm(form, 0.1).forEach((p, k) => {
        expect(between(p, twice[k]!)).toBeLessThan(1e-9);
      });
    }
    expect(mirrorForm(star(random, 4), vec(1, 1), vec(1, 1))).toBeNull();
  });
});

describe('an offset of what was traced by hand', () => {
  /** Lines and arcs in turn round a circle, that meet almost smoothly, as picks of a real edge do. */
  const traced = (noise: readonly number[], count: number): Form => {
    const at = (k: number, extra: number): Vec2 => {
      const angle = (2 * Math.PI * k) / count;
      const r = 30 + extra;
      return vec(r * Math.cos(angle), r * Math.sin(angle));
    };
    const ends = Array.from({ length: count }, (_, k) => at(k, noise[k]!));
    const segments = ends.map((from, k): Segment => {
      const to = ends[(k + 1) % count]!;
      return k % 2 ? { kind: 'line', from, to } : { kind: 'arc', from, via: at(k + 0.5, noise[count + k]!), to };
    });
    return { kind: 'chain', segments, closed: true };
  };

  it('is whole, and everywhere as far away as was asked', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 4, max: 14 }).map((n) => 2 * n),
        fc.array(fc.double({ min: -0.12, max: 0.12, noNaN: true }), { minLength: 60, maxLength: 60 }),
        fc.constantFrom(0.2, 1, 3, 6, -1, -3),
        (count, noise, d) => {
          const form = traced(noise, count);
          const own = form.kind === 'chain' ? form.segments : [];
          const made = offsetForm(form, d);
          expect(made).toHaveLength(1);
          const [only] = made;
          const segments = only?.kind === 'chain' ? only.segments : [];
          for (const s of segments)
            for (const t of [0, 0.3, 0.5, 0.8]) {
              const away = Math.min(...own.map((o) => nearestOn(o, pointAt(s, t)).distance));
              expect(Math.abs(away - Math.abs(d))).toBeLessThan(0.02);
            }
          // Nothing is left out: its area is what the length and the turn of the form make of it.
          const wanted = formArea(form) + d * formLength(form) + Math.PI * d * d;
          expect(Math.abs(formArea(only!) - wanted)).toBeLessThan(0.02 * Math.abs(wanted) + 6);
        },
      ),
      { numRuns: 150 },
    );
  });
});

describe('the open end of a curve', () => {
  const curve: Segment = {
    kind: 'curve',
    from: { x: 0, y: 0 },
    handleFrom: { x: 3, y: 4 },
    handleTo: { x: 12, y: 9 },
    to: { x: 20, y: 5 },
  };

  it('runs level or plumb, as long as before and the way it ran', () => {
    expect(smoothEnd(curve, 'from', 'level')).toEqual({ ...curve, handleFrom: { x: 5, y: 0 } });
    const plumb = smoothEnd(curve, 'to', 'plumb');
    expect(plumb?.kind === 'curve' && plumb.handleTo.x).toBe(20);
    expect(plumb?.kind === 'curve' && plumb.handleTo.y).toBeCloseTo(5 + Math.sqrt(80), 12);
    expect(smoothEnd({ kind: 'line', from: curve.from, to: curve.to }, 'to', 'level')).toBeNull();
  });
});
