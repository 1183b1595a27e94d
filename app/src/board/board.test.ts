import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boardMapper, liesAt, pxPerUnit, rectOutline, wholeOf } from '../frames/boardMap';
import { fitView, fromScreen, panBy, rulerStep, toScreen, type View, zoomAbout } from '../frames/view';
import { nudged } from './nudge';

const view: fc.Arbitrary<View> = fc.record({
  x: fc.double({ min: -500, max: 500, noNaN: true }),
  y: fc.double({ min: -500, max: 500, noNaN: true }),
  scale: fc.double({ min: 0.05, max: 500, noNaN: true }),
  width: fc.constant(800),
  height: fc.constant(600),
});
const screen = fc.record({
  x: fc.double({ min: 0, max: 800, noNaN: true }),
  y: fc.double({ min: 0, max: 600, noNaN: true }),
});
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
    expect(toScreen(panBy(v, 10, 4), { x: 50, y: 50 })).toEqual({ x: 90, y: 96 });
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
        const place = mapper.toBoard({ uPx: 30, vPx: 70 });
        const back = place && mapper.toPicture(place);
        expect(back?.uPx).toBeCloseTo(30, 9);
        expect(back?.vPx).toBeCloseTo(70, 9);
      }
    // The left top corner, seen from behind, is at the right; turned once clockwise after that, at the bottom.
    const corner = (turns: 0 | 1) =>
      boardMapper({ kind: 'picture', turns, flip: true, widthPx: 400, heightPx: 300 }).toBoard({ uPx: 0, vPx: 0 });
    expect(corner(0)).toEqual({ x: 400, y: 0 });
    expect(corner(1)).toEqual({ x: 300, y: 400 });
  });

  it('has y up for the part and down for the screen', () => {
    const mapper = boardMapper({ ...FACE, map: MAP });
    const low = mapper.toBoard({ uPx: 2000, vPx: 2500 });
    const high = mapper.toBoard({ uPx: 2000, vPx: 500 });
    expect((low?.y ?? 0) > (high?.y ?? 0)).toBe(true);
    const back = low && mapper.toPicture(low);
    expect(back?.vPx).toBeCloseTo(2500, 6);
  });

  it('knows what a pixel is worth, and its whole outline', () => {
    const mapper = boardMapper({ ...FACE, map: MAP });
    expect(pxPerUnit(mapper, { x: 0, y: 0 })).toBeCloseTo(3000 / 300, 0);
    expect(rectOutline(mapper, wholeOf({ widthPx: 4000, heightPx: 3000 }))).toHaveLength(32);
  });

  it('moves a point by an arrow key in px or mm', () => {
    const mapper = boardMapper({ ...FACE, map: MAP });
    const from = { uPx: 2000, vPx: 1500 };
    expect(nudged(mapper, from, { unit: 'px', size: 0.1 }, 'ArrowRight')).toEqual({ uPx: 2000.1, vPx: 1500 });
    const up = nudged(mapper, from, { unit: 'mm', size: 1 }, 'ArrowUp');
    const [a, b] = [mapper.toBoard(from), up && mapper.toBoard(up)];
    expect((a?.y ?? 0) - (b?.y ?? 0)).toBeCloseTo(1, 9);
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
