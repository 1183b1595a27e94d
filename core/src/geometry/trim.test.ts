import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { nearestOn } from './nearest';
import { flattenForm, formArea, formLength, polygonArea } from './run';
import { pointAt, type Segment, segmentLength, shapeOfArc } from './segment';
import { polygon, rectangle, slot } from './shapes';
import { leaving, meetingAhead, stretchAbout, tangentArc } from './trim';
import { between, turned, type Vec2, vec } from './vector';

const coordinate = fc.double({ min: -50, max: 50, noNaN: true });
const place = fc.record({ x: coordinate, y: coordinate });
const segment: fc.Arbitrary<Segment> = fc.oneof(
  fc.record({ kind: fc.constant('line' as const), from: place, to: place }),
  fc.record({ kind: fc.constant('arc' as const), from: place, via: place, to: place }),
  fc.record({ kind: fc.constant('curve' as const), from: place, handleFrom: place, handleTo: place, to: place }),
);
const long = (s: Segment) => segmentLength(s) > 1 && between(s.from, s.to) > 0.1;

/** Whether two segments meet along a stretch of the first, by a fine walk along both. */
function meets(a: Segment, from: number, to: number, b: Segment): boolean {
  const N = 400;
  const side = (p: Vec2) => nearestOn(b, p).distance;
  return Array.from({ length: N + 1 }, (_, k) => side(pointAt(a, from + ((to - from) * k) / N))).some((d) => d < 1e-4);
}

describe('a stretch of a segment', () => {
  it('ends where others cross it, and nothing crosses it within', () => {
    fc.assert(
      fc.property(
        segment.filter(long),
        segment.filter(long),
        fc.double({ min: 0.01, max: 0.99, noNaN: true }),
        (a, b, t) => {
          const { from, to, before, after } = stretchAbout(a, t, [b]);
          expect(from).toBeLessThanOrEqual(t);
          expect(to).toBeGreaterThan(t);
          for (const end of [before, after]) if (end) expect(nearestOn(b, end.at).distance).toBeLessThan(1e-5);
          const inset = 0.02 * (to - from);
          if (to - from > 0.05 && meets(a, from + inset, to - inset, b)) {
            // What a walk along both sees and this does not is a touch, not a crossing.
            const worst = Math.min(
              ...Array.from(
                { length: 400 },
                (_, k) => nearestOn(b, pointAt(a, from + inset + ((to - from - 2 * inset) * k) / 399)).distance,
              ),
            );
            expect(worst).toBeLessThan(1e-3);
          }
        },
      ),
      { numRuns: 200 },
    );
  });

  it('is all of it where nothing crosses', () => {
    const line: Segment = { kind: 'line', from: vec(0, 0), to: vec(10, 0) };
    expect(stretchAbout(line, 0.3, [{ kind: 'line', from: vec(0, 5), to: vec(10, 5) }])).toEqual({
      from: 0,
      to: 1,
      before: null,
      after: null,
    });
  });

  it('leaves out what only meets its ends', () => {
    const line: Segment = { kind: 'line', from: vec(0, 0), to: vec(10, 0) };
    const others: Segment[] = [
      { kind: 'line', from: vec(10, 0), to: vec(10, 5) },
      { kind: 'line', from: vec(4, -1), to: vec(4, 1) },
    ];
    expect(stretchAbout(line, 0.9, others)).toMatchObject({ from: 0.4, to: 1, after: null });
  });
});

describe('what lies ahead', () => {
  it('is met by a line where a ray meets it', () => {
    const line: Segment = { kind: 'line', from: vec(0, 0), to: vec(1, 1) };
    const far: Segment = { kind: 'line', from: vec(0, 10), to: vec(10, 0) };
    const near: Segment = { kind: 'line', from: vec(0, 6), to: vec(6, 0) };
    expect(meetingAhead(line, 'to', [far, near])).toMatchObject({ x: expect.closeTo(3, 9), y: expect.closeTo(3, 9) });
    expect(meetingAhead(line, 'from', [far, near])).toBeNull();
  });

  it('is met by an arc on its own circle', () => {
    const arc: Segment = { kind: 'arc', from: vec(5, 0), via: vec(5 * Math.SQRT1_2, 5 * Math.SQRT1_2), to: vec(0, 5) };
    const wall: Segment = { kind: 'line', from: vec(-3, 10), to: vec(-3, -10) };
    expect(meetingAhead(arc, 'to', [wall])).toMatchObject({ x: expect.closeTo(-3, 9), y: expect.closeTo(4, 9) });
    expect(meetingAhead(arc, 'from', [wall])).toMatchObject({ x: expect.closeTo(-3, 9), y: expect.closeTo(-4, 9) });
  });

  it('is not for a curve', () => {
    const curve: Segment = {
      kind: 'curve',
      from: vec(0, 0),
      handleFrom: vec(1, 0),
      handleTo: vec(2, 1),
      to: vec(3, 1),
    };
    expect(meetingAhead(curve, 'to', [{ kind: 'line', from: vec(5, -9), to: vec(5, 9) }])).toBeNull();
  });
});

describe('a tangent arc', () => {
  it('leaves in the direction given and ends in the place given', () => {
    fc.assert(
      fc.property(place, fc.double({ min: 0, max: 6.28, noNaN: true }), place, (from, angle, to) => {
        fc.pre(between(from, to) > 0.5);
        const way = turned(vec(1, 0), angle);
        const made = tangentArc(from, way, to);
        if (!made) return;
        expect(between(made.from, from)).toBeLessThan(1e-9);
        expect(between(made.to, to)).toBeLessThan(1e-9);
        const shape = made.kind === 'arc' ? shapeOfArc(made) : null;
        if (!shape || shape.radius > 1e4) return;
        // The radius to its beginning stands square to the direction, on the side it bends to.
        const radial = { x: from.x - shape.centre.x, y: from.y - shape.centre.y };
        const alongCircle = { x: -Math.sign(shape.sweep) * radial.y, y: Math.sign(shape.sweep) * radial.x };
        const cos = (alongCircle.x * way.x + alongCircle.y * way.y) / shape.radius;
        expect(cos).toBeGreaterThan(1 - 1e-6);
      }),
    );
  });

  it('is a line straight ahead, and nothing straight behind', () => {
    expect(tangentArc(vec(0, 0), vec(2, 0), vec(5, 0))).toMatchObject({ kind: 'line' });
    expect(tangentArc(vec(0, 0), vec(2, 0), vec(-5, 0))).toBeNull();
    expect(tangentArc(vec(0, 0), vec(0, 0), vec(-5, 0))).toBeNull();
  });

  it('goes on from the arc before it', () => {
    const first = tangentArc(vec(0, 0), vec(1, 0), vec(5, 5));
    expect(first && leaving(first)).toMatchObject({ x: expect.closeTo(0, 9), y: expect.closeTo(1, 9) });
  });
});

describe('shapes', () => {
  it('are as large as they were said to be', () => {
    expect(formArea(rectangle(vec(3, 4), 20, 8, 0.7))).toBeCloseTo(160, 9);
    const long = slot(vec(0, 0), vec(20, 0), 6);
    expect(long && formArea(long)).toBeCloseTo(20 * 6 + Math.PI * 9, 9);
    expect(long && formLength(long)).toBeCloseTo(40 + 6 * Math.PI, 9);
    const hexagon = polygon(vec(1, 1), vec(11, 1), 6);
    expect(formArea(hexagon)).toBeCloseTo((3 * Math.sqrt(3) * 100) / 2, 9);
    expect(polygonArea(flattenForm(hexagon, 0.01))).toBeGreaterThan(0);
  });

  it('are none without a size', () => {
    expect(slot(vec(0, 0), vec(0, 0), 6)).toBeNull();
    expect(slot(vec(0, 0), vec(5, 0), 0)).toBeNull();
  });
});
