import { describe, expect, it } from 'vitest';
import { numberedRuler } from './numberedRuler';

const pick = (uPx: number) => ({ uPx, vPx: 0, sigmaPx: 0.1 });
/** Ten spacings of half a millimetre, a graduation every seven pixels. */
const ruler = {
  id: 'rule',
  kind: 'known-length' as const,
  plane: 'table',
  from: pick(0),
  to: pick(70),
  lengthMm: 5,
  plusMinusMm: null,
  graduations: {
    spacingMm: 0.5,
    graduations: Array.from({ length: 11 }, (_, n) => ({ n, places: [pick(7 * n)] })),
    edge: [],
    far: [],
  },
};
/** What each graduation reads, mm, by where it is seen. */
const readings = (numbered: ReturnType<typeof numberedRuler>) =>
  numbered?.graduations.graduations.map((s) => [s.places[0]!.uPx, (s.n + (numbered.graduations.first ?? 0)) * 0.5]);

describe('numberedRuler', () => {
  it('numbers graduations from the ruler’s own zero', () => {
    expect(readings(numberedRuler(ruler, { fromMm: 12, toMm: 17 }))?.[2]).toEqual([14, 13]);
  });

  it('reads each graduation alike from either end', () => {
    const ahead = readings(numberedRuler(ruler, { fromMm: 12, toMm: 17 }));
    // Picked from the other end, its strokes are counted from there.
    const back = numberedRuler(
      {
        ...ruler,
        from: ruler.to,
        to: ruler.from,
        graduations: {
          ...ruler.graduations,
          graduations: ruler.graduations.graduations.map((s) => ({ ...s, n: 10 - s.n })).reverse(),
        },
      },
      { fromMm: 17, toMm: 12 },
    );
    expect([...(readings(back) ?? [])].sort((a, b) => a[0]! - b[0]!)).toEqual(ahead);
    expect(back?.from).toEqual(ruler.from);
  });

  it('takes a reading a little beside a graduation for it, and none between two', () => {
    expect(numberedRuler(ruler, { fromMm: 12.06, toMm: 17.06 })?.graduations.first).toBe(24);
    expect(numberedRuler(ruler, { fromMm: 12.2, toMm: 17.2 })).toBeNull();
  });
});
