import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { nearestOn } from './nearest';
import { pathData } from './pathData';
import { circleThrough, pointAt, type Segment, segmentLength, threeOnCircle } from './segment';
import { handlesThrough, splitSegment } from './split';
import { vec } from './vector';

const coordinate = fc.double({ min: -50, max: 50, noNaN: true });
const place = fc.record({ x: coordinate, y: coordinate });
const share = fc.double({ min: 0.05, max: 0.95, noNaN: true });

describe('splitSegment', () => {
  it('leaves the course of a line, an arc and a curve as it was', () => {
    fc.assert(
      fc.property(place, place, place, place, share, fc.constantFrom('line', 'arc', 'curve'), (a, b, c, d, t, kind) => {
        const segment: Segment =
          kind === 'line'
            ? { kind, from: a, to: d }
            : kind === 'arc'
              ? { kind, from: a, via: b, to: d }
              : { kind: 'curve', from: a, handleFrom: b, handleTo: c, to: d };
        const pieces = splitSegment(segment, t);
        const whole = segmentLength(segment);
        if (whole > 1e4) return;
        // An arc flatter than FLATTEST_ARC is a line; a piece of one that is not quite so flat may be.
        // A curve that turns back on itself has a cusp, over which its length is summed to some thousandths of it only.
        const rounding = kind === 'curve' ? 3e-3 : 1e-5;
        const parts = segmentLength(pieces[0]) + segmentLength(pieces[1]);
        expect(Math.abs(parts - whole)).toBeLessThan(1e-3 + rounding * whole);
        for (const piece of pieces)
          for (const s of [0.2, 0.5, 0.9])
            expect(nearestOn(segment, pointAt(piece, s)).distance).toBeLessThan(1e-3 + 1e-6 * whole);
      }),
      { numRuns: 60 },
    );
  });
});

describe('handlesThrough', () => {
  it('bends a curve so that its middle is where it was dragged', () => {
    fc.assert(
      fc.property(place, place, place, (from, middle, to) => {
        const p = pointAt({ kind: 'curve', from, ...handlesThrough(from, middle, to), to }, 0.5);
        expect(Math.hypot(p.x - middle.x, p.y - middle.y)).toBeLessThan(1e-9);
      }),
    );
  });
});

describe('threeOnCircle', () => {
  it('keeps a circle in three points', () => {
    const found = circleThrough(...threeOnCircle({ centre: vec(3, -8), radius: 4.5 }));
    expect(found?.radius).toBeCloseTo(4.5, 12);
    expect(found?.centre.y).toBeCloseTo(-8, 12);
  });
});

describe('pathData', () => {
  it('keeps arcs as arcs on the side where they bow, y turned down', () => {
    const form = {
      kind: 'chain' as const,
      closed: false,
      segments: [{ kind: 'arc' as const, from: vec(0, 0), via: vec(5, 5), to: vec(10, 0) }],
    };
    expect(pathData(form, (p) => vec(p.x, 20 - p.y))).toBe('M 0 20 A 5 5 0 0 1 10 20');
  });

  it('is empty for a run of one point', () => {
    expect(pathData({ kind: 'chain', closed: false, segments: [] }, (p) => p)).toBe('');
  });
});
