import { describe, expect, it } from 'vitest';
import { bowedEdges, calibrate, distance, figureOf, type Sheet } from '..';
import { inputOf, SETUP, seenBy } from '../reference/kinds/yardsticks.test-data';

const seen = seenBy(SETUP, 21);
const flat = seen.sheet('paper', -100, -70, 210, 148);

/** The same sheet, its right edge lifted off the table by so much in its middle: what the camera truly sees then. */
function lifted(byMm: number): Sheet {
  const [x, y, w, h] = [-100, -70, 210, 148];
  const right = Array.from({ length: 24 }, (_, k) => {
    const t = 0.05 + (0.9 * k) / 23;
    return seen.pick(x + w, y + t * h, byMm * 4 * t * (1 - t));
  });
  return { ...flat, edges: [flat.edges[0], right, flat.edges[2], flat.edges[3]] };
}

describe('curled paper', () => {
  it('is reported at the edge that lifts, by how far it seems bowed', () => {
    const bowed = bowedEdges(inputOf(lifted(2)));
    // A lifted place is seen further from below the lens, by height × distance / height of the lens: all of it counts
    // where the edge is as far from there as the sheet reaches.
    const { lens } = seen.camera;
    const away = ((110 - lens.x) * 2) / (lens.z - 2);
    const right = bowed.find((b) => b.edge === 1);
    expect(right?.outMm).toBeGreaterThan(0.2);
    expect(Math.abs((right?.outMm ?? 0) - away)).toBeLessThan(0.12);
    expect(bowed.every((b) => b.edge === 1 || Math.abs(b.outMm) < Math.abs(right?.outMm ?? 0) / 3)).toBe(true);
  });

  it('leaves the truing what the straight edges make it', () => {
    const result = calibrate(inputOf(lifted(2)));
    if (!result.ok) throw new Error(result.reason);
    const ends = [seen.pick(-60, 0, 0, 0.01), seen.pick(40, 0, 0, 0.01)].map((p) => ({ ...p, plane: 'table' }));
    const found = figureOf(result.calibration, ends, distance);
    expect(Math.abs((found?.value ?? 0) - 100)).toBeLessThan(1.5 * (found?.plusMinus ?? 0));
    expect(found?.plusMinus).toBeLessThan(0.3);
  });

  it('is not seen in flat paper, nor where there is none', () => {
    expect(bowedEdges(inputOf(flat))).toEqual([]);
    expect(bowedEdges(inputOf(seen.grid('mat', -90, -70, 10, 19, 14)))).toEqual([]);
  });
});
