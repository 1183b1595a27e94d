import { closePath, deletePath } from '@steady-moth/core/job';
import { describe, expect, it } from 'vitest';
import { hand } from './hand.test-data';

describe('Line', () => {
  it('draws from press to press, and closes on its first point', () => {
    const h = hand('line').press(0, 0).press(40, 0).press(40, 30);
    expect(h.changes).toEqual(['begin a path', 'draw a line']);
    const [first] = h.points(h.paths[0]!);
    h.press(0, 0, first);
    expect(h.paths[0]).toMatchObject({ closed: true, name: 'Outer edge' });
    expect(h.kinds(h.paths[0]!)).toEqual(['line', 'line', 'line']);
    expect(h.selection).toEqual({ kind: 'path', path: h.paths[0]!.id });
    expect(h.preview?.growing).toBeNull();
  });

  it('leaves nothing of a path of one point', () => {
    const h = hand('line').press(5, 5);
    expect(h.preview?.growing).toMatchObject({ path: null, first: { at: { uPx: 50, vPx: 50 } } });
    h.take('circle');
    expect(h.paths).toEqual([]);
    expect(h.changes).toEqual([]);
  });

  it('takes a typed length in the direction of the pointer, and keeps what was typed', () => {
    const h = hand('line').press(10, 10);
    expect(h.awaits).toBe('Length of this line');
    expect(h.type('62.4', 62.4)).toBe('Point in the direction first, then type the length.');
    h.move(20, 10);
    expect(h.type('62.4', 62.4)).toBeNull();
    expect(h.at(h.points(h.paths[0]!)[1]!)).toEqual({ x: expect.closeTo(72.4, 9), y: expect.closeTo(10, 9) });
    expect(Object.values(h.sketch!.dimensions)).toMatchObject([
      { kind: 'distance', origin: { value: { text: '62.4', unit: 'mm' } } },
    ]);
    expect(h.changes).toEqual(['draw a line']);
  });

  it('goes on with a path whose open end is pressed, and joins another at whose end it ends', () => {
    const h = hand('line').press(0, 0).press(40, 0);
    h.finish();
    h.press(80, 0).press(80, 30);
    h.finish();
    const [a, b] = h.paths;
    h.press(40, 0, h.points(a!)[1]);
    expect(h.preview?.growing).toMatchObject({ path: a!.id, end: 'tail' });
    h.press(80, 0, h.points(b!)[0]);
    expect(h.paths.map((p) => p.id)).toEqual([a!.id]);
    expect(h.points(h.paths[0]!)).toHaveLength(4);
    expect(h.selection).toEqual({ kind: 'path', path: a!.id });
  });

  it('begins anew where its path was closed or taken away meanwhile', () => {
    const h = hand('line').press(0, 0).press(40, 0).press(40, 30);
    h.apply(closePath(h.paths[0]!.id, 'last'));
    h.press(100, 100);
    expect(h.preview?.growing).toMatchObject({ path: null });
    h.press(120, 100);
    expect(h.paths).toHaveLength(2);
    h.apply(deletePath(h.paths[1]!.id));
    h.press(200, 100);
    expect(h.preview?.growing).toMatchObject({ path: null });
  });

  it('does nothing on the point that it stands on', () => {
    const h = hand('line').press(0, 0).press(40, 0);
    h.press(40, 0, h.points(h.paths[0]!)[1]);
    expect(h.changes).toHaveLength(1);
  });
});

describe('Arc and Curve', () => {
  it('takes a press eight pixels from the last point for the way that an arc goes through', () => {
    const h = hand('line').press(0, 0).press(40, 0).take('arc');
    const last = h.points(h.paths[0]!)[1]!;
    // Right on it the press still means that point.
    expect(h.snapsTo(40.2, 0.1)).toContain(last);
    expect(h.snapsTo(40.6, 0.5)).not.toContain(last);
    h.press(40.6, 0.5);
    expect(h.snapsTo(40.1, 0.9)).not.toContain(last);
    h.press(40.1, 1.2);
    expect(h.kinds(h.paths[0]!)).toEqual(['line', 'arc']);
    // Another path's end is met from as far as ever.
    expect(hand('line').press(0, 0).press(40, 0).take(null).take('arc').snapsTo(40.9, 0)).not.toEqual([]);
  });

  it('go on with the path that is being drawn, through one press to the next', () => {
    const h = hand('line').press(0, 0).press(40, 0).take('arc').press(50, 10).press(40, 20).take('curve');
    h.press(20, 40).press(0, 20).take('line').press(0, 0, h.points(h.paths[0]!)[0]);
    expect(h.kinds(h.paths[0]!)).toEqual(['line', 'arc', 'cubic', 'line']);
    expect(h.paths[0]!.closed).toBe(true);
    const [form] = h.forms();
    if (form?.kind !== 'chain') throw new Error('a chain');
    expect(form.segments[1]).toMatchObject({ kind: 'arc', via: { x: 50, y: -10 } });
  });

  it('runs on smoothly where a curve through places closes', () => {
    const h = hand('curve');
    h.bench.curveThrough = true;
    h.press(0, 0).press(40, -6).press(52, 30).press(8, 36);
    h.press(0, 0, h.points(h.paths[0]!)[0]);
    expect(h.paths[0]!.closed).toBe(true);
    const [form] = h.forms();
    if (form?.kind !== 'chain') throw new Error('a chain');
    const turn = form.segments.map((s, k) => {
      const before = form.segments.at(k - 1)!;
      if (s.kind !== 'curve' || before.kind !== 'curve') throw new Error('curves');
      const [out, into] = [
        { x: s.handleFrom.x - s.from.x, y: s.handleFrom.y - s.from.y },
        { x: before.to.x - before.handleTo.x, y: before.to.y - before.handleTo.y },
      ];
      return Math.abs(Math.atan2(out.x * into.y - out.y * into.x, out.x * into.x + out.y * into.y));
    });
    expect(Math.max(...turn)).toBeLessThan(1e-6);
  });

  it('closes by an arc that ends on the first point of a single line', () => {
    const h = hand('line').press(0, 0).press(40, 0).take('arc').press(20, 20);
    h.press(0, 0, h.points(h.paths[0]!)[0]);
    expect(h.paths[0]!.closed).toBe(true);
    expect(h.kinds(h.paths[0]!)).toEqual(['line', 'arc']);
  });

  it('bow the middle of a piece where nothing is being drawn', () => {
    const h = hand('line').press(0, 0).press(40, 0).press(40, 30);
    h.finish();
    h.take('arc').drag([20, 0], [20, -8]);
    expect(h.kinds(h.paths[0]!)).toEqual(['arc', 'line']);
    expect(h.selection).toMatchObject({ kind: 'piece', path: h.paths[0]!.id });
    h.take('curve').drag([40, 15], [48, 15]);
    expect(h.kinds(h.paths[0]!)).toEqual(['arc', 'cubic']);
    expect(h.changes.slice(-2)).toEqual(['bow into an arc', 'bow into a curve']);
  });

  it.each(['arc', 'curve'] as const)(
    '%s begins on a piece that is pressed and not dragged, and chooses nothing',
    (kind) => {
      const h = hand('line').press(0, 0).press(40, 0);
      h.finish();
      h.take(kind).drag([21, 0], [21, 0]);
      expect(h.preview?.growing).toMatchObject({ path: null, first: { at: { uPx: 210, vPx: 0 } } });
      h.press(30, 12).press(21, 24);
      expect(h.paths).toHaveLength(2);
      expect(h.kinds(h.paths[0]!)).toEqual(['line']);
      expect(h.changes).not.toContain('bow into an arc');
    },
  );
});

describe('Circle', () => {
  it('is as wide as was typed before its middle was pressed, and the next one is not', () => {
    const h = hand('circle');
    expect(h.awaits).toBe('Diameter of the next');
    expect(h.type('26', 26)).toBeNull();
    h.move(40, 30);
    expect(h.preview?.circle).toMatchObject({ centre: { x: 40, y: -30 }, radius: 13 });
    h.drag([40, 30], [40, 30]);
    expect(h.forms()[0]).toMatchObject({ kind: 'circle', radius: expect.closeTo(13, 6) });
    h.drag([90, 30], [90, 30]);
    expect(h.paths).toHaveLength(1);
  });
});

describe('no tool', () => {
  const plate = () => {
    const h = hand('line').press(0, 0).press(60, 0).press(60, 40).press(0, 40);
    h.press(0, 0, h.points(h.paths[0]!)[0]);
    return h.take(null);
  };

  it('moves a point, and tells how long the piece before it then is', () => {
    const h = plate();
    h.drag([60, 0], [63, 4]);
    expect(h.at(h.points(h.paths[0]!)[1]!)).toEqual({ x: 63, y: 4 });
    expect(h.changes.at(-1)).toBe('move a point');
    expect(h.selection).toMatchObject({ kind: 'point' });
    expect(h.shown).toContainEqual(expect.objectContaining({ lengthMm: Math.hypot(63, 4) }));
    expect(h.preview?.points).toBeNull();
  });

  it('moves a piece that is taken near its end, and bows it at its middle', () => {
    const h = plate().drag([8, 0], [8, -5]);
    expect(h.changes.at(-1)).toBe('move a piece');
    expect(h.points(h.paths[0]!).map((id) => h.at(id)?.y)).toEqual([-5, -5, 40, 40]);
    h.drag([30, -5], [30, -12]);
    expect(h.kinds(h.paths[0]!)).toEqual(['arc', 'line', 'line', 'line']);
  });

  it('takes a short piece by its middle too, though both its ends are within reach', () => {
    const h = hand('line').press(0, 0).press(1.2, 0).press(1.2, 40);
    h.finish();
    h.take(null).drag([0.6, 0.05], [0.6, -0.5]);
    expect(h.kinds(h.paths[0]!)).toEqual(['arc', 'line']);
    h.drag([1.2, 40], [3, 41]);
    expect(h.at(h.points(h.paths[0]!)[2]!)).toEqual({ x: 3, y: 41 });
  });

  it('only chooses by a press without a move', () => {
    const h = plate().drag([30, 0], [30, 0]);
    expect(h.selection).toMatchObject({ kind: 'piece' });
    expect(h.changes).toHaveLength(4);
    h.drag([200, 200], [200, 200]);
    expect(h.selection).toBeNull();
  });

  it('joins an end with the end of another path that it is dragged onto', () => {
    const h = hand('line').press(0, 0).press(40, 0);
    h.finish();
    h.press(80, 0).press(80, 30);
    h.finish();
    h.take(null);
    const other = h.points(h.paths[1]!)[0];
    h.drag([40, 0], [80, 0], other);
    expect(h.paths).toHaveLength(1);
    expect(h.points(h.paths[0]!)).toHaveLength(3);
    expect(h.changes.at(-1)).toBe('join two ends');
  });

  it('takes a typed length for the line that is chosen', () => {
    const h = plate().drag([30, 0], [30, 0]);
    expect(h.awaits).toBe('Length of this line');
    h.type('58', 58);
    const [a, b] = h.points(h.paths[0]!).map((id) => h.at(id)?.x);
    expect((b ?? 0) - (a ?? 0)).toBeCloseTo(58, 9);
  });
});

describe('Circle', () => {
  const snapped = (radius: number) => ({
    centre: { x: 20, y: -20 },
    radius,
    used: 40,
    scatter: 0.01,
    radiusSigmaPx: 0.05,
    beside: [],
  });

  it('is drawn by a drag, asked about, and lies where the edge is found', () => {
    const h = hand('circle').drag([20, 20], [25, 20]);
    expect(h.last.ask).toMatchObject({ circle: { centre: { x: 20, y: -20 }, radius: 5 } });
    expect(h.preview?.circle).toMatchObject({ radius: 5 });
    const { circle, sigmaPx } = h.last.ask ?? { circle: null as never, sigmaPx: 0 };
    h.answer({ circle, sigmaPx, ground: null, snapped: snapped(5.2) as never });
    expect(h.forms()[0]).toMatchObject({ kind: 'circle', radius: expect.closeTo(5.2, 6) });
    expect(h.preview?.circle).toBeNull();
    expect(h.selection).toEqual({ kind: 'path', path: h.paths[0]!.id });
  });

  it('asks for the edge of a hole where it lies in an outline, and of anything where it stands alone', () => {
    const alone = hand('circle').drag([20, 20], [25, 20]);
    expect(alone.last.ask).toMatchObject({ ground: null });
    const within = hand('circle').drag([20, 20], [50, 20]);
    within.answer({ ...within.last.ask!, snapped: null });
    within.drag([30, 25], [35, 25]);
    expect(within.last.ask).toMatchObject({ ground: 'inside' });
    // The same hole once more: what was drawn before is no outline about it.
    within.answer({ ...within.last.ask!, snapped: null });
    within.drag([30, 25], [34.8, 25]);
    expect(within.last.ask).toMatchObject({ ground: 'inside' });
    within.answer({ ...within.last.ask!, snapped: null });
    within.drag([30, 25], [31, 25]);
    expect(within.last.ask).toMatchObject({ ground: null });
    within.drag([70, 70], [75, 70]);
    expect(within.last.ask).toMatchObject({ ground: null });
  });

  it('is drawn by two presses', () => {
    const h = hand('circle').drag([20, 20], [20, 20]);
    expect(h.paths).toHaveLength(0);
    h.drag([25, 20], [25, 20]);
    expect(h.last.ask).toMatchObject({ circle: { radius: 5 } });
  });

  it('lies where it was drawn when nothing is found', () => {
    const h = hand('circle').drag([20, 20], [25, 20]);
    const { circle, sigmaPx } = h.last.ask ?? { circle: null as never, sigmaPx: 0 };
    h.answer({ circle, sigmaPx, ground: null, snapped: null });
    expect(h.forms()[0]).toMatchObject({ radius: expect.closeTo(5, 9) });
  });

  it('stays in sight when the one before it settles', () => {
    const h = hand('circle').drag([20, 20], [25, 20]);
    const first = h.last.ask ?? { circle: null as never, sigmaPx: 0, ground: null };
    h.drag([60, 60], [66, 60]);
    h.answer({ ...first, snapped: null });
    expect(h.preview?.circle).toMatchObject({ radius: 6 });
    expect(h.paths).toHaveLength(1);
  });

  it('is as wide as is typed, about the middle that was pressed', () => {
    const h = hand('circle').drag([20, 20], [20, 20]);
    expect(h.awaits).toBe('Diameter of this circle');
    h.type('8', 8);
    expect(h.forms()[0]).toMatchObject({ kind: 'circle', centre: { x: 20, y: -20 }, radius: 4 });
    h.take(null).drag([20, 20], [22, 20]);
    expect(h.forms()[0]).toMatchObject({ centre: { x: expect.closeTo(22, 6) }, radius: 4 });
  });

  it('that was drawn last is as wide as is typed, where the edge had it', () => {
    const h = hand('circle').drag([20, 20], [25, 20]);
    const { circle, sigmaPx } = h.last.ask ?? { circle: null as never, sigmaPx: 0 };
    h.answer({ circle, sigmaPx, ground: null, snapped: snapped(5.2) as never });
    expect(h.awaits).toBe('Diameter of this circle');
    h.type('10', 10);
    expect(h.forms()[0]).toMatchObject({ centre: { x: expect.closeTo(20, 6) }, radius: expect.closeTo(5, 9) });
    expect(h.changes.at(-1)).toBe('say how wide a circle is');
  });

  it('that is a slip of the finger is none', () => {
    const h = hand('circle').drag([20, 20], [20, 20]).drag([20.1, 20], [20.1, 20]);
    expect(h.paths).toHaveLength(0);
    expect(h.last.ask).toBeUndefined();
  });
});

describe('Point and Measure', () => {
  it('puts a point into an arc and keeps its radius', () => {
    const h = hand('line').press(0, 0).press(40, 0);
    h.finish();
    h.take('arc').drag([20, 0], [20, -8]);
    const radius = () =>
      h
        .forms()
        .flatMap((f) => (f?.kind === 'chain' ? f.segments : []))
        .map((s) => {
          if (s.kind !== 'arc') return 0;
          const [ax, ay, bx, by, cx, cy] = [s.from.x, s.from.y, s.via.x, s.via.y, s.to.x, s.to.y];
          const [a, b, c] = [Math.hypot(bx - cx, by - cy), Math.hypot(ax - cx, ay - cy), Math.hypot(ax - bx, ay - by)];
          return (a * b * c) / (2 * Math.abs((bx - ax) * (cy - ay) - (cx - ax) * (by - ay)));
        });
    const [before] = radius() as [number];
    h.take('point').press(10, -6);
    expect(radius()).toEqual([expect.closeTo(before, 6), expect.closeTo(before, 6)]);
    expect(h.selection).toMatchObject({ kind: 'point' });
  });

  it('measures from one press to the next, and begins anew with the third', () => {
    const h = hand('measure').press(0, 0).press(30, 40);
    expect(h.preview?.measure).toMatchObject({ from: { place: { x: 0 } }, to: { place: { x: 30 } } });
    h.press(5, 5);
    expect(h.preview?.measure).toMatchObject({ from: { place: { x: 5 } }, to: null });
    expect(h.changes).toEqual([]);
  });
});
