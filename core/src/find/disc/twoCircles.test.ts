import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { prepareCamera } from '../../calibration/model/camera';
import { project } from '../../calibration/model/project';
import { newProjection } from '../../calibration/model/projection';
import { seededRandom } from '../../numeric';
import { posesOf } from './discPose';
import { type Crossings, crossingsOf, type DiscPose, type Pinhole, type Spoke } from './twoCircles';

const PINHOLE: Pinhole = { cPx: 2448, u0: 1632, v0: 1224 };

/** The calibration's own camera at a pose of the disc, which is 1 mm in radius there. */
const cameraAt = ({ a, b, lnD }: DiscPose) =>
  prepareCamera([Math.log(PINHOLE.cPx), PINHOLE.u0, PINHOLE.v0, 0, 0, a, b, lnD]);

const pose = fc.record({
  a: fc.double({ min: -0.3, max: 0.3, noNaN: true }),
  b: fc.double({ min: -0.3, max: 0.3, noNaN: true }),
  lnD: fc.double({ min: 2.1, max: 2.6, noNaN: true }),
  x: fc.double({ min: -3, max: 3, noNaN: true }),
  y: fc.double({ min: -2, max: 2, noNaN: true }),
  thickness: fc.double({ min: 0.08, max: 0.25, noNaN: true }),
});

/** Places of a circle at a height, as that camera sees them. */
function seen(own: DiscPose, z: number, radius: number, count: number): [number, number][] {
  const camera = cameraAt(own);
  const out = newProjection();
  return Array.from({ length: count }, (_, k) => {
    const t = (2 * Math.PI * k) / count;
    expect(project(camera, own.x + radius * Math.cos(t), own.y + radius * Math.sin(t), z, out)).toBe(true);
    return [out.picture[0]!, out.picture[1]!];
  });
}

const UPPER_RADIUS = 0.993;
const upperHeight = ({ thickness }: DiscPose) => thickness - 0.008;
const FOOT = { z: 0.016, radius: 0.998 };

describe('the two circles of a disc', () => {
  it('cross lines where the camera of the calibration sees them', () => {
    fc.assert(
      fc.property(pose, (own) => {
        const upper = seen(own, upperHeight(own), UPPER_RADIUS, 40);
        const foot = seen(own, FOOT.z, FOOT.radius, 40);
        const middle = upper.reduce(([u, v], p) => [u + p[0] / 40, v + p[1] / 40], [0, 0]);
        const towards = (p: [number, number]): Spoke => {
          const away = Math.hypot(p[0] - middle[0]!, p[1] - middle[1]!);
          return {
            at: { x: middle[0]!, y: middle[1]! },
            out: { x: (p[0] - middle[0]!) / away, y: (p[1] - middle[1]!) / away },
          };
        };
        for (const [which, places] of [
          ['upper', upper],
          ['foot', foot],
        ] as const) {
          const into: Crossings = { upper: new Float64Array(40), foot: new Float64Array(40) };
          crossingsOf(own, PINHOLE, places.map(towards), into);
          for (const [k, p] of places.entries())
            expect(into[which][k]).toBeCloseTo(Math.hypot(p[0] - middle[0]!, p[1] - middle[1]!), 4);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('tell the tilt from edges among others, and which of two it is where the foot shows', () => {
    let right = 0;
    const runs = 20;
    for (let seed = 1; seed <= runs; seed++) {
      const random = seededRandom(seed);
      const own: DiscPose = {
        a: 0.25 * (2 * random() - 1),
        b: 0.25 * (2 * random() - 1),
        lnD: Math.log(9.5),
        x: 2.5 * (2 * random() - 1),
        y: 1.5 * (2 * random() - 1),
        thickness: 0.14 + 0.03 * random(),
      };
      const outline = seen(own, upperHeight(own), UPPER_RADIUS, 120);
      const [x, y] = outline.reduce(([u, v], p) => [u! + p[0] / 120, v! + p[1] / 120], [0, 0]) as [number, number];
      const size = outline.reduce((sum, [u, v]) => sum + Math.hypot(u - x, v - y) / 120, 0);
      const ring = { x, y, a: size, b: size, turn: 0 };
      const spokes: Spoke[] = Array.from({ length: 120 }, (_, k) => {
        const t = (2 * Math.PI * k) / 120;
        const out = { x: Math.cos(t), y: Math.sin(t) };
        return { at: { x: x + size * out.x, y: y + size * out.y }, out };
      });
      const meant: Crossings = { upper: new Float64Array(120), foot: new Float64Array(120) };
      crossingsOf(own, PINHOLE, spokes, meant);
      const candidates = spokes.map((_, k) => {
        const [u, f] = [meant.upper[k]!, meant.foot[k]!];
        const stray = Array.from({ length: 3 }, () => ({ along: size * (0.22 * random() - 0.09), weight: 0.5 }));
        const edges = [{ along: u + 0.6 * (random() - 0.5), weight: 0.9 }, ...stray];
        return f - u > 2.5 && random() < 0.8 ? [...edges, { along: f + random() - 0.5, weight: 0.8 }] : edges;
      });
      const [best, next] = posesOf({
        spokes,
        candidates,
        camera: PINHOLE,
        ring,
        thickness: { mean: 0.155, sigma: 0.03 },
      });
      const isRight = (p: typeof best) => !!p && Math.hypot(p.pose.a - own.a, p.pose.b - own.b) < 0.035;
      // Where no foot shows, both tilts look alike: then the other one must be near enough to be told as well.
      const isTold = best!.footBeyondChance === null && best!.merit - next!.merit < 0.06 && isRight(next);
      if (isRight(best) || isTold) right += 1;
    }
    expect(right).toBe(runs);
  });
});
