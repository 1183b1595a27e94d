import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../numeric';
import type { Pixels } from '../../raster';
import { findRuler } from '..';

interface Drawn {
  /** From stroke to stroke in the middle, px, and by how much of itself it grows from stroke to stroke. */
  period: number;
  growth: number;
  /** Of the row, rad. */
  turn: number;
  dark: boolean;
  /** Strokes that are covered: the first of them, and how many. */
  hidden: { from: number; count: number } | null;
  seed: number;
}

const COUNT = 60;

/** Strokes of three lengths on even ground, by their closed form: nothing of the finder is in it. */
function drawRule({ period, growth, turn, dark, hidden, seed }: Drawn) {
  const along: number[] = [];
  for (let n = 0, t = 0; n <= COUNT; n++, t += period * (1 + growth * (n - COUNT / 2))) along.push(t);
  const middle = along[COUNT]! / 2;
  const [w, h] = [along[COUNT]! * Math.abs(Math.cos(turn)) + 400, along[COUNT]! * Math.abs(Math.sin(turn)) + 400];
  const [width, height] = [Math.ceil(w), Math.ceil(h)];
  const data = new Uint8ClampedArray(width * height * 4).fill(255);
  const random = seededRandom(seed);
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const gone = (n: number) => hidden !== null && n >= hidden.from && n < hidden.from + hidden.count;
  for (let v = 0; v < height; v++)
    for (let u = 0; u < width; u++) {
      const [x, y] = [u + 0.5 - width / 2, v + 0.5 - height / 2];
      const t = c * x + s * y + middle;
      const across = c * y - s * x;
      let level = across > 0 ? 90 : 190;
      if (across <= 0) {
        const near = nearest(along, t);
        const deep = period * (near % 10 === 0 ? 6 : near % 5 === 0 ? 4.5 : 3);
        const on = Math.max(0, 1 - Math.max(0, Math.abs(t - along[near]!) - 0.12 * period) / 1.2);
        if (!gone(near) && across > -deep && across < -1) level += (dark ? -120 : 60) * on;
      }
      data.fill(level + 6 * (random() - 0.5), (v * width + u) * 4, (v * width + u) * 4 + 3);
    }
  const pixels: Pixels = { width, height, data };
  const at = (n: number, down: number) => ({
    uPx: width / 2 + c * (along[n]! - middle) + s * down,
    vPx: height / 2 + s * (along[n]! - middle) - c * down,
  });
  return { pixels, at };
}

const nearest = (along: readonly number[], t: number): number => {
  let best = 0;
  for (let n = 1; n < along.length; n++) if (Math.abs(along[n]! - t) < Math.abs(along[best]! - t)) best = n;
  return best;
};

describe('a drawn row of strokes', () => {
  it('is counted right, or not at all, however it lies and whatever is hidden', () => {
    let found = 0;
    let tried = 0;
    fc.assert(
      fc.property(
        fc.record({
          period: fc.double({ min: 9, max: 18, noNaN: true }),
          growth: fc.double({ min: -0.002, max: 0.002, noNaN: true }),
          turn: fc.double({ min: -Math.PI, max: Math.PI, noNaN: true }),
          dark: fc.boolean(),
          hidden: fc.option(
            fc.record({ from: fc.integer({ min: 6, max: 48 }), count: fc.integer({ min: 1, max: 6 }) }),
          ),
          seed: fc.integer({ min: 1, max: 1e6 }),
        }),
        (drawn) => {
          const { pixels, at } = drawRule(drawn);
          const result = findRuler(pixels, at(3, 1.5 * drawn.period));
          tried += 1;
          if (!result.ok) return;
          found += 1;
          // The ends are there: whatever was hidden between them, their numbers lie so far apart.
          const ends = [result.from, result.to].map((p) =>
            nearest(
              Array.from({ length: COUNT + 1 }, (_, n) => Math.hypot(at(n, 0).uPx - p.uPx, at(n, 0).vPx - p.vPx)),
              0,
            ),
          );
          expect(result.count).toBe(Math.abs(ends[1]! - ends[0]!));
          const sense = Math.sign(ends[1]! - ends[0]!);
          for (const { n, places } of result.graduations.graduations)
            for (const p of places) {
              const [a, b] = [at(ends[0]! + sense * n, 0), at(ends[0]! + sense * n, drawn.period)];
              const off =
                ((b.uPx - a.uPx) * (p.vPx - a.vPx) - (b.vPx - a.vPx) * (p.uPx - a.uPx)) /
                Math.hypot(b.uPx - a.uPx, b.vPx - a.vPx);
              expect(Math.abs(off)).toBeLessThan(0.4);
            }
        },
      ),
      { numRuns: 24, seed: 7 },
    );
    expect(found / tried).toBeGreaterThan(0.8);
  }, 120_000);
});
