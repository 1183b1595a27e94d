import { describe, expect, it } from 'vitest';
import { normalRandom, seededRandom } from '../../numeric';
import { clustersOf, dimensionValue, type Id, type Sketch, settleCluster } from '../../sketch';
import { decide, plate, relate } from '../../sketch/settle/rig.test-data';
import { putCircle, putPath, seen } from '../../sketch/traced.test-data';
import { measureSizes } from './measureSizes';
import { calibration, photographed, said, xu, yv } from './photographed.test-data';
import { proposalsFor } from './proposals';
import { HOLES, madeTo } from './standardSizes';

/** The plate with what is askew of it put straight: a form with true relations. */
function straight(): Sketch {
  const sketch = plate();
  const put = (id: Id, uPx: number, vPx: number) => {
    const at = sketch.points[id]?.at ?? sketch.picks[id]!;
    Object.assign(at, { uPx, vPx });
  };
  const places: [Id, number, number][] = [
    ['a', 0, 0],
    ['b', 40, 0],
    ['c', 40, 20],
    ['d', 0, 20],
    ['e', 60, 0],
    ['f', 80, 0],
    ['g', 80, 8],
    ['h', 60, 8],
    ['v', 84, 4],
    ['w', 56, 4],
  ];
  for (const [id, x, y] of places) put(id, x, y);
  const circle = (id: Id, x: number, y: number, r: number) =>
    [0.3, 2.4, 4.5].forEach((t, k) => {
      put(`${id}-r${k}`, x + r * Math.cos(t), y + r * Math.sin(t));
    });
  circle('hole', 20, 10, 5);
  circle('pin', 70, 30, 2.75);
  circle('pin2', 80, 30, 2.75);
  circle('pin3', 90, 30, 2.75);
  return sketch;
}

describe('the ± of sizes that relations hold', () => {
  it('is the scatter that settling the same part again and again has', () => {
    const drawn = straight();
    relate(drawn, 'level', 'rect-c0', 'rect-c2');
    relate(drawn, 'plumb', 'rect-c1', 'rect-c3');
    relate(drawn, 'equal', 'pin-c', 'pin2-c', 'pin3-c');
    relate(drawn, 'tangent', 'slot-c0', 'slot-c1');
    relate(drawn, 'tangent', 'slot-c1', 'slot-c2');
    relate(drawn, 'parallel', 'slot-c0', 'slot-c2');
    decide(drawn, 'distance', 20, ['a', 'd']);
    const measured = { kind: 'measured' } as const;
    decide(drawn, 'distance', 1, ['a', 'b']).origin = measured;
    decide(drawn, 'distance', 1, ['a', 'c']).origin = measured;
    decide(drawn, 'diameter', 1, ['pin-c']).origin = measured;
    decide(drawn, 'radius', 1, ['slot-c1']).origin = measured;
    decide(drawn, 'distance', 1, ['pin-c', 'rect-c1']).origin = measured;
    decide(drawn, 'path-length', 1, ['slot']).origin = measured;
    const normal = normalRandom(seededRandom(5));
    const told = measureSizes(
      photographed(drawn, 0.02, () => 0),
      Object.values(drawn.dimensions),
      calibration,
      said,
    );
    const values: Record<Id, number[]> = {};
    for (let n = 0; n < 300; n++) {
      const sketch = photographed(drawn, 0.02, normal);
      const seen = (id: Id) => {
        const at = sketch.picks[id] ?? sketch.points[id]?.at;
        return at && 'uPx' in at ? { x: (at.uPx - 2000) * xu, y: (at.vPx - 1500) * yv } : null;
      };
      const places = new Map(
        clustersOf(sketch).all.flatMap((c) => {
          const settled = settleCluster(sketch, c, seen);
          return settled.ok ? [...settled.places] : [];
        }),
      );
      for (const d of Object.values(sketch.dimensions))
        values[d.id] = [...(values[d.id] ?? []), dimensionValue(sketch, d, (id) => places.get(id) ?? seen(id))!];
    }
    for (const d of Object.values(drawn.dimensions)) {
      const all = values[d.id]!;
      const mean = all.reduce((a, b) => a + b) / all.length;
      const twoSigma = 2 * Math.sqrt(all.reduce((s, v) => s + (v - mean) ** 2, 0) / (all.length - 1));
      const { settled } = told[d.id]!;
      expect(settled.value, d.kind).toBeCloseTo(mean, 2);
      // Of 300 draws the scatter is known to 4 %.
      if (d.origin.kind === 'decided') expect(settled.plusMinus).toBeLessThan(1e-6);
      else expect(Math.abs(settled.plusMinus / twoSigma - 1), `${d.kind} ${d.id}`).toBeLessThan(0.13);
    }
  });

  it('tells what was seen beside what was decided', () => {
    const drawn = straight();
    decide(drawn, 'diameter', 11, ['hole-c']);
    const told = measureSizes(
      photographed(drawn, 0.02, () => 0),
      Object.values(drawn.dimensions),
      calibration,
      said,
    );
    expect(told.d0!.settled.value).toBeCloseTo(11, 8);
    expect(told.d0!.seen.value).toBeCloseTo(10, 3);
    expect(told.d0!.seen.plusMinus).toBeGreaterThan(0.01);
  });
});

describe('proposals', () => {
  const propose = (drawn: Sketch, seed: number, sigmaMm = 0.02) => {
    let count = 0;
    const sketch = photographed(drawn, sigmaMm, normalRandom(seededRandom(seed)));
    return proposalsFor(sketch, calibration, said, 'mm', () => `p${count++}`);
  };
  const keys = (all: ReturnType<typeof propose>) =>
    all.map((p) => (p.kind === 'relation' ? p.key : p.key.split(' (')[0]));

  it('name what the form has, and nothing that it has not', () => {
    const found = keys(propose(straight(), 3));
    expect(found).toEqual(
      expect.arrayContaining([
        'level rect-c0',
        'plumb rect-c1',
        'level slot-c0',
        'tangent slot-c0 slot-c1',
        'tangent slot-c2 slot-c3',
        'equal slot-c1 slot-c3',
        'equal pin-c pin2-c pin3-c',
        'even pin-c pin2-c pin3-c',
      ]),
    );
    expect(found.some((k) => k?.includes('curve-c0'))).toBe(false);
    expect(found.some((k) => k?.includes('equal') && k.includes('hole-c'))).toBe(false);
  });

  it('name pairs that are mirror images in a centre line, and none that only nearly are', () => {
    const drawn = straight();
    const at = { m: seen(50, 60), n: seen(56, 90) };
    putPath(drawn, at, { id: 'axis', points: ['m', 'n'], closed: false, role: 'centre-line' });
    // Square to the line, which leans by 6 to 30: one pair 10 to each side, one with its right one 0.4 too far off.
    const [nx, ny] = [30 / Math.hypot(6, 30), -6 / Math.hypot(6, 30)];
    const rim = (x: number, y: number) =>
      [0.3, 2.4, 4.5].map((t) => seen(x + 2 * Math.cos(t), y + 2 * Math.sin(t))) as [never, never, never];
    const pair = (id: string, t: number, right: number) => {
      const [x, y] = [50 + 6 * t, 60 + 30 * t];
      putCircle(drawn, `${id}l`, rim(x - 10 * nx, y - 10 * ny));
      putCircle(drawn, `${id}r`, rim(x + right * nx, y + right * ny));
    };
    pair('good', 0.2, 10);
    pair('bad', 0.9, 10.4);
    const found = keys(propose(drawn, 7)).filter((k) => k?.startsWith('symmetric'));
    expect(found).toEqual(['symmetric axis-c0 goodl-c goodr-c']);
  });

  it('leave out what the measurement does not allow, and what it is too coarse for', () => {
    const askew = straight();
    Object.assign(askew.points.b!.at, { vPx: 0.5 });
    expect(keys(propose(askew, 4))).not.toContain('level rect-c0');
    // A line of 20 mm whose ends are known to a millimetre has no direction.
    expect(keys(propose(straight(), 5, 1)).filter((k) => k?.startsWith('level'))).toEqual([]);
  });

  it('leave out what holds already', () => {
    const drawn = straight();
    relate(drawn, 'level', 'rect-c0');
    expect(keys(propose(drawn, 6))).not.toContain('level rect-c0');
  });

  it('name standard sizes where the ± tells them from the next', () => {
    expect(madeTo(8.41, 0.05, HOLES, 'mm')[0]).toMatchObject({ text: '8.4', what: 'clearance for M8, fine (ISO 273)' });
    // Between 8.4 and 8.5 nothing tells them apart.
    expect(madeTo(8.45, 0.06, HOLES, 'mm').filter((m) => m.what !== 'a round size')).toEqual([]);
    expect(madeTo(27.98, 0.17, [], 'mm')).toEqual([{ mm: 28, text: '28', unit: 'mm', what: 'a round size' }]);
    expect(madeTo(9.53, 0.02, [], 'in')).toEqual([
      { mm: expect.closeTo(9.525, 9), text: '3/8', unit: 'in', what: 'a round size' },
    ]);
    expect(madeTo(9.3, 0.02, [], 'mm')).toEqual([]);
  });
});
