import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Family } from '../find';
import { type ReadFigure, readRuler } from './rulerFigures';

const MM = { mm: 1, cm: 10, in: 25.4 } as const;

/** Scales as they are printed: from stroke to stroke, and a figure every so many strokes that counts on by so much. */
const PRINTED = [
  { unit: 'cm', spacingMm: 1, every: 10, counts: 1 },
  { unit: 'cm', spacingMm: 0.5, every: 20, counts: 1 },
  { unit: 'cm', spacingMm: 2, every: 5, counts: 1 },
  { unit: 'mm', spacingMm: 1, every: 10, counts: 10 },
  { unit: 'in', spacingMm: 25.4 / 16, every: 16, counts: 1 },
  { unit: 'in', spacingMm: 25.4 / 32, every: 32, counts: 1 },
  { unit: 'in', spacingMm: 25.4 / 8, every: 8, counts: 1 },
] as const;

const figure = (value: number, n: number, confidence = 95): ReadFigure => ({
  value,
  n,
  down: 8,
  tall: 3,
  wide: 2 * String(value).length,
  confidence,
});

/** Every figure that stands over strokes 0 to `last`, the first stroke at a reading of so many figures. */
function printed(scale: (typeof PRINTED)[number], startsAt: number, last: number, sense: 1 | -1): ReadFigure[] {
  const figures: ReadFigure[] = [];
  for (let n = 0; n <= last; n += scale.every) {
    const k = sense === 1 ? n / scale.every : Math.floor(last / scale.every) - n / scale.every;
    figures.push(figure((startsAt + k) * scale.counts, n));
  }
  return figures;
}

describe('the figures along a ruler', () => {
  it('tell its scale and both ends, whichever way it lies and whatever stands beside its strokes', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...PRINTED),
        fc.integer({ min: 0, max: 20 }),
        fc.integer({ min: 4, max: 14 }),
        fc.constantFrom(1 as const, -1 as const),
        fc.double({ min: -0.4, max: 0.4, noNaN: true }),
        (scale, startsAt, figures, sense, aside) => {
          const last = scale.every * figures;
          const read = printed(scale, startsAt, last, sense).map((f) => ({ ...f, n: f.n + aside }));
          const said = readRuler(read, [], 0, last)!;
          expect(said.spacingMm).toBeCloseTo(scale.spacingMm, 9);
          const ends = [startsAt, startsAt + figures].map((k) => k * scale.counts * MM[scale.unit]);
          const got = [said.first, said.last].map((v) => v * MM[said.unit]);
          expect(sense === 1 ? got : got.reverse()).toEqual(ends.map((v) => expect.closeTo(v, 6)));
          expect(said.doubt).toBeNull();
        },
      ),
    );
  });

  it('are not misled by a third of them read wrong: right, or nothing is said', () => {
    let right = 0;
    let tried = 0;
    fc.assert(
      fc.property(
        fc.constantFrom(...PRINTED),
        fc.integer({ min: 8, max: 14 }),
        fc.array(fc.integer({ min: 0, max: 99 }), { minLength: 3, maxLength: 3 }),
        fc.integer({ min: 0, max: 1000 }),
        (scale, figures, wrong, pick) => {
          const read = printed(scale, 0, scale.every * figures, 1);
          wrong.forEach((value, k) => {
            const at = (pick + 3 * k) % read.length;
            read[at] = figure(value, read[at]!.n, 60);
          });
          tried += 1;
          const said = readRuler(read, [], 0, scale.every * figures);
          if (!said) return;
          right += 1;
          expect(said.spacingMm).toBeCloseTo(scale.spacingMm, 9);
        },
      ),
      { numRuns: 200 },
    );
    expect(right / tried).toBeGreaterThan(0.8);
  });

  it('say where a stroke was missed between two of them', () => {
    const read = printed(PRINTED[0], 0, 120, 1).map((f) => ({ ...f, n: f.n > 55 ? f.n - 1 : f.n }));
    expect(readRuler(read, [], 0, 119)?.doubt).toEqual({ kind: 'count', from: 5, to: 6, strokes: 10, counted: 9 });
  });

  it('say when the lengths of the strokes tell of another scale', () => {
    const inch: Family = { unit: 'in', spacingMm: 25.4 / 16, whole: 0, every: 16 };
    const mm: Family = { unit: 'mm', spacingMm: 1, whole: 0, every: 10 };
    const read = printed(PRINTED[0], 0, 120, 1);
    expect(readRuler(read, [inch], 0, 120)?.doubt).toEqual({ kind: 'lengths' });
    expect(readRuler(read, [mm], 0, 120)?.doubt).toBeNull();
  });

  it('decide between scales that the lengths leave open', () => {
    const two: Family = { unit: 'mm', spacingMm: 2, whole: 0, every: 5 };
    const one: Family = { unit: 'mm', spacingMm: 1, whole: 0, every: 10 };
    expect(readRuler(printed(PRINTED[2], 0, 60, 1), [one, two], 0, 60)).toMatchObject({
      spacingMm: 2,
      first: 0,
      last: 12,
      doubt: null,
    });
  });

  it('say nothing where no three of them hold together', () => {
    expect(readRuler([figure(3, 0), figure(9, 11), figure(1, 23), figure(7, 31)], [], 0, 40)).toBeNull();
    expect(readRuler([], [], 0, 40)).toBeNull();
  });

  it.each([1.2, 2.4, -2])(
    'are not taken for a slip where the first one stands %f strokes aside, on the body',
    (aside) => {
      for (const scale of PRINTED)
        for (const sense of [1, -1] as const) {
          const last = scale.every * 9;
          const read = printed(scale, 0, last, sense);
          const moved = read.findIndex((f) => f.value === 0);
          read[moved] = figure(0, read[moved]!.n + aside);
          expect(readRuler(read, [], 0, last)!.doubt, `${scale.spacingMm} mm`).toBeNull();
        }
    },
  );

  it('are not taken for a slip where they begin beside their strokes, and some have two digits', () => {
    for (const scale of PRINTED)
      for (const sense of [1, -1] as const) {
        const last = scale.every * 8;
        const read = printed(scale, 6, last, sense).map((f) => ({ ...f, n: f.n + 0.4 + f.wide / 2 }));
        expect(readRuler(read, [], 0, last)!.doubt, `${scale.spacingMm} mm`).toBeNull();
      }
  });

  it('tell of a stroke that is hidden from three of them on', () => {
    for (const scale of PRINTED.filter((s) => s.every > 5)) {
      const read = printed(scale, 0, scale.every * 9, 1).map((f, k) => (k < 3 ? { ...f, n: f.n + 1 } : f));
      const { doubt } = readRuler(read, [], 0, scale.every * 9)!;
      expect(doubt).toMatchObject({ kind: 'count', strokes: scale.every, counted: scale.every - 1 });
    }
  });
});
