import fc from 'fast-check';
import { expect, it } from 'vitest';
import { type Ellipse, offEllipse } from '../../fit';
import type { Vec2 } from '../../geometry';
import { normalRandom, seededRandom } from '../../numeric';
import { ellipseOfMost } from './ellipseOfMost';

const placeOn = ({ x, y, a, b, turn }: Ellipse, t: number): Vec2 => {
  const [p, q] = [a * Math.cos(t), b * Math.sin(t)];
  return { x: x + Math.cos(turn) * p - Math.sin(turn) * q, y: y + Math.sin(turn) * p + Math.cos(turn) * q };
};

const DIRECTIONS = 90;
const NEAR_PX = 2;

const scene = fc.record({
  seed: fc.integer({ min: 1, max: 1e6 }),
  a: fc.double({ min: 60, max: 300, noNaN: true }),
  ratio: fc.double({ min: 0.6, max: 0.98, noNaN: true }),
  turn: fc.double({ min: -1.5, max: 1.5, noNaN: true }),
  /** Share of the directions in which the rim is seen. */
  seen: fc.double({ min: 0.7, max: 1, noNaN: true }),
});

it('finds the ellipse that most directions speak for, among edges that lie anywhere', () => {
  fc.assert(
    fc.property(scene, ({ seed, a, ratio, turn, seen }) => {
      const truth: Ellipse = { x: 400, y: 380, a, b: ratio * a, turn };
      const random = seededRandom(seed);
      const normal = normalRandom(random);
      const directions = Array.from({ length: DIRECTIONS }, (_, k) => {
        const t = (2 * Math.PI * k) / DIRECTIONS;
        const stray = Array.from({ length: 2 }, () => {
          const { x, y } = placeOn({ ...truth, a: a * (0.7 + 0.6 * random()), b: truth.b * (0.7 + 0.6 * random()) }, t);
          return { x, y, weight: random() };
        });
        const { x, y } = placeOn(truth, t);
        const own = { x: x + 0.3 * normal(), y: y + 0.3 * normal(), weight: 0.7 + 0.3 * random() };
        return random() < seen ? [...stray, own] : stray;
      });
      const draw = () => {
        const direction = directions[Math.floor(random() * DIRECTIONS)]!;
        return direction[Math.floor(random() ** 0.5 * direction.length)]!;
      };
      const found = ellipseOfMost({
        directions,
        nearPx: NEAR_PX,
        fades: true,
        trials: 4000,
        draw,
        accepts: (e) => e.b > 0.4 * e.a,
      });
      expect(found).not.toBeNull();
      const off = Array.from({ length: 24 }, (_, k) =>
        offEllipse(truth, placeOn(found as Ellipse, (2 * Math.PI * k) / 24)),
      );
      expect(Math.sqrt(off.reduce((sum, v) => sum + v * v, 0) / off.length)).toBeLessThan(3);
    }),
    { numRuns: 25 },
  );
});

it('keeps what it began from where nothing betters it, and takes nothing that is not accepted', () => {
  const circle: Ellipse = { x: 0, y: 0, a: 100, b: 100, turn: 0 };
  const directions = Array.from({ length: 60 }, (_, k) => [
    { ...placeOn(circle, (2 * Math.PI * k) / 60), weight: 1 },
    { ...placeOn({ ...circle, a: 140, b: 140 }, (2 * Math.PI * k) / 60), weight: 1 },
  ]);
  const random = seededRandom(4);
  const search = {
    directions,
    nearPx: 1,
    fades: false,
    trials: 500,
    draw: () => directions[Math.floor(random() * 60)]![random() < 0.5 ? 0 : 1]!,
    accepts: ({ a }: Ellipse) => a < 200,
  };
  expect(ellipseOfMost({ ...search, from: circle })).toBe(circle);
  const outer = ellipseOfMost({ ...search, from: circle, factor: ({ a }) => a });
  expect(outer?.a).toBeCloseTo(140, 6);
  expect(ellipseOfMost({ ...search, accepts: () => false })).toBeNull();
});
