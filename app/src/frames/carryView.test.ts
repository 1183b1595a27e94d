import type { PictureMap } from '@steady-moth/core/sketch';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { carryView, isSameView } from './carryView';
import { toScreen, type View } from './view';

/** A picture that lies turned and larger on the board, moved to a place. */
function lying(angle: number, perPx: number, x: number, y: number): PictureMap {
  const [c, s] = [perPx * Math.cos(angle), perPx * Math.sin(angle)];
  const square = perPx * perPx;
  return {
    toPlace: ({ uPx, vPx }) => ({ x: x + c * uPx - s * vPx, y: y + s * uPx + c * vPx }),
    toPicture: (p) => ({
      uPx: (c * (p.x - x) + s * (p.y - y)) / square,
      vPx: (-s * (p.x - x) + c * (p.y - y)) / square,
    }),
  };
}
const view: View = { x: 100, y: 50, scale: 0.5, width: 900, height: 600 };
const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });

describe('a view that is carried', () => {
  it('keeps the pixel in its middle there, and every pixel as far from it on screen as before', () => {
    const lies = fc.tuple(number(-3, 3), number(0.01, 20), number(-500, 500), number(-500, 500));
    fc.assert(
      fc.property(lies, lies, number(0, 2000), number(0, 2000), (a, b, uPx, vPx) => {
        const [from, to] = [lying(...a), lying(...b)];
        const carried = carryView(view, from, to);
        if (!carried) throw new Error('there is one');
        const away = (map: PictureMap, v: View) => {
          const at = toScreen(v, map.toPlace({ uPx, vPx }) as { x: number; y: number });
          return Math.hypot(at.x - v.width / 2, at.y - v.height / 2);
        };
        const [before, after] = [away(from, view), away(to, carried)];
        expect(Math.abs(after / Math.max(before, 1e-6) - 1)).toBeLessThan(1e-4);
      }),
    );
  });

  it('is the same view where nothing changed, and none beyond the horizon', () => {
    const map = lying(0.3, 2, 5, 7);
    expect(isSameView(carryView(view, map, map) as View, view)).toBe(true);
    expect(carryView(view, map, { ...map, toPlace: () => null })).toBeNull();
    expect(isSameView(view, { ...view, x: view.x + 1 })).toBe(false);
  });
});
