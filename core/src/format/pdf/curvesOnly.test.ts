import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { between, type Form, pathData } from '../../geometry';
import { curvesOnly } from './curvesOnly';

/** A place on a cubic, by its own formula. */
function on(s: { from: P; handleFrom: P; handleTo: P; to: P }, t: number): P {
  const u = 1 - t;
  const mix = (k: 'x' | 'y') =>
    u ** 3 * s.from[k] + 3 * u * u * t * s.handleFrom[k] + 3 * u * t * t * s.handleTo[k] + t ** 3 * s.to[k];
  return { x: mix('x'), y: mix('y') };
}
interface P {
  x: number;
  y: number;
}

describe('arcs as curves', () => {
  it('lie on their circle all along, and end where they ended', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 500, noNaN: true }),
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: 0.2, max: 6, noNaN: true }),
        fc.boolean(),
        (radius, start, size, back) => {
          const centre = { x: 12, y: -7 };
          const sweep = back ? -size : size;
          const at = (a: number) => ({ x: centre.x + radius * Math.cos(a), y: centre.y + radius * Math.sin(a) });
          const arc = { kind: 'arc', from: at(start), via: at(start + sweep / 2), to: at(start + sweep) } as const;
          const made = curvesOnly({ kind: 'chain', closed: false, segments: [arc] });
          if (made.kind !== 'chain') throw new Error('no chain');
          expect(made.segments[0]!.from).toEqual(arc.from);
          expect(made.segments.at(-1)!.to).toEqual(arc.to);
          let length = 0;
          for (const s of made.segments) {
            if (s.kind !== 'curve') throw new Error('no curve');
            for (let k = 0; k < 16; k++) {
              expect(Math.abs(between(on(s, k / 16), centre) - radius)).toBeLessThan(1e-5 * radius);
              length += between(on(s, k / 16), on(s, (k + 1) / 16));
            }
          }
          expect(length / (radius * size)).toBeCloseTo(1, 3);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('leave lines and curves as they are, and nothing else in the path', () => {
    const circle: Form = { kind: 'circle', centre: { x: 3, y: 4 }, radius: 2 };
    expect(pathData(curvesOnly(circle), (p) => p)).not.toContain('A');
    const line: Form = {
      kind: 'chain',
      closed: false,
      segments: [{ kind: 'line', from: { x: 0, y: 0 }, to: { x: 1, y: 2 } }],
    };
    expect(curvesOnly(line)).toEqual(line);
  });

  it('are the same of half a circle, however its last digit falls', () => {
    const half = (more: number): Form => {
      const at = (a: number) => ({ x: 4 * Math.cos(a), y: 4 * Math.sin(a) });
      const sweep = Math.PI * (1 + more);
      return {
        kind: 'chain',
        closed: false,
        segments: [{ kind: 'arc', from: at(0), via: at(sweep / 2), to: at(sweep) }],
      };
    };
    const told = [-1e-14, 0, 1e-14].map((more) => {
      const made = curvesOnly(half(more));
      return [made.kind === 'chain' && made.segments.length, pathData(half(more), (p) => p)];
    });
    expect(told[1]![0]).toBe(4);
    expect(told[0]).toEqual(told[1]);
    expect(told[2]).toEqual(told[1]);
    // What is truly more than half is told so.
    expect(pathData(half(0.01), (p) => p)).toMatch(/A 4 4 0 1 /);
  });
});
