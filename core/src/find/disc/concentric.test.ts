import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../numeric';
import { concentricAbout, rimOf } from './concentric';
import type { EdgePixel } from './edgePixels';

/** Edges of rings of one form about a middle, and as many again that lie anyhow. */
function rings(x: number, y: number, tilt: number, way: number, radii: readonly number[], seed: number): EdgePixel[] {
  const random = seededRandom(seed);
  const [c, s] = [Math.cos(way), Math.sin(way)];
  const [long, short] = [1 / Math.sqrt(Math.cos(tilt)), Math.sqrt(Math.cos(tilt))];
  const edges: EdgePixel[] = [];
  for (const r of radii)
    for (let k = 0; k < 2.5 * r; k++) {
      const t = 2 * Math.PI * random();
      const [p, q] = [r * long * Math.cos(t), r * short * Math.sin(t)];
      const [np, nq] = [short * Math.cos(t), long * Math.sin(t)];
      const size = Math.hypot(np, nq);
      edges.push({
        x: x + c * p - s * q + 0.4 * (random() - 0.5),
        y: y + s * p + c * q + 0.4 * (random() - 0.5),
        nx: (c * np - s * nq) / size,
        ny: (s * np + c * nq) / size,
        strength: 10,
      });
    }
  for (let k = edges.length; k > 0; k--) {
    const t = 2 * Math.PI * random();
    edges.push({ x: 600 * random(), y: 500 * random(), nx: Math.cos(t), ny: Math.sin(t), strength: 8 });
  }
  return edges;
}

describe('a family of rings', () => {
  it('is found from any place inside its outermost, among as many edges that lie anyhow', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 60, max: 150, noNaN: true }),
        fc.double({ min: 0, max: 0.5, noNaN: true }),
        fc.double({ min: 0, max: Math.PI, noNaN: true }),
        fc.double({ min: 0, max: 0.8, noNaN: true }),
        fc.integer({ min: 1, max: 1e6 }),
        (radius, tilt, way, off, seed) => {
          const [x, y] = [300, 250];
          const edges = rings(x, y, tilt, way, [radius, 0.82 * radius, 0.45 * radius], seed);
          const click = { x: x + 0.9 * off * radius * Math.cos(seed), y: y + 0.9 * off * radius * Math.sin(seed) };
          const family = concentricAbout(edges, click);
          const rim = family && rimOf(family);
          expect(rim).not.toBeNull();
          expect(Math.hypot(rim!.x - x, rim!.y - y)).toBeLessThan(2);
          expect(Math.abs(Math.sqrt(rim!.a * rim!.b) / radius - 1)).toBeLessThan(0.03);
          expect(Math.abs(rim!.b / rim!.a - Math.cos(tilt))).toBeLessThan(0.03);
        },
      ),
      { numRuns: 12, seed: 4 },
    );
  });

  it('is none where edges lie anyhow', () => {
    const edges = rings(300, 250, 0, 0, [], 3).concat(
      Array.from({ length: 4000 }, (_, k) => {
        const random = seededRandom(k + 1);
        const t = 2 * Math.PI * random();
        return { x: 600 * random(), y: 500 * random(), nx: Math.cos(t), ny: Math.sin(t), strength: 9 };
      }),
    );
    const family = concentricAbout(edges, { x: 300, y: 250 });
    expect(family && rimOf(family)).toBeNull();
  });
});
