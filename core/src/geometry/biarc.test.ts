import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arcsOf } from './biarc';
import { flattenSegment, pointAt, type Segment, segmentArea } from './segment';

const place = fc.record({
  x: fc.double({ min: -40, max: 40, noNaN: true }),
  y: fc.double({ min: -40, max: 40, noNaN: true }),
});

/** How far a place lies from a fine polyline: independent of the arcs' own mathematics. */
function fromPolyline(p: { x: number; y: number }, line: readonly { x: number; y: number }[]): number {
  let best = Number.POSITIVE_INFINITY;
  for (let k = 1; k < line.length; k++) {
    const [a, b] = [line[k - 1]!, line[k]!];
    const [dx, dy] = [b.x - a.x, b.y - a.y];
    const square = dx * dx + dy * dy;
    const t = square ? Math.min(1, Math.max(0, ((p.x - a.x) * dx + (p.y - a.y) * dy) / square)) : 0;
    best = Math.min(best, Math.hypot(p.x - a.x - t * dx, p.y - a.y - t * dy));
  }
  return best;
}

describe('a curve as arcs', () => {
  it('is nowhere further off than the tolerance, either way, and ends where it ended', () => {
    fc.assert(
      fc.property(
        place,
        place,
        place,
        place,
        fc.constantFrom(0.2, 0.02, 0.005),
        (from, handleFrom, handleTo, to, tolerance) => {
          fc.pre(Math.hypot(to.x - from.x, to.y - from.y) > 1);
          const curve: Segment = { kind: 'curve', from, handleFrom, handleTo, to };
          const arcs = arcsOf(curve, tolerance);
          expect(arcs[0]!.from).toEqual(from);
          expect(arcs.at(-1)!.to).toEqual(to);
          for (let k = 1; k < arcs.length; k++) expect(arcs[k]!.from).toEqual(arcs[k - 1]!.to);
          const made = [from, ...arcs.flatMap((s) => flattenSegment(s, 1e-4))];
          const meant = Array.from({ length: 801 }, (_, k) => pointAt(curve, k / 800));
          // A twentieth more: the curve is held against its arcs at a few places only.
          const most = 1.25 * tolerance + 1e-3;
          for (const p of meant.filter((_, k) => k % 8 === 0)) expect(fromPolyline(p, made)).toBeLessThan(most);
          for (const p of made.filter((_, k) => k % 8 === 0)) expect(fromPolyline(p, meant)).toBeLessThan(most);
        },
      ),
      { numRuns: 60, seed: 12 },
    );
  });

  it('runs on tangent from arc to arc, and keeps its area', () => {
    const curve: Segment = {
      kind: 'curve',
      from: { x: 0, y: 0 },
      handleFrom: { x: 10, y: 22 },
      handleTo: { x: 30, y: -18 },
      to: { x: 44, y: 5 },
    };
    const arcs = arcsOf(curve, 0.01);
    const way = (s: Segment, t: number) => {
      const [a, b] = [pointAt(s, Math.max(0, t - 1e-5)), pointAt(s, Math.min(1, t + 1e-5))];
      return Math.atan2(b.y - a.y, b.x - a.x);
    };
    for (let k = 1; k < arcs.length; k++)
      expect(Math.abs(Math.sin(way(arcs[k]!, 0) - way(arcs[k - 1]!, 1)))).toBeLessThan(2e-3);
    expect(arcs.length).toBeLessThan(32);
    expect(arcs.reduce((sum, s) => sum + segmentArea(s), 0)).toBeCloseTo(segmentArea(curve), 0);
  });
});
