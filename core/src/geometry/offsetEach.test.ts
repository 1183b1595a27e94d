import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { nearestOn } from './nearest';
import { offsetForm } from './offset';
import { offsetEach } from './offsetEach';
import { type Form, formArea } from './run';
import { pointAt, type Segment } from './segment';
import { polygon, rectangle, slot } from './shapes';
import { vec } from './vector';

const segmentsOf = (form: Form | null): Segment[] => (form?.kind === 'chain' ? form.segments : []);

describe('an offset with a distance of its own for each piece', () => {
  it('is the even one where all are alike', () => {
    const hexagon = polygon(vec(3, 1), vec(23, 4), 6);
    const even = offsetForm(hexagon, 2, 'sharp')[0]!;
    expect(formArea(offsetEach(hexagon, Array(6).fill(2))!)).toBeCloseTo(formArea(even), 9);
  });

  it('moves each side of a rectangle by its own, wherever it lies and whichever way it runs', () => {
    fc.assert(
      fc.property(
        fc.tuple(...[0, 1, 2, 3].map(() => fc.double({ min: -2, max: 6, noNaN: true }))),
        fc.double({ min: 0, max: 6, noNaN: true }),
        fc.boolean(),
        ([a, b, c, d], angle, reversed) => {
          const plain = rectangle(vec(4, -2), 30, 20, angle);
          const form: Form = reversed
            ? {
                kind: 'chain',
                closed: true,
                segments: segmentsOf(plain)
                  .map((s): Segment => ({ kind: 'line', from: s.to, to: s.from }))
                  .reverse(),
              }
            : plain;
          const own = reversed ? [d!, c!, b!, a!] : [a!, b!, c!, d!];
          const made = offsetEach(form, own);
          expect(made && formArea(made)).toBeCloseTo((30 + b! + d!) * (20 + a! + c!), 4);
        },
      ),
    );
  });

  it('keeps arcs arcs, each piece at its distance', () => {
    const form = slot(vec(0, 0), vec(30, 0), 12)!;
    const made = offsetEach(form, [1, 3, 1, 3]);
    // An end farther out meets its sides where they are drawn on to it.
    expect(segmentsOf(made).map((s) => s.kind)).toEqual(['line', 'arc', 'line', 'arc']);
    segmentsOf(made).forEach((s, k) => {
      const [d] = [[1, 3, 1, 3][k]!];
      if (s.kind === 'arc') expect(nearestOn(segmentsOf(form)[k]!, pointAt(s, 0.5)).distance).toBeCloseTo(d, 6);
    });
  });

  it('is none where pieces do not meet, cross, or nothing is left', () => {
    expect(offsetEach(rectangle(vec(0, 0), 10, 4, 0), [-3, 0, -3, 0])).toBeNull();
    expect(offsetEach({ kind: 'circle', centre: vec(0, 0), radius: 4 }, [1])).toBeNull();
  });
});
