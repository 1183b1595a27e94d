import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../numeric';
import type { Pixels } from '../../raster';
import { findGrid, findSheet } from '..';
import { findBoard } from './board/findBoard';
import { findDots } from './dots/findDots';

const [WIDTH, HEIGHT] = [620, 480];

interface View {
  turn: number;
  /** px for each unit of the plane in the middle, and how fast it goes away to both sides. */
  scale: number;
  awayX: number;
  awayY: number;
  seed: number;
}

const view = fc.record({
  turn: fc.double({ min: -Math.PI, max: Math.PI, noNaN: true }),
  scale: fc.double({ min: 0.9, max: 1.1, noNaN: true }),
  awayX: fc.double({ min: -4e-4, max: 4e-4, noNaN: true }),
  awayY: fc.double({ min: -4e-4, max: 4e-4, noNaN: true }),
  seed: fc.integer({ min: 1, max: 1e6 }),
});

/** A plane seen askew: to the picture and back, by closed forms of their own. */
function seenAskew({ turn, scale, awayX, awayY }: View) {
  const [c, s] = [scale * Math.cos(turn), scale * Math.sin(turn)];
  return {
    picture(x: number, y: number): [number, number] {
      const w = 1 + awayX * x + awayY * y;
      return [WIDTH / 2 + (c * x - s * y) / w, HEIGHT / 2 + (s * x + c * y) / w];
    },
    plane(u: number, v: number): [number, number] {
      // (c − p·awayX) x + (−s − p·awayY) y = p, and the like for q.
      const [p, q] = [u - WIDTH / 2, v - HEIGHT / 2];
      const [a, b, d, e] = [c - p * awayX, -s - p * awayY, s - q * awayX, c - q * awayY];
      const det = a * e - b * d;
      return [(p * e - b * q) / det, (a * q - p * d) / det];
    },
  };
}

/** Levels of a plane as a picture of it, each pixel the mean of four, with noise. */
function drawn(askew: ReturnType<typeof seenAskew>, seed: number, level: (x: number, y: number) => number): Pixels {
  const random = seededRandom(seed);
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4).fill(255);
  for (let v = 0; v < HEIGHT; v++)
    for (let u = 0; u < WIDTH; u++) {
      let sum = 0;
      for (const dv of [0.25, 0.75]) for (const du of [0.25, 0.75]) sum += level(...askew.plane(u + du, v + dv)) / 4;
      data.fill(sum + 6 * (random() - 0.5), (v * WIDTH + u) * 4, (v * WIDTH + u) * 4 + 3);
    }
  return { width: WIDTH, height: HEIGHT, data };
}

describe('a drawn grid', () => {
  it('is numbered along its own lines, whatever lies on it and however it lies', () => {
    let found = 0;
    const RUNS = 9;
    fc.assert(
      fc.property(
        view,
        fc.record({
          pitch: fc.double({ min: 26, max: 44, noNaN: true }),
          dark: fc.boolean(),
          partX: fc.double({ min: -150, max: 60, noNaN: true }),
          partY: fc.double({ min: -120, max: 40, noNaN: true }),
        }),
        (how, { pitch, dark, partX, partY }) => {
          const askew = seenAskew(how);
          const pixels = drawn(askew, how.seed, (x, y) => {
            if (x > partX && x < partX + 110 && y > partY && y < partY + 90) return 128;
            const off = (t: number) => Math.abs(t / pitch - Math.round(t / pitch)) * pitch;
            const on = Math.min(off(x), off(y)) < 1;
            return dark ? (on ? 60 : 200) : on ? 210 : 70;
          });
          const [u, v] = askew.picture(partX > -50 ? -140 : 140, 0.4 * pitch);
          const result = findGrid(pixels, { uPx: u, vPx: v });
          if (!result.ok) return;
          found += 1;
          const at = result.crossings.map(({ i, j, pick }) => {
            const [x, y] = askew.plane(pick.uPx, pick.vPx);
            const [m, n] = [Math.round(x / pitch), Math.round(y / pitch)];
            // Each on a crossing of the grid that was drawn; beside the part's border that may be
            // taken for a line.
            const bordering = [m * pitch - partX, m * pitch - partX - 110, n * pitch - partY, n * pitch - partY - 90];
            const whole = bordering.every((d) => Math.abs(d) > 0.35 * pitch);
            expect(Math.hypot(x - m * pitch, y - n * pitch)).toBeLessThan(whole ? 0.6 : 4);
            return { i, j, m, n };
          });
          // Numbers count along the grid's own ways, turned or mirrored as they may be: two crossings tell how.
          const first = at[0]!;
          for (const { i, j, m, n } of at)
            expect([Math.abs(i - first.i), Math.abs(j - first.j)].sort()).toEqual(
              [Math.abs(m - first.m), Math.abs(n - first.n)].sort(),
            );
          // None is found well inside the part.
          const [px, py] = [partX + 12, partY + 12];
          for (const { m, n } of at) {
            const [x, y] = [m * pitch, n * pitch];
            expect(x > px && x < px + 86 && y > py && y < py + 66).toBe(false);
          }
        },
      ),
      { numRuns: RUNS, seed: 3 },
    );
    // Small pictures with a large part on the grid are refused now and then.
    expect(found).toBeGreaterThan(0.5 * RUNS);
  }, 120_000);
});

describe('a drawn sheet', () => {
  it('is found by its four edges, however it lies, with anything printed on it', () => {
    let found = 0;
    const RUNS = 10;
    fc.assert(
      fc.property(
        view,
        fc.record({
          wide: fc.double({ min: 150, max: 300, noNaN: true }),
          ratio: fc.double({ min: 0.55, max: 0.8, noNaN: true }),
          printed: fc.boolean(),
        }),
        (how, { wide, ratio, printed }) => {
          const askew = seenAskew(how);
          const [w, h] = [wide / 2, (wide * ratio) / 2];
          const pixels = drawn(askew, how.seed, (x, y) => {
            if (Math.abs(x) > w || Math.abs(y) > h) return 75 + 12 * Math.sin(x / 17) * Math.cos(y / 23);
            const on = printed && Math.abs(y - 0.2 * h) < 3 && Math.abs(x) < 0.6 * w;
            return on ? 120 : 215;
          });
          const [u, v] = askew.picture(0.1 * w, -0.3 * h);
          const result = findSheet(pixels, { uPx: u, vPx: v });
          if (!result.ok) return;
          found += 1;
          for (const edge of result.edges) {
            expect(edge.length).toBeGreaterThan(4);
            for (const p of edge) {
              const [x, y] = askew.plane(p.uPx, p.vPx);
              expect(Math.min(Math.abs(Math.abs(x) - w), Math.abs(Math.abs(y) - h))).toBeLessThan(0.8);
            }
          }
          // Opposite edges are opposite ones: the middles of the first and the third lie across the sheet.
          const middle = (k: number) => {
            const places = result.edges[k]!.map((p) => askew.plane(p.uPx, p.vPx));
            return places.reduce(([a, b], [x, y]) => [a + x / places.length, b + y / places.length], [0, 0]);
          };
          for (const k of [0, 1]) {
            const [a, b] = [middle(k), middle(k + 2)];
            expect(Math.hypot(a[0] + b[0], a[1] + b[1])).toBeLessThan(0.2 * wide);
            expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeGreaterThan(0.4 * wide);
          }
        },
      ),
      { numRuns: RUNS, seed: 5 },
    );
    expect(found).toBeGreaterThan(0.8 * RUNS);
  }, 120_000);
});

describe('a drawn checkerboard', () => {
  const level =
    (square: number, columns: number, rows: number, covered = 0) =>
    (x: number, y: number) => {
      const [i, j] = [Math.floor(x / square + columns / 2), Math.floor(y / square + rows / 2)];
      // What lies on it: a gray part about the middle.
      if (Math.hypot(x, y) < covered) return 128;
      if (i < 0 || j < 0 || i >= columns || j >= rows) return 225;
      // Blurred by a pixel, as every lens does: of sharper edges two samples a pixel do not tell where they are.
      const side = (v: number) => {
        const off = v / square - Math.round(v / square);
        return (Math.round(v / square) % 2 === 0 ? 1 : -1) * Math.max(-1, Math.min(1, off * square));
      };
      return 125 - 95 * side(x) * side(y);
    };

  it('is found from any click on it, its corners to a tenth of a pixel, whatever covers some of them', () => {
    const offs: number[] = [];
    fc.assert(
      fc.property(view, fc.constantFrom(14, 22, 40), fc.constantFrom(0, 1.6), (askewView, square, share) => {
        const covered = share * square;
        const askew = seenAskew(askewView);
        const [columns, rows] = [10, 8];
        const pixels = drawn(askew, askewView.seed, level(square, columns, rows, covered));
        const [u, v] = askew.picture(2.2 * square, -1.4 * square);
        const found = findBoard(pixels, { uPx: u, vPx: v });
        if (!found) throw new Error(`none of ${square}`);
        for (const { pick } of found.crossings) {
          const [x, y] = askew.plane(pick.uPx, pick.vPx);
          const [i, j] = [Math.round(x / square), Math.round(y / square)];
          const [tu, tv] = askew.picture(i * square, j * square);
          offs.push(Math.hypot(tu - pick.uPx, tv - pick.vPx));
        }
        const inside = (n: number) => n >= 0 && n < 620;
        const whole = [-1, 1].every((a) =>
          [-1, 1].every((b) => askew.picture((a * square * columns) / 2, (b * square * rows) / 2).every(inside)),
        );
        if (whole && covered === 0) expect(found.crossings.length).toBeGreaterThan(55);
      }),
      { numRuns: 8 },
    );
    expect(offs.length).toBeGreaterThan(200);
    offs.sort((a, b) => a - b);
    expect(offs[offs.length >> 1]).toBeLessThan(0.12);
    // Beside what covers others an edge of it lies in the window.
    expect(offs[offs.length - 1]).toBeLessThan(0.5);
  });

  it('is none where there is only texture, and none in stripes', () => {
    const still = seenAskew({ turn: 0.3, scale: 1, awayX: 1e-4, awayY: 0, seed: 5 });
    const random = seededRandom(9);
    const blots = Array.from({ length: 60 }, () => [620 * (random() - 0.5), 480 * (random() - 0.5), 6 + 16 * random()]);
    const texture = drawn(still, 5, (x, y) => (blots.some(([a, b, r]) => Math.hypot(x - a!, y - b!) < r!) ? 60 : 190));
    const stripes = drawn(still, 6, (x) => (Math.floor(x / 15) % 2 ? 40 : 210));
    for (const pixels of [texture, stripes]) expect(findBoard(pixels, null)).toBeNull();
  });
});

describe('a drawn grid of dots', () => {
  /** Dots of so much of the pitch across; in gaps every second row is moved by half, as the holes of a sieve. */
  const dots =
    (pitch: number, columns: number, rows: number, wide: number, isDark: boolean, gaps = false, covered = 0) =>
    (x: number, y: number) => {
      if (Math.hypot(x, y) < covered) return 128;
      const j = Math.round(y / pitch + (rows - 1) / 2);
      const moved = gaps && j % 2 !== 0 ? 0.5 : 0;
      const i = Math.round(x / pitch + (columns - 1) / 2 - moved);
      const [cx, cy] = [(i + moved - (columns - 1) / 2) * pitch, (j - (rows - 1) / 2) * pitch];
      const isIn = i >= 0 && j >= 0 && i < columns && j < rows;
      const off = (wide * pitch) / 2 - Math.hypot(x - cx, y - cy);
      // Blurred by a pixel; the light falls off from left to right.
      const on = isIn ? Math.max(0, Math.min(1, off + 0.5)) : 0;
      const ground = (isDark ? 205 : 70) + 0.06 * x;
      return ground + (isDark ? -140 : 140) * on;
    };

  it('is found from any click on it, the middles of its dots to a tenth of a pixel, dark and light, covered in part', () => {
    const offs: number[] = [];
    const strains: number[] = [];
    fc.assert(
      fc.property(
        view,
        fc.constantFrom(18, 26, 38),
        fc.constantFrom(0.3, 0.5),
        fc.boolean(),
        fc.boolean(),
        (askewView, pitch, wide, isDark, isCovered) => {
          const askew = seenAskew(askewView);
          const [columns, rows] = [11, 8];
          const level = dots(pitch, columns, rows, wide, isDark, false, isCovered ? 1.7 * pitch : 0);
          const pixels = drawn(askew, askewView.seed, level);
          const [u, v] = askew.picture(2.5 * pitch, -2 * pitch);
          const found = findGrid(pixels, { uPx: u, vPx: v });
          if (!found.ok) throw new Error(`none of ${pitch}: ${found.reason}`);
          for (const { pick } of found.crossings) {
            const [x, y] = askew.plane(pick.uPx, pick.vPx);
            const [i, j] = [Math.round(x / pitch), Math.round(y / pitch - 0.5) + 0.5];
            const [tu, tv] = askew.picture(i * pitch, j * pitch);
            offs.push(Math.hypot(tu - pick.uPx, tv - pick.vPx));
            strains.push(Math.hypot(tu - pick.uPx, tv - pick.vPx) / pick.sigmaPx);
          }
          // Their numbers go on by one from each to the next.
          const at = new Map(found.crossings.map((c) => [`${c.i} ${c.j}`, askew.plane(c.pick.uPx, c.pick.vPx)]));
          for (const { i, j } of found.crossings) {
            const [a, b] = [at.get(`${i} ${j}`)!, at.get(`${i + 1} ${j}`)];
            if (b) expect(Math.hypot(b[0] - a[0], b[1] - a[1]) / pitch).toBeCloseTo(1, 1);
          }
        },
      ),
      { numRuns: 10 },
    );
    expect(offs.length).toBeGreaterThan(300);
    offs.sort((a, b) => a - b);
    strains.sort((a, b) => a - b);
    expect(offs[offs.length >> 1]).toBeLessThan(0.1);
    expect(offs[Math.floor(0.97 * offs.length)]).toBeLessThan(0.3);
    // σ along each of two axes: a place lies within 2.45 of them in 95 of 100.
    expect(strains[Math.floor(0.95 * strains.length)]).toBeLessThan(3.5);
  }, 120_000);

  it('is none of dots in gaps, of dots here and there, of letters, and of the squares of a checkerboard', () => {
    const still = seenAskew({ turn: 0.2, scale: 1, awayX: 1e-4, awayY: 0, seed: 5 });
    const sieve = drawn(still, 5, dots(24, 14, 12, 0.4, true, true));
    const random = seededRandom(4);
    const spots = Array.from({ length: 90 }, () => [620 * (random() - 0.5), 480 * (random() - 0.5)]);
    const strewn = drawn(still, 6, (x, y) => (spots.some(([a, b]) => Math.hypot(x - a!, y - b!) < 5) ? 60 : 190));
    const bars = drawn(still, 7, (x, y) => (Math.abs((x % 14) - 4) < 2 && Math.abs((y % 30) - 9) < 8 ? 50 : 200));
    const squares = [9, 16, 30].map((side) =>
      drawn(still, 8, (x, y) => ((Math.floor(x / side) + Math.floor(y / side)) % 2 === 0 ? 60 : 200)),
    );
    for (const [k, pixels] of [sieve, strewn, bars, ...squares].entries())
      expect(findDots(pixels, null), String(k)).toBeNull();
  });
});
