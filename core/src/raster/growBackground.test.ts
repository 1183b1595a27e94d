import { describe, expect, it } from 'vitest';
import { seededRandom } from '../numeric';
import { buildClearTable, clearBackground } from './clearBackground';
import { clearGround, growBackground } from './growBackground';
import type { Pixels } from './patch';

const [W, H] = [320, 240];
type Colour = readonly [number, number, number];
interface Lit {
  colour: Colour;
  part: boolean;
}

/** A picture by what is at each place, with grain; and what of it is the part. */
function scene(at: (x: number, y: number) => Lit, grain = 2): { pixels: Pixels; part: boolean[] } {
  const random = seededRandom(7);
  const data = new Uint8ClampedArray(4 * W * H);
  const part: boolean[] = [];
  for (let k = 0; k < W * H; k++) {
    const { colour, part: own } = at(k % W, Math.floor(k / W));
    const noise = grain * (random() + random() + random() - 1.5);
    for (let c = 0; c < 3; c++) data[4 * k + c] = colour[c]! + noise;
    data[4 * k + 3] = 255;
    part.push(own);
  }
  return { pixels: { width: W, height: H, data }, part };
}

/** Shares of the ground that is gone and of the part that stays, but for two pixels along the rim. */
function shares(cleared: Uint8ClampedArray, part: readonly boolean[]): { gone: number; stays: number } {
  const inside = (k: number) => [-2, 2, -2 * W, 2 * W].every((d) => (part[k + d] ?? part[k]) === part[k]);
  let [ground, gone, whole, stays] = [0, 0, 0, 0];
  for (let k = 0; k < part.length; k++) {
    if (!inside(k)) continue;
    if (part[k]) {
      whole++;
      if (cleared[4 * k + 3]! > 200) stays++;
    } else {
      ground++;
      if (cleared[4 * k + 3]! < 55) gone++;
    }
  }
  return { gone: gone / ground, stays: stays / whole };
}

function clearedFrom({ pixels, part }: ReturnType<typeof scene>, places: [number, number][], tolerance = 0.07) {
  const ground = growBackground(
    pixels,
    places.map(([uPx, vPx]) => ({ uPx, vPx })),
    tolerance,
  );
  const data = pixels.data.slice();
  clearGround(data as Uint8ClampedArray, ground.data as Uint8ClampedArray, tolerance);
  return shares(data as Uint8ClampedArray, part);
}

const gray = (v: number): Colour => [v, v, v];
const inDisc = (x: number, y: number, cx: number, cy: number, r: number) => Math.hypot(x - cx, y - cy) < r;
/** A paper that the lamp leaves dark on one side, as bright in its middle as the part. */
const shaded = (x: number, y: number): number => 80 + (140 * x) / W + (20 * y) / H;

describe('a background that shades from dark to bright', () => {
  const plate = scene((x, y) =>
    inDisc(x, y, 240, 120, 50) ? { colour: gray(150), part: true } : { colour: gray(shaded(x, y)), part: false },
  );

  it('is not to be had by one colour: what takes the ground takes the part', () => {
    for (const tolerance of [0.05, 0.1, 0.2, 0.3, 0.4]) {
      const data = plate.pixels.data.slice() as Uint8ClampedArray;
      clearBackground(data, buildClearTable({ colour: [150, 150, 150], tolerance }));
      const { gone, stays } = shares(data, plate.part);
      expect(Math.min(gone, stays)).toBeLessThan(0.7);
    }
  });

  it('goes from one place in it, and leaves the part', () => {
    const { gone, stays } = clearedFrom(plate, [[10, 10]]);
    expect(gone).toBeGreaterThan(0.995);
    expect(stays).toBeGreaterThan(0.995);
  });

  it('goes with most of the soft shadow that the part casts', () => {
    const shadow = (x: number, y: number) => 45 / (1 + Math.exp((Math.hypot(x - 250, y - 128) - 60) / 6));
    const lit = scene((x, y) =>
      inDisc(x, y, 240, 120, 50)
        ? { colour: [60, 66, 80], part: true }
        : { colour: gray(shaded(x, y) - shadow(x, y)), part: false },
    );
    const { gone, stays } = clearedFrom(lit, [[10, 10]]);
    expect(gone).toBeGreaterThan(0.95);
    expect(stays).toBeGreaterThan(0.995);
  });

  it('does not creep through the shadow into a part of another colour, be its edge as soft as the shadow', () => {
    const lit = scene((x, y) => {
      const d = Math.hypot(x - 160, y - 120) - 60;
      const part = 1 / (1 + Math.exp(d / 2.5));
      const shade = 1 - 0.65 / (1 + Math.exp((Math.hypot(x - 162, y - 130) - 64) / 5));
      const mix = (own: number, ground: number) => part * own * 0.6 + (1 - part) * ground * shade;
      return { colour: [mix(60, 140), mix(95, 120), mix(105, 100)], part: d < 0 };
    });
    const { gone, stays } = clearedFrom(lit, [[10, 10]]);
    expect(gone).toBeGreaterThan(0.9);
    expect(stays).toBeGreaterThan(0.97);
  });

  it('stays inside a hole until that is pressed as well', () => {
    const ring = scene((x, y) => {
      const part = inDisc(x, y, 200, 120, 60) && !inDisc(x, y, 200, 120, 25);
      return { colour: part ? gray(30) : gray(shaded(x, y)), part };
    });
    const one = clearedFrom(ring, [[10, 10]]);
    expect(one.gone).toBeLessThan(0.98);
    const both = clearedFrom(ring, [
      [10, 10],
      [200, 120],
    ]);
    expect(both.gone).toBeGreaterThan(0.995);
    expect(both.stays).toBeGreaterThan(0.995);
  });

  it('goes where wood has a grain', () => {
    const wood = scene((x, y) => {
      const line = 12 * Math.sin(y / 2.3 + 2 * Math.sin(x / 60));
      const part = inDisc(x, y, 160, 120, 60);
      return { colour: part ? [60, 90, 140] : [150 + line, 120 + line, 85 + line], part };
    }, 4);
    const { gone, stays } = clearedFrom(wood, [[10, 10]]);
    expect(gone).toBeGreaterThan(0.98);
    expect(stays).toBeGreaterThan(0.995);
  });
});

describe('growBackground', () => {
  it('goes nowhere from a place outside of the picture, and never past an edge', () => {
    const two = scene((x) => ({ colour: x < W / 2 ? gray(90) : gray(130), part: x >= W / 2 }), 0);
    const none = growBackground(two.pixels, [{ uPx: -5, vPx: 4 }], 0.1);
    expect(none.data.every((v) => v === 0)).toBe(true);
    const { data } = growBackground(two.pixels, [{ uPx: 5, vPx: 5 }], 0.1);
    const opacity = (x: number) => data[4 * (100 * W + x) + 3];
    expect([opacity(10), opacity(150), opacity(158), opacity(161), opacity(170)]).toEqual([255, 255, 128, 128, 0]);
  });
});
