import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../numeric';
import type { Pixels } from '../../raster';
import { findSheet } from '..';

const [WIDTH, HEIGHT] = [1240, 960];
type Level = readonly [number, number, number];
/** A colour of the plane, mm from its middle. */
type Drawing = (x: number, y: number) => Level;

const TURN = 0.31;
/** The plane seen askew, 4 px for each mm in the middle: to the picture, and back. */
function toPicture(x: number, y: number): [number, number] {
  const w = 1 + 8e-4 * x - 5e-4 * y;
  const [c, s] = [4 * Math.cos(TURN), 4 * Math.sin(TURN)];
  return [WIDTH / 2 + (c * x - s * y) / w, HEIGHT / 2 + (s * x + c * y) / w];
}
function toPlane(u: number, v: number): [number, number] {
  const [p, q] = [u - WIDTH / 2, v - HEIGHT / 2];
  const [c, s] = [4 * Math.cos(TURN), 4 * Math.sin(TURN)];
  const [a, b, d, e] = [c - 8e-4 * p, -s + 5e-4 * p, s - 8e-4 * q, c + 5e-4 * q];
  const det = a * e - b * d;
  return [(p * e - b * q) / det, (a * q - p * d) / det];
}

/** Each pixel the mean of four, with light that falls off by a fifth, and noise. */
function drawn(drawing: Drawing, seed = 7): Pixels {
  const random = seededRandom(seed);
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4).fill(255);
  for (let v = 0; v < HEIGHT; v++)
    for (let u = 0; u < WIDTH; u++) {
      const sum = [0, 0, 0];
      for (const dv of [0.25, 0.75])
        for (const du of [0.25, 0.75]) {
          const own = drawing(...toPlane(u + du, v + dv));
          for (let c = 0; c < 3; c++) sum[c]! += own[c]! / 4;
        }
      const light = 1 - 0.2 * (u / WIDTH);
      for (let c = 0; c < 3; c++) data[(v * WIDTH + u) * 4 + c] = light * sum[c]! + 8 * (random() - 0.5);
    }
  return { width: WIDTH, height: HEIGHT, data };
}

const within = (x: number, y: number, w: number, h: number): boolean => Math.abs(x) < w / 2 && Math.abs(y) < h / 2;
const WHITE: Level = [232, 230, 226];
const INK: Level = [60, 60, 66];
const oak = (x: number, y: number): Level => {
  const grain = 10 * Math.sin(1.3 * y + 0.4 * Math.sin(x / 15));
  return [170 + grain, 138 + grain, 106 + grain];
};
const [W, H] = [150, 106];

/** Where a sheet of `w` × `h` mm about the middle is clicked, and what its places are off its own sides, mm. */
function clickedAt(pixels: Pixels, x: number, y: number, [w, h]: readonly [number, number] = [W, H]) {
  const [u, v] = toPicture(x, y);
  const found = findSheet(pixels, { uPx: u, vPx: v });
  if (!found.ok) throw new Error(found.reason);
  const sides = found.edges.map((edge) => {
    const offs = [
      (p: readonly number[]) => Math.abs(p[0]! + w / 2),
      (p: readonly number[]) => Math.abs(p[0]! - w / 2),
      (p: readonly number[]) => Math.abs(p[1]! + h / 2),
      (p: readonly number[]) => Math.abs(p[1]! - h / 2),
    ].map((off) => Math.max(...edge.map((p) => off(toPlane(p.uPx, p.vPx)))));
    return { side: offs.indexOf(Math.min(...offs)), off: Math.min(...offs) };
  });
  return { ...found, sides: new Set(sides.map((s) => s.side)).size, off: Math.max(...sides.map((s) => s.off)) };
}

describe('a sheet told by its sides', () => {
  it('on grained wood whose lines are as long', () => {
    const { sides, off, missingCorners } = clickedAt(
      drawn((x, y) => (within(x, y, W, H) ? WHITE : oak(x, y))),
      20,
      10,
    );
    expect(sides).toBe(4);
    expect(off).toBeLessThan(0.4);
    expect(missingCorners).toBe(0);
  });

  it('on a board that stands out more than the sheet does', () => {
    const board: Drawing = (x, y) => {
      if (within(x, y, W, H)) return [236, 226, 214];
      return within(x - 4, y + 3, 200, 150) ? [206, 196, 186] : [58, 60, 64];
    };
    const { sides, off } = clickedAt(drawn(board), -30, 20);
    expect(sides).toBe(4);
    expect(off).toBeLessThan(0.4);
  });

  it('with a printed frame, print and a dark block on it', () => {
    const printed: Drawing = (x, y) => {
      if (!within(x, y, W, H)) return oak(x, y);
      if (within(x, y, W - 20, H - 20) && !within(x, y, W - 21.4, H - 21.4)) return INK;
      if (within(x - 35, y - 15, 40, 30)) return INK;
      const isText = x < 0 && Math.abs(y % 5) < 1 && Math.sin(3 * x) > 0 && within(x, y, W - 40, H - 40);
      return isText ? INK : WHITE;
    };
    const { sides, off } = clickedAt(drawn(printed), -20, 32);
    expect(sides).toBe(4);
    expect(off).toBeLessThan(0.4);
  });

  it('half on a dark mat and half on a pale one, where no step is the same all round', () => {
    const mats: Drawing = (x, y) => (within(x, y, W, H) ? [190, 188, 184] : x < 10 ? [70, 74, 80] : [238, 238, 236]);
    const { sides, off } = clickedAt(drawn(mats), 20, 10);
    expect(sides).toBe(4);
    expect(off).toBeLessThan(0.4);
  });

  it('as a card with round corners, none of which is missing', () => {
    const card: Drawing = (x, y) => {
      const [dx, dy] = [Math.abs(x) - W / 2 + 6, Math.abs(y) - H / 2 + 6];
      const isCut = dx > 0 && dy > 0 && Math.hypot(dx, dy) > 6;
      return within(x, y, W, H) && !isCut ? [96, 128, 150] : oak(x, y);
    };
    const { sides, off, missingCorners } = clickedAt(drawn(card), 20, 10);
    expect(sides).toBe(4);
    expect(off).toBeLessThan(0.4);
    expect(missingCorners).toBe(0);
  });

  it('under another one that covers a corner: the one that was clicked', () => {
    const both: Drawing = (x, y) => {
      const [a, b] = [0.94 * (x - 70) + 0.34 * (y - 50), -0.34 * (x - 70) + 0.94 * (y - 50)];
      if (within(a, b, 70, 60)) return [210, 200, 120];
      return within(x, y, W, H) ? WHITE : oak(x, y);
    };
    const { sides, off, missingCorners } = clickedAt(drawn(both), -20, -10);
    expect(sides).toBe(4);
    expect(off).toBeLessThan(0.4);
    expect(missingCorners).toBe(1);
  });

  it('and tells none on wood alone, beside one edge, on a disc or a triangle', () => {
    const [u, v] = toPicture(5, 5);
    const edge: Drawing = (x) => (x < 20 ? WHITE : INK);
    const disc: Drawing = (x, y) => (Math.hypot(x, y) < 50 ? WHITE : oak(x, y));
    const triangle: Drawing = (x, y) => (y > -30 && y < 60 - 1.2 * Math.abs(x) ? WHITE : oak(x, y));
    for (const drawing of [oak, edge, disc, triangle])
      expect(findSheet(drawn(drawing), { uPx: u, vPx: v }).ok).toBe(false);
  });
});
