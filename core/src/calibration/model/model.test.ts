import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { backProject, placePoint } from './backProject';
import { CAMERA_SIZE, cameraHeightMm, prepareCamera } from './camera';
import { project } from './project';
import { newProjection } from './projection';

const parameters = fc
  .tuple(
    fc.double({ min: 2500, max: 5000, noNaN: true }),
    fc.double({ min: -60, max: 60, noNaN: true }),
    fc.double({ min: -60, max: 60, noNaN: true }),
    fc.double({ min: -0.12, max: 0.12, noNaN: true }),
    fc.double({ min: -0.03, max: 0.03, noNaN: true }),
    fc.double({ min: -0.45, max: 0.45, noNaN: true }),
    fc.double({ min: -0.45, max: 0.45, noNaN: true }),
    fc.double({ min: 250, max: 700, noNaN: true }),
  )
  .map(([c, cx, cy, k1, k2, a, b, d]) => Float64Array.of(Math.log(c), 2000 + cx, 1500 + cy, k1, k2, a, b, Math.log(d)));
const point = fc.tuple(
  fc.double({ min: -80, max: 80, noNaN: true }),
  fc.double({ min: -80, max: 80, noNaN: true }),
  fc.double({ min: -2, max: 30, noNaN: true }),
);

describe('the photograph model', () => {
  it('finds back on its plane what it pictured', () => {
    fc.assert(
      fc.property(parameters, point, (p, [x, y, z]) => {
        const camera = prepareCamera(p);
        const out = newProjection();
        if (!project(camera, x, y, z, out)) return;
        const back = new Float64Array(2);
        expect(backProject(camera, out.picture[0]!, out.picture[1]!, z, back)).toBe(true);
        expect(Math.hypot(back[0]! - x, back[1]! - y)).toBeLessThan(1e-6);
      }),
    );
  });

  it('has the derivatives that small differences show', () => {
    fc.assert(
      fc.property(parameters, point, (p, [x, y, z]) => {
        const out = newProjection();
        if (!project(prepareCamera(p), x, y, z, out)) return;
        const steps = [1e-6, 1e-3, 1e-3, 1e-5, 1e-5, 1e-6, 1e-6, 1e-6];
        const plus = newProjection();
        const minus = newProjection();
        for (let k = 0; k < CAMERA_SIZE; k++) {
          const up = p.slice();
          const down = p.slice();
          up[k]! += steps[k]!;
          down[k]! -= steps[k]!;
          project(prepareCamera(up), x, y, z, plus);
          project(prepareCamera(down), x, y, z, minus);
          for (const row of [0, 1]) {
            const seen = (plus.picture[row]! - minus.picture[row]!) / (2 * steps[k]!);
            expect(Math.abs(out.byCamera[row * CAMERA_SIZE + k]! - seen)).toBeLessThan(3e-3 + 1e-5 * Math.abs(seen));
          }
        }
        const h = 1e-4;
        for (let k = 0; k < 3; k++) {
          const move = [0, 0, 0];
          move[k] = h;
          project(prepareCamera(p), x + move[0]!, y + move[1]!, z + move[2]!, plus);
          project(prepareCamera(p), x - move[0]!, y - move[1]!, z - move[2]!, minus);
          for (const row of [0, 1])
            expect(out.byPoint[row * 3 + k]).toBeCloseTo((plus.picture[row]! - minus.picture[row]!) / (2 * h), 3);
        }
      }),
      { numRuns: 40 },
    );
  });

  it('moves a placed point as its derivatives say', () => {
    const p = Float64Array.of(Math.log(3200), 2010, 1490, 0.05, -0.01, 0.2, -0.1, Math.log(400));
    const here = placePoint(prepareCamera(p), 1200, 700, 3);
    if (!here) throw new Error('not placed');
    const steps = [1e-6, 1e-3, 1e-3, 1e-5, 1e-5, 1e-6, 1e-6, 1e-6];
    const out = new Float64Array(2);
    for (let k = 0; k < CAMERA_SIZE; k++) {
      const up = p.slice();
      up[k]! += steps[k]!;
      backProject(prepareCamera(up), 1200, 700, 3, out);
      expect((out[0]! - here.place[0]!) / steps[k]!).toBeCloseTo(here.byCamera[k]!, 1);
      expect((out[1]! - here.place[1]!) / steps[k]!).toBeCloseTo(here.byCamera[CAMERA_SIZE + k]!, 1);
    }
    backProject(prepareCamera(p), 1200, 700, 3.001, out);
    expect((out[0]! - here.place[0]!) / 1e-3).toBeCloseTo(here.byHeight[0]!, 4);
    backProject(prepareCamera(p), 1200.01, 700, 3, out);
    expect((out[0]! - here.place[0]!) / 0.01).toBeCloseTo(here.byPicture[0]!, 5);
  });

  it('has no answer above the horizon or beyond the lens', () => {
    const steep = prepareCamera(Float64Array.of(Math.log(3000), 2000, 1500, 0, 0, 1.2, 0, Math.log(400)));
    const out = new Float64Array(2);
    const rows = [0, 1500, 3000].map((v) => backProject(steep, 2000, v, 0, out));
    expect(rows).toContain(false);
    expect(rows).toContain(true);
    const barrel = prepareCamera(Float64Array.of(Math.log(3000), 2000, 1500, -0.5, 0, 0, 0, Math.log(400)));
    expect(backProject(barrel, 9000, 1500, 0, out)).toBe(false);
  });

  it('keeps the three distances apart', () => {
    const camera = prepareCamera(Float64Array.of(Math.log(3000), 2000, 1500, 0, 0, 0.3, 0.2, Math.log(400)));
    expect(cameraHeightMm(camera)).toBeCloseTo(400 * Math.cos(Math.hypot(0.3, 0.2)), 9);
  });
});
