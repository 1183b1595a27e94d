import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Turned } from '../scene';
import { meetTurned } from './turned';

const AXIS_MM = 15;
const rod = (radius: number): Turned => ({
  kind: 'turned',
  profile: [
    [0, radius],
    [5, radius],
    [5, AXIS_MM],
    [60, AXIS_MM],
  ],
  colour: [0.2, 0.2, 0.2],
  lie: { x: 0, y: 0, turn: 0 },
  base: 0,
  thickness: 2 * AXIS_MM,
});

describe('a turned part', () => {
  it('is seen up to its limb, where a ray just touches it, and no further', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 100, max: 500, noNaN: true }),
        fc.double({ min: 10, max: 50, noNaN: true }),
        fc.boolean(),
        (height, x, left) => {
          const lens = { x, y: 0, z: AXIS_MM + height };
          // From a lens at this distance from the axis the limb stands at asin(r / distance).
          const touch = Math.asin(AXIS_MM / height) * (left ? -1 : 1);
          const hits = (angle: number) =>
            meetTurned(rod(9), lens, { x: 0, y: Math.sin(angle), z: -Math.cos(angle) }, 1, 0) !== null;
          expect(hits(touch * (1 - 3e-5))).toBe(true);
          expect(hits(touch * (1 + 3e-5))).toBe(false);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('is met on its surface, with the piece of its profile', () => {
    const lens = { x: 30, y: 0, z: 315 };
    const on = meetTurned(rod(9), lens, { x: 0, y: 0, z: -1 }, 1, 0);
    expect(on).toMatchObject({ x: 30, piece: 2 });
    expect(on?.z).toBeCloseTo(AXIS_MM, 5);
    const neck = meetTurned(rod(9), { ...lens, x: 2 }, { x: 0, y: 0, z: -1 }, 1, 0);
    expect(neck?.z).toBeCloseTo(9, 5);
  });
});
