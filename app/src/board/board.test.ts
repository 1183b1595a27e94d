import { pxPerUnit } from '@steady-moth/core/sketch';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boardMapper, clipOutline, liesAt, rectOutline, wholeOf } from '../frames/boardMap';
import { screenPlace } from '../frames/place';
import { fitView, fromScreen, panBy, rulerStep, toScreen, type View, zoomAbout } from '../frames/view';
import { nudged } from './nudge';

const view: fc.Arbitrary<View> = fc.record({
  x: fc.double({ min: -500, max: 500, noNaN: true }),
  y: fc.double({ min: -500, max: 500, noNaN: true }),
  scale: fc.double({ min: 0.05, max: 500, noNaN: true }),
  width: fc.constant(800),
  height: fc.constant(600),
});
const screen = fc
  .tuple(fc.double({ min: 0, max: 800, noNaN: true }), fc.double({ min: 0, max: 600, noNaN: true }))
  .map(([x, y]) => screenPlace(x, y));
const MAP = {
  lens: 'photo' as const,
  flip: false,
  parameters: [Math.log(3000), 2010, 1490, 0.03, 0, 0.12, -0.05, Math.log(300)],
  heightMm: 2,
  zero: [5, -7] as [number, number],
  turn: 0.2,
};

const FACE = { kind: 'true', heights: {}, turned: null } as const;

describe('the view', () => {
  it('finds a place on screen and back', () => {
    fc.assert(
      fc.property(view, screen, (v, s) => {
        const back = toScreen(v, fromScreen(v, s));
        expect(Math.hypot(back.x - s.x, back.y - s.y)).toBeLessThan(1e-6);
      }),
    );
  });

  it('keeps the place under the pointer when it zooms, within its bounds', () => {
    fc.assert(
      fc.property(view, screen, fc.double({ min: 0.01, max: 100, noNaN: true }), (v, at, factor) => {
        const zoomed = zoomAbout(v, at, factor, { least: 0.1, most: 100 });
        const [before, after] = [fromScreen(v, at), fromScreen(zoomed, at)];
        expect(Math.hypot(before.x - after.x, before.y - after.y)).toBeLessThan(1e-6 * (1 + Math.abs(before.x)));
        expect(zoomed.scale).toBeGreaterThanOrEqual(0.1);
        expect(zoomed.scale).toBeLessThanOrEqual(100);
      }),
    );
  });

  it('moves the board with everything on it', () => {
    const v: View = { x: 0, y: 0, scale: 2, width: 800, height: 600 };
    // The part's y runs up: what lies below its zero is lower on screen.
    expect(toScreen(panBy(v, 10, 4), { x: 50, y: -50 })).toEqual({ x: 90, y: 96 });
  });

  it('fits all of it in, in the middle', () => {
    const v = fitView(
      [
        { x: 0, y: 0 },
        { x: 100, y: 50 },
      ],
      820,
      620,
      10,
    );
    expect(v.scale).toBe(8);
    expect(toScreen(v, { x: 50, y: 25 })).toEqual({ x: 410, y: 310 });
    expect(toScreen(v, { x: 0, y: 0 })).toEqual({ x: 10, y: 510 });
  });

  it('marks its rulers at round steps', () => {
    for (const [scale, step] of [
      [1, 100],
      [2, 50],
      [10, 10],
      [0.1, 1000],
      [200, 0.5],
    ])
      expect(rulerStep(scale!, 60)).toBeCloseTo(step!, 9);
  });
});

describe('the board', () => {
  it('flips and turns a picture, and finds its pixels back', () => {
    for (const turns of [0, 1, 2, 3] as const)
      for (const flip of [false, true]) {
        const mapper = boardMapper({ kind: 'picture', turns, flip, widthPx: 400, heightPx: 300 });
        const place = mapper.toPlace({ uPx: 30, vPx: 70 });
        const back = place && mapper.toPicture(place);
        expect(back?.uPx).toBeCloseTo(30, 9);
        expect(back?.vPx).toBeCloseTo(70, 9);
      }
    // The left top corner, seen from behind, is at the right; turned once clockwise after that, at the bottom.
    const corner = (turns: 0 | 1) =>
      boardMapper({ kind: 'picture', turns, flip: true, widthPx: 400, heightPx: 300 }).toPlace({ uPx: 0, vPx: 0 });
    expect(corner(0)).toEqual({ x: 400, y: -0 });
    expect(corner(1)).toEqual({ x: 300, y: -400 });
  });

  it('has y up for the part and down for the screen', () => {
    const mapper = boardMapper({ ...FACE, map: MAP });
    const low = mapper.toPlace({ uPx: 2000, vPx: 2500 });
    const high = mapper.toPlace({ uPx: 2000, vPx: 500 });
    expect((low?.y ?? 0) < (high?.y ?? 0)).toBe(true);
    const [below, above] = [low, high].map((p) => p && toScreen({ x: 0, y: 0, scale: 3, width: 800, height: 600 }, p));
    expect((below?.y ?? 0) > (above?.y ?? 0)).toBe(true);
    const back = low && mapper.toPicture(low);
    expect(back?.vPx).toBeCloseTo(2500, 6);
  });

  it('knows what a pixel is worth, and its whole outline', () => {
    const mapper = boardMapper({ ...FACE, map: MAP });
    expect(pxPerUnit(mapper, { x: 0, y: 0 })).toBeCloseTo(3000 / 300, 0);
    expect(rectOutline(mapper, wholeOf({ widthPx: 4000, heightPx: 3000 }))).toHaveLength(32);
  });

  it('straightens a crop with the page: level, about its own middle, as large as it is there', () => {
    const rect = { leftPx: 1000, topPx: 900, widthPx: 1200, heightPx: 500 };
    for (const turn of [-0.05, 0.03, Math.PI / 2 + 0.04, Math.PI - 0.02]) {
      // Flat on, 10 px a millimetre, so that the crop is 120 × 50 mm however the page lies.
      const map = { ...MAP, parameters: [Math.log(3000), 2000, 1500, 0, 0, 0, 0, Math.log(300)], heightMm: 0, turn };
      const outline = clipOutline({ ...FACE, map }, rect);
      const [xs, ys] = [outline.map((p) => p.x), outline.map((p) => p.y)];
      const size = [Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)];
      expect(outline).toHaveLength(4);
      for (let k = 0; k < 4; k++) {
        const [p, q] = [outline[k]!, outline[(k + 1) % 4]!];
        expect(Math.min(Math.abs(p.x - q.x), Math.abs(p.y - q.y))).toBe(0);
      }
      expect(Math.max(...size)).toBeCloseTo(120, 3);
      expect(Math.min(...size)).toBeCloseTo(50, 3);
      const middle = boardMapper({ ...FACE, map }).toPlace({ uPx: 1600, vPx: 1150 })!;
      expect(xs.reduce((a, b) => a + b) / 4).toBeCloseTo(middle.x, 3);
      expect(ys.reduce((a, b) => a + b) / 4).toBeCloseTo(middle.y, 3);
    }
    const plain = { kind: 'picture', turns: 0, flip: false, widthPx: 4000, heightPx: 3000 } as const;
    expect(clipOutline(plain, rect)).toEqual(rectOutline(boardMapper(plain), rect));
  });

  it('moves a point by an arrow key in px or mm', () => {
    const mapper = boardMapper({ ...FACE, map: MAP });
    const from = { uPx: 2000, vPx: 1500 };
    expect(nudged(mapper, from, { unit: 'px', size: 0.1 }, 'ArrowRight')).toEqual({ uPx: 2000.1, vPx: 1500 });
    const up = nudged(mapper, from, { unit: 'mm', size: 1 }, 'ArrowUp');
    const [a, b] = [mapper.toPlace(from), up && mapper.toPlace(up)];
    expect((b?.y ?? 0) - (a?.y ?? 0)).toBeCloseTo(1, 9);
    expect(nudged(mapper, from, { unit: 'mm', size: 1 }, 'a')).toBeNull();
  });
});

describe('how a picture lies on the board', () => {
  it('is told as it was turned and flipped', () => {
    for (const turns of [0, 1, 2, 3] as const)
      for (const flip of [false, true]) {
        const mapper = boardMapper({ kind: 'picture', turns, flip, widthPx: 400, heightPx: 300 });
        expect(liesAt(mapper, { uPx: 100, vPx: 50 })).toEqual({ turns, flip });
      }
  });
});
