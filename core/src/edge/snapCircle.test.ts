import { buildCamera, pictureOf } from '@steady-moth/rig/camera';
import { LATCH_PLATE_SCENE } from '@steady-moth/rig/demo';
import { setStage, shoot } from '@steady-moth/rig/render';
import { type Scene, toScene } from '@steady-moth/rig/scene';
import { describe, expect, it } from 'vitest';
import type { Pixels } from '../raster';
import type { PlaneSeen } from './planeSeen';
import { snapCircle } from './snapCircle';

/* A round hole in a thin bright sheet on a dark bench, so that it has one rim and no shadow beside it; the plane's map is the simulated camera's own. */
const sceneOf = (thickness: number): Scene => ({
  ...LATCH_PLATE_SCENE,
  film: { blurPx: 0.9, noise: 2, sharpening: 0, toneCurve: 0, vignette: 0 },
  items: [{ ...LATCH_PLATE_SCENE.items[0], thickness, wear: 0, colour: [0.5, 0.5, 0.5] } as Scene['items'][number]],
  benchTone: 0.03,
  camera: { ...LATCH_PLATE_SCENE.camera, tilt: 0.2, radial: [0, 0, 0], decentring: [0, 0] },
});
const SCENE = sceneOf(0.05);
const camera = buildCamera(SCENE.camera);
const place = (x: number, y: number): [number, number] => {
  const [sx, sy] = toScene(SCENE.items[0]!.lie, x, y);
  return pictureOf(camera, { x: sx, y: sy, z: 0.05 }) ?? [0, 0];
};
const [cu, cv] = place(11, 35.5);
const frame = { left: Math.round(cu) - 130, top: Math.round(cv) - 130, width: 260, height: 260 };
function taken(scene: Scene): Pixels {
  const rgb = shoot(setStage(scene), frame).pixels;
  const data = new Uint8ClampedArray(260 * 260 * 4).fill(255);
  for (let k = 0; k < 260 * 260; k++) data.set(rgb.subarray(3 * k, 3 * k + 3), 4 * k);
  return { width: 260, height: 260, data };
}
const pixels = taken(SCENE);

/** Plane places to the frame, and back by Newton: the camera's mathematics both ways. */
const plane: PlaneSeen = {
  toPicture: ({ x, y }) => {
    const [u, v] = place(x, y);
    return { uPx: u - frame.left, vPx: v - frame.top };
  },
  toPlane({ uPx, vPx }) {
    let [x, y] = [11, 35.5];
    for (let n = 0; n < 8; n++) {
      const [u, v] = place(x, y);
      const [ux, vx] = place(x + 1e-3, y);
      const [uy, vy] = place(x, y + 1e-3);
      const [a, b, c, d] = [(ux - u) / 1e-3, (uy - u) / 1e-3, (vx - v) / 1e-3, (vy - v) / 1e-3];
      const [ru, rv] = [uPx + frame.left - u, vPx + frame.top - v];
      const det = a * d - b * c;
      x += (d * ru - b * rv) / det;
      y += (a * rv - c * ru) / det;
    }
    return { x, y };
  },
};

describe('snapCircle', () => {
  it.each([
    [11, 35.5, 4.5],
    [10.6, 35.9, 3.9],
    [11.3, 35.2, 5],
  ])('settles on the hole when drawn about (%d, %d) with radius %d', (x, y, radius) => {
    const found = snapCircle(pixels, plane, { centre: { x, y }, radius });
    expect(found?.used).toBeGreaterThan(30);
    expect(Math.abs(2 * (found?.radius ?? 0) - 9)).toBeLessThan(0.03);
    expect(Math.hypot((found?.centre.x ?? 0) - 11, (found?.centre.y ?? 0) - 35.5)).toBeLessThan(0.03);
  });

  it('leaves a circle alone where there is nothing round', () => {
    const flat: Pixels = { width: 260, height: 260, data: new Uint8ClampedArray(260 * 260 * 4).fill(90) };
    expect(snapCircle(flat, plane, { centre: { x: 11, y: 35.5 }, radius: 4.5 })).toBeNull();
  });

  it('tells where the lower rim of a hole shows beside the upper one, and does not follow it', () => {
    const thick = taken(sceneOf(1.2));
    // The upper side is nearer to the camera: seen on the plane of the map, the hole is a little larger and moved.
    const drawn = { centre: { x: 11, y: 35.5 }, radius: 4.55 };
    const found = snapCircle(thick, plane, drawn);
    const alone = snapCircle(pixels, plane, drawn);
    expect(alone?.beside).toEqual([]);
    expect(found?.beside.length).toBeGreaterThan(3);
    for (const { place: at, other } of found?.beside ?? []) {
      const there = plane.toPlane(other);
      const from = (p: { x: number; y: number } | null) =>
        p && found ? Math.hypot(p.x - found.centre.x, p.y - found.centre.y) : Number.NaN;
      expect(from(there)).toBeLessThan(from(at));
    }
  });
});

/** Rings of ink or steps of brightness round the middle, each pixel the mean of what lies within it. */
function rings(lightAt: (radius: number) => number): Pixels {
  const size = 200;
  const data = new Uint8ClampedArray(size * size * 4).fill(255);
  const FINE = 4;
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) {
      let sum = 0;
      for (let j = 0; j < FINE; j++)
        for (let i = 0; i < FINE; i++)
          sum += lightAt(Math.hypot(x + (i + 0.5) / FINE - 100.3, y + (j + 0.5) / FINE - 99.6));
      data.fill(sum / FINE ** 2, (y * size + x) * 4, (y * size + x) * 4 + 3);
    }
  return { width: size, height: size, data };
}
const asItIs: PlaneSeen = {
  toPlane: ({ uPx, vPx }) => ({ x: uPx, y: vPx }),
  toPicture: ({ x, y }) => ({ uPx: x, vPx: y }),
};
const about = (radius: number) => ({ centre: { x: 100, y: 100 }, radius });

describe('a circle between two rims', () => {
  // The near rim is faint, the far one strong: bright plate, its wall, and the dark ground through the hole.
  const pixels = rings((r) => (r > 56 ? 170 : r > 49 ? 130 : 20));

  it.each([
    [56.6, 56],
    [48.3, 49],
    [54, 56],
    [50.5, 49],
  ])('settles on the one that it was drawn nearer to: %d', (drawn, wanted) => {
    const found = snapCircle(pixels, asItIs, about(drawn));
    expect(Math.abs((found?.radius ?? 0) - wanted)).toBeLessThan(0.15);
    expect(found?.beside.length).toBeGreaterThan(8);
  });
});

describe('a circle of ink', () => {
  const pixels = rings((r) => (Math.abs(r - 41) < 1.6 ? 30 : 245));

  it('is found by the middle of its line, and by an edge of it where an edge is asked for', () => {
    const line = snapCircle(pixels, asItIs, about(43), 'line');
    expect(Math.abs((line?.radius ?? 0) - 41)).toBeLessThan(0.1);
    expect(Math.hypot((line?.centre.x ?? 0) - 100.3, (line?.centre.y ?? 0) - 99.6)).toBeLessThan(0.05);
    // A line broad enough to have edges of its own is still found by its middle, wherever it was drawn.
    for (const [half, drawn] of [
      [3, 41],
      [3, 38.5],
      [5, 44],
    ] as const) {
      const broad = rings((r) => (Math.abs(r - 41) < half ? 30 : 245));
      const middle = snapCircle(broad, asItIs, about(drawn), 'line');
      expect(Math.abs((middle?.radius ?? 0) - 41)).toBeLessThan(0.1);
    }
    const edge = snapCircle(pixels, asItIs, about(43), 'edge');
    expect(Math.abs(Math.abs((edge?.radius ?? 0) - 41) - 1.6)).toBeLessThan(0.25);
  });
});

describe('a hole whose ground is darker along its rim', () => {
  // As wide as 80 px; what lies below takes less light within two pixels or so of the rim.
  const hole = (thing: number, ground: number, share: number) =>
    rings((r) => {
      let [sum, weights] = [0, 0];
      for (let d = -2.4; d <= 2.4; d += 0.3) {
        const at = r + d;
        const weight = Math.exp(-0.5 * (d / 0.8) ** 2);
        sum += weight * (at > 40 ? thing : ground * (1 - share * Math.max(0, 1 - (40 - at) / 3)));
        weights += weight;
      }
      return sum / weights;
    });

  it.each([
    [110, 150, 0.3],
    [130, 150, 0.3],
    [180, 150, 0.3],
    [90, 170, 0.25],
  ])('is held by its ±, whether anyone says that it is a hole or not: %d in %d', (thing, ground, share) => {
    const pixels = hole(thing, ground, share);
    const [known, unknown] = (['inside', null] as const).map((side) => {
      const found = snapCircle(pixels, asItIs, about(40.5), 'edge', side)!;
      expect(Math.abs(found.radius - 40)).toBeLessThan(2 * found.radiusSigmaPx);
      return found.radiusSigmaPx;
    });
    expect(known).toBeLessThan(unknown!);
    expect(known).toBeLessThan(1);
  });

  it('is measured on its own rim where the foot of its wall is known to be seen on one side', () => {
    // Face, a wall as bright as the face that is seen on the right to 3 px, then the ground.
    const size = 200;
    const data = new Uint8ClampedArray(size * size * 4).fill(255);
    for (let y = 0; y < size; y++)
      for (let x = 0; x < size; x++) {
        let sum = 0;
        for (let j = 0; j < 4; j++)
          for (let i = 0; i < 4; i++) {
            const [u, v] = [x + (i + 0.5) / 4, y + (j + 0.5) / 4];
            const isThrough = Math.hypot(u - 100.3, v - 99.6) < 40 && Math.hypot(u - 97.3, v - 99.6) < 40;
            sum += isThrough ? 60 : 170;
          }
        data.fill(sum / 16, (y * size + x) * 4, (y * size + x) * 4 + 3);
      }
    const pixels = { width: size, height: size, data };
    const seen: PlaneSeen = { ...asItIs, toFoot: ({ x, y }) => ({ uPx: x - 3, vPx: y }) };
    const found = snapCircle(pixels, seen, about(40), 'edge', 'inside')!;
    const blind = snapCircle(pixels, asItIs, about(40), 'edge', 'inside')!;
    expect(Math.abs(found.radius - 40)).toBeLessThan(2 * found.radiusSigmaPx);
    expect(Math.abs(found.radius - 40)).toBeLessThan(Math.abs(blind.radius - 40) / 2);
    expect(Math.hypot(found.centre.x - 100.3, found.centre.y - 99.6)).toBeLessThan(0.6);
  });
});
