import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isInside, nearestOn } from './nearest';
import { type Form, flattenForm, formArea, formLength, formsBounds, polygonArea } from './run';
import {
  arcShape,
  circleThrough,
  flattenSegment,
  pointAt,
  type Segment,
  segmentBounds,
  segmentLength,
} from './segment';
import { between, turned, vec } from './vector';

const coordinate = fc.double({ min: -100, max: 100, noNaN: true });
const place = fc.record({ x: coordinate, y: coordinate });
const segment: fc.Arbitrary<Segment> = fc.oneof(
  fc.record({ kind: fc.constant('line' as const), from: place, to: place }),
  fc.record({ kind: fc.constant('arc' as const), from: place, via: place, to: place }),
  fc.record({ kind: fc.constant('curve' as const), from: place, handleFrom: place, handleTo: place, to: place }),
);
const polylineLength = (points: { x: number; y: number }[]) =>
  points.slice(1).reduce((sum, p, k) => sum + between(points[k]!, p), 0);

describe('segments', () => {
  it('begin and end where they say', () => {
    fc.assert(
      fc.property(segment, (s) => {
        expect(between(pointAt(s, 0), s.from)).toBeLessThan(1e-6);
        expect(between(pointAt(s, 1), s.to)).toBeLessThan(1e-6);
      }),
    );
  });

  it('are as long as a fine polyline along them', () => {
    fc.assert(
      fc.property(segment, (s) => {
        const fine = Array.from({ length: 20001 }, (_, k) => pointAt(s, k / 20000));
        const seen = polylineLength(fine);
        expect(Math.abs(segmentLength(s) - seen)).toBeLessThan(1e-3 + 1e-5 * seen);
      }),
      { numRuns: 20 },
    );
  });

  it('stay in their box, and touch each of its sides', () => {
    fc.assert(
      fc.property(segment, (s) => {
        const { min, max } = segmentBounds(s);
        const fine = Array.from({ length: 2001 }, (_, k) => pointAt(s, k / 2000));
        const slack = 1e-6 + 1e-5 * (segmentLength(s) + max.x - min.x);
        expect(Math.min(...fine.map((p) => p.x))).toBeGreaterThanOrEqual(min.x - 1e-6);
        expect(Math.max(...fine.map((p) => p.y))).toBeLessThanOrEqual(max.y + 1e-6);
        expect(Math.min(...fine.map((p) => p.x))).toBeLessThanOrEqual(min.x + slack);
        expect(Math.max(...fine.map((p) => p.y))).toBeGreaterThanOrEqual(max.y - slack);
      }),
      { numRuns: 60 },
    );
  });

  it('are flattened within the tolerance asked', () => {
    fc.assert(
      fc.property(segment, (s) => {
        const points = [s.from, ...flattenSegment(s, 0.05)];
        const worst = Math.max(
          ...Array.from({ length: 400 }, (_, k) => {
            const p = pointAt(s, k / 399);
            return Math.min(
              ...points.slice(1).map((q, n) => nearestOn({ kind: 'line', from: points[n]!, to: q }, p).distance),
            );
          }),
        );
        expect(worst).toBeLessThan(0.06);
      }),
      { numRuns: 20 },
    );
  });

  it('know their nearest place as a dense search finds it', () => {
    fc.assert(
      fc.property(segment, place, (s, p) => {
        const dense = Math.min(...Array.from({ length: 4001 }, (_, k) => between(pointAt(s, k / 4000), p)));
        expect(nearestOn(s, p).distance).toBeLessThan(dense + 1e-6);
        expect(nearestOn(s, p).distance).toBeGreaterThan(dense - 1);
      }),
      { numRuns: 60 },
    );
  });
});

describe('arcs', () => {
  it('pass through their middle point on either side', () => {
    fc.assert(
      fc.property(
        coordinate,
        coordinate,
        fc.double({ min: 1, max: 50, noNaN: true }),
        fc.double({ min: 0.1, max: 6.1, noNaN: true }),
        fc.boolean(),
        (x, y, r, sweep, way) => {
          const at = (angle: number) => vec(x + r * Math.cos(angle), y + r * Math.sin(angle));
          const signed = way ? sweep : -sweep;
          const arc = arcShape(at(1), at(1 + signed * 0.4), at(1 + signed));
          expect(arc?.radius).toBeCloseTo(r, 6);
          expect(arc?.sweep).toBeCloseTo(signed, 6);
        },
      ),
    );
  });

  it('have no circle on a line or in one place', () => {
    expect(circleThrough(vec(0, 0), vec(1, 1), vec(2, 2))).toBeNull();
    expect(circleThrough(vec(0, 0), vec(0, 0), vec(2, 2))).toBeNull();
  });
});

describe('forms', () => {
  const rounded = (w: number, h: number, r: number): Form => {
    const k = r * Math.SQRT1_2;
    const corner = (cx: number, cy: number, a: number) => {
      const on = (t: number) => vec(cx + r * Math.cos(t), cy + r * Math.sin(t));
      return { kind: 'arc' as const, from: on(a), via: on(a + Math.PI / 4), to: on(a + Math.PI / 2) };
    };
    const corners = [
      corner(w - r, h - r, 0),
      corner(r, h - r, Math.PI / 2),
      corner(r, r, Math.PI),
      corner(w - r, r, 1.5 * Math.PI),
    ];
    expect(k).toBeGreaterThan(0);
    return {
      kind: 'chain',
      closed: true,
      segments: corners.flatMap((c, n) => [c, { kind: 'line' as const, from: c.to, to: corners[(n + 1) % 4]!.from }]),
    };
  };

  it('measure a rounded rectangle as the formula does', () => {
    const form = rounded(90, 50, 6);
    expect(formArea(form)).toBeCloseTo(90 * 50 - (4 - Math.PI) * 36, 9);
    expect(formLength(form)).toBeCloseTo(2 * (78 + 38) + 2 * Math.PI * 6, 9);
    expect(formsBounds([form])).toEqual({
      min: { x: expect.closeTo(0, 9), y: expect.closeTo(0, 9) },
      max: { x: expect.closeTo(90, 9), y: expect.closeTo(50, 9) },
    });
  });

  it('have the area of their fine polygon, whichever way they run', () => {
    fc.assert(
      fc.property(
        fc.array(place, { minLength: 3, maxLength: 6 }),
        fc.array(place, { minLength: 6, maxLength: 6 }),
        (corners, bends) => {
          const segments: Segment[] = corners.map((from, k) => {
            const to = corners[(k + 1) % corners.length]!;
            return k % 2
              ? { kind: 'line', from, to }
              : { kind: 'curve', from, handleFrom: bends[k]!, handleTo: bends[5 - k]!, to };
          });
          const form: Form = { kind: 'chain', closed: true, segments };
          expect(formArea(form)).toBeCloseTo(Math.abs(polygonArea(flattenForm(form, 1e-5))), 1);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('keep length and area when turned', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 6, noNaN: true }), (angle) => {
        const form = rounded(40, 30, 4);
        if (form.kind !== 'chain') return;
        const move = (p: { x: number; y: number }) => turned(p, angle);
        const segments = form.segments.map(
          (s) =>
            Object.fromEntries(
              Object.entries(s).map(([k, v]) => [k, typeof v === 'string' ? v : move(v)]),
            ) as unknown as Segment,
        );
        const other: Form = { ...form, segments };
        expect(formArea(other)).toBeCloseTo(formArea(form), 8);
        expect(formLength(other)).toBeCloseTo(formLength(form), 8);
      }),
    );
  });

  it('tell inside from outside', () => {
    const square = [vec(0, 0), vec(10, 0), vec(10, 10), vec(0, 10)];
    expect(isInside(square, vec(5, 5))).toBe(true);
    expect(isInside(square, vec(15, 5))).toBe(false);
  });
});
