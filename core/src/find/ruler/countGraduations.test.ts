import { describe, expect, it } from 'vitest';
import { countGraduations } from '..';
import { openDemo } from '../demo.test-data';

const open = async (name: string) => {
  const { pixels, at, place } = await openDemo(name, 'rule');
  return { pixels, at: (x: number, y: number) => at(x, y), reading: (mm: number) => place(mm, -2) };
};
const latch = await open('latch-plate');

/** How far a place lies off the line between two others, px. */
function off(p: { uPx: number; vPx: number }, [ax, ay]: [number, number], [bx, by]: [number, number]): number {
  return ((bx - ax) * (p.vPx - ay) - (by - ay) * (p.uPx - ax)) / Math.hypot(bx - ax, by - ay);
}

describe('countGraduations', () => {
  it.each([
    ['latch-plate', 150],
    ['plywood-offcut', 200],
  ])(
    'counts the rule of %s, and lies on its strokes and its edge',
    async (name, mm) => {
      const { pixels, at, reading } = await open(name);
      const found = countGraduations(pixels, reading(0), reading(mm), mm);
      if (!found.ok) throw new Error(found.reason);
      expect(found.count).toBe(mm);
      expect(found.seen).toBeGreaterThan(0.9 * mm);
      expect(found.graduations.spacingMm).toBe(1);
      const offs = found.graduations.graduations.flatMap(({ n, places }) =>
        places.map((p) => off(p, at(n, -0.2), at(n, -3.1))),
      );
      const rms = Math.sqrt(offs.reduce((s, d) => s + d * d, 0) / offs.length);
      expect(offs.length).toBeGreaterThan(80);
      expect(rms).toBeLessThan(0.12);
      expect(Math.abs(offs.reduce((s, d) => s + d, 0) / offs.length)).toBeLessThan(0.04);
      expect(found.graduations.edge.length).toBeGreaterThan(15);
      // Against the edge as it is pictured, bent by the lens: the piece of it nearest to each place.
      const pieces = Array.from({ length: mm }, (_, k) => [at(k, 0), at(k + 1, 0)] as const);
      for (const p of found.graduations.edge) {
        const near = ([[ax, ay]]: (typeof pieces)[number]) => Math.hypot(ax - p.uPx, ay - p.vPx);
        const nearest = pieces.reduce((best, piece) => (near(piece) < near(best) ? piece : best));
        expect(Math.abs(off(p, ...nearest))).toBeLessThan(1);
      }
    },
    60_000,
  );

  it('steps over a smudge without losing count', () => {
    const { pixels, at, reading } = latch;
    const smudged = { ...pixels, data: new Uint8ClampedArray(pixels.data) };
    const [u, v] = at(64, -2).map(Math.round) as [number, number];
    for (let y = v - 60; y < v + 60; y++)
      for (let x = u - 90; x < u + 90; x++)
        smudged.data.fill(140, (y * pixels.width + x) * 4, (y * pixels.width + x) * 4 + 3);
    const found = countGraduations(smudged, reading(0), reading(150), 150);
    expect(found).toMatchObject({ ok: true, count: 150 });
    if (!found.ok) return;
    const last = found.graduations.graduations.at(-1);
    expect(last?.n).toBe(150);
    expect(Math.abs(off(last?.places[0] ?? { uPx: 0, vPx: 0 }, at(150, -0.2), at(150, -3.1)))).toBeLessThan(0.4);
  }, 60_000);

  it('says what is wrong', () => {
    const { pixels, reading, at } = latch;
    expect(countGraduations(pixels, reading(0), reading(150), 149)).toMatchObject({
      reason: 'another-length',
      count: 150,
    });
    // Typed as if the ruler were in inches: 25.4 times too long is still an even number, 6 in of 150 mm is none.
    expect(countGraduations(pixels, reading(0), reading(150), 152.4)).toMatchObject({ reason: 'another-length' });
    const [u, v] = at(30, 30);
    expect(countGraduations(pixels, { uPx: u, vPx: v }, reading(150), 150)).toMatchObject({ ok: false });
    const blank = { width: 400, height: 300, data: new Uint8ClampedArray(400 * 300 * 4).fill(128) };
    expect(countGraduations(blank, { uPx: 50, vPx: 150 }, { uPx: 350, vPx: 150 }, 50)).toEqual({
      ok: false,
      reason: 'not-on-strokes',
    });
  }, 60_000);
});
