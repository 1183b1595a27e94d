import { describe, expect, it } from 'vitest';
import type { BoardFrame } from './boardMap';
import { type Framing, framed } from './framed';
import { fitView, type View } from './view';

const lying = (turns: 0 | 1): BoardFrame => ({ kind: 'picture', turns, flip: false, widthPx: 4000, heightPx: 3000 });
const corners = (frame: BoardFrame) => {
  if (frame.kind !== 'picture') throw new Error('a picture as it is');
  const [w, h] = frame.turns ? [frame.heightPx, frame.widthPx] : [frame.widthPx, frame.heightPx];
  return [
    { x: 0, y: 0 },
    { x: w, y: h },
  ];
};
const show = (frame: BoardFrame, width: number, height: number, key = 'plate') => ({
  key,
  frame,
  whole: fitView(corners(frame), width, height, 12),
  staysInPlace: false,
});
/** Shows one after another, as the board does, until nothing changes. */
function through(view: View | null, framing: Framing | null, ...then: ReturnType<typeof show>[]) {
  let now: { view: View | null; framing: Framing | null } = { view, framing };
  for (const to of then) now = framed(now.view, now.framing, to);
  return now as { view: View; framing: Framing };
}

describe('what the board shows when something changes', () => {
  const flat = lying(0);
  const upright = lying(1);

  it('is all of another picture, and of the same one that comes to lie otherwise', () => {
    const first = through(null, null, show(flat, 800, 600));
    expect(first.view).toEqual(show(flat, 800, 600).whole);
    expect(framed(first.view, first.framing, show(upright, 800, 600)).view).toEqual(show(upright, 800, 600).whole);
    expect(framed(first.view, first.framing, show(upright, 800, 600, 'gasket')).view).toEqual(
      show(upright, 800, 600).whole,
    );
  });

  it('stays where it is when the board changes its size, and is still all of it to what comes after', () => {
    const first = through(null, null, show(flat, 800, 600));
    const lower = through(first.view, first.framing, show(flat, 800, 560));
    expect(lower.view).toEqual({ ...first.view, height: 560 });
    expect(framed(lower.view, lower.framing, show(upright, 800, 560)).view).toEqual(show(upright, 800, 560).whole);
    // Shown whole again after that, by Home, it is so too.
    const home = framed(show(flat, 800, 560).whole, lower.framing, show(upright, 800, 560));
    expect(home.view).toEqual(show(upright, 800, 560).whole);
  });

  it('goes on looking at the same place where it looked closer', () => {
    const first = through(null, null, show(flat, 800, 600));
    const close: View = { x: 1000, y: 700, scale: 2, width: 800, height: 600 };
    const lower = framed(close, first.framing, show(flat, 800, 560));
    const then = framed(lower.view, lower.framing, show(upright, 800, 560));
    expect(then.view.scale).toBeCloseTo(2, 9);
    // A quarter turn takes the pixel (1200, 840) in its middle to (3000 - 840, 1200), or the other way round.
    const middle = { x: then.view.x + 200, y: then.view.y + 140 };
    expect(
      [1, -1].some((way) => Math.hypot(middle.x - (way > 0 ? 2160 : 840), middle.y - (way > 0 ? 1200 : 2800)) < 1),
    ).toBe(true);
  });

  it('gives back what it was given where nothing changed', () => {
    const to = show(flat, 800, 600);
    const first = through(null, null, to);
    const again = framed(first.view, first.framing, to);
    expect(again.framing).toBe(first.framing);
    expect(again.view).toBe(first.view);
  });
});
