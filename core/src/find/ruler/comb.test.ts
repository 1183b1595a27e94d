import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { normalRandom, seededRandom } from '../../numeric';
import { findComb } from './comb';

interface Drawn {
  /** Samples from mark to mark in the middle, and by which share that grows from end to end. */
  period: number;
  growth: number;
  marks: number;
  from: number;
  depth: number;
  noise: number;
  seed: number;
  /** Marks that are covered. */
  hidden?: readonly number[];
  light?: boolean;
}

/** Where mark `n` stands: a ruler seen askew, its strides growing steadily. */
const placeOf = ({ period, growth, marks, from }: Drawn, n: number): number =>
  from + period * n * (1 + growth * (n / marks - 0.5));

/** Dips a third of a period wide on light that changes slowly, with noise; outside the row there is noise alone. */
function drawn(how: Drawn): Float64Array {
  const { period, marks, depth, noise, seed, hidden = [], light } = how;
  const normal = normalRandom(seededRandom(seed));
  const length = Math.ceil(placeOf(how, marks) + 20 * period);
  const profile = Float64Array.from({ length }, (_, k) => 120 + 25 * Math.sin(k / 400) + noise * normal());
  for (let n = 0; n < marks; n++) {
    if (hidden.includes(n)) continue;
    const at = placeOf(how, n);
    for (let k = Math.floor(at - period); k <= at + period; k++)
      if (k >= 0 && k < length)
        profile[k]! += (light ? 1 : -1) * depth * Math.exp(-0.5 * ((k - at) / (period / 7)) ** 2);
  }
  return profile;
}

const nearestMark = (how: Drawn, at: number): number => {
  const all = Array.from({ length: how.marks + 40 }, (_, k) => k - 20);
  return all.reduce((p, n) => (Math.abs(placeOf(how, n) - at) < Math.abs(placeOf(how, p) - at) ? n : p));
};

const worst = (how: Drawn, marks: readonly number[], first: number): number =>
  Math.max(...marks.map((at, k) => Math.abs(at - placeOf(how, k + first))));

describe('a comb', () => {
  it('is counted from end to end, each mark where it stands, at any period and however askew', () => {
    fc.assert(
      fc.property(
        fc.record({
          period: fc.double({ min: 9, max: 60, noNaN: true }),
          growth: fc.double({ min: -0.0016, max: 0.0016, noNaN: true }),
          marks: fc.integer({ min: 50, max: 180 }),
          from: fc.double({ min: 200, max: 700, noNaN: true }),
          seed: fc.integer({ min: 1, max: 1e6 }),
        }),
        (how) => {
          const own = { ...how, growth: how.growth * how.marks, depth: 40, noise: 4 };
          const comb = findComb(drawn(own), 8, 90);
          expect(comb?.marks.length).toBe(how.marks);
          expect(comb?.dark).toBe(true);
          expect(worst(own, comb!.marks, 0)).toBeLessThan(0.1 * how.period);
        },
      ),
      { numRuns: 40, seed: 11 },
    );
  });

  it('is counted in noise nearly as deep as its marks', () => {
    for (const seed of [1, 2, 3, 4, 5]) {
      const how = { period: 12.4, growth: 0.12, marks: 150, from: 500, depth: 8, noise: 6, seed };
      const { marks } = findComb(drawn(how), 8, 90)!;
      const first = nearestMark(how, marks[0]!);
      // Which mark is the last one may be told wrong by several; none between is missed or told twice.
      expect(Math.abs(first)).toBeLessThanOrEqual(10);
      expect(Math.abs(first + marks.length - how.marks)).toBeLessThanOrEqual(10);
      expect(worst(how, marks, first)).toBeLessThan(0.2 * how.period);
    }
  });

  it('keeps the count over marks that are covered', () => {
    const hidden = [40, 41, 42, 43, 44, 45, 46, 80, 81, 82];
    const how = { period: 14, growth: 0.2, marks: 120, from: 300, depth: 40, noise: 3, seed: 9, hidden };
    const { marks } = findComb(drawn(how), 8, 90)!;
    expect(marks.length).toBe(how.marks);
    expect(worst(how, marks, 0)).toBeLessThan(0.25 * how.period);
  });

  it('tells light marks from dark ones', () => {
    const how = { period: 20, growth: 0, marks: 90, from: 300, depth: 40, noise: 3, seed: 2, light: true };
    const comb = findComb(drawn(how), 8, 90)!;
    expect(comb.dark).toBe(false);
    expect(worst(how, comb.marks, 0)).toBeLessThan(1);
  });

  it('is none in noise, in one step, or in grain that wanders', () => {
    const normal = normalRandom(seededRandom(4));
    const noise = Float64Array.from({ length: 3000 }, () => 5 * normal());
    const step = noise.map((v, k) => v + (k > 1500 ? 60 : 0));
    // Waves whose phase is lost within a few of them.
    let phase = 0;
    const grain = noise.map((v) => {
      phase += (2 * Math.PI) / 15 + 0.35 * normal();
      return 0.4 * v + 20 * Math.sin(phase);
    });
    for (const profile of [noise, step, grain]) {
      const comb = findComb(profile, 8, 90);
      expect(comb ? comb.marks.length : 0).toBeLessThan(40);
    }
  });
});
