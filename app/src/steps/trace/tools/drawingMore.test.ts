import { formArea, formLength, type Segment, shapeOfArc, type Vec2 } from '@steady-moth/core/geometry';
import { addDimensions, reversePath } from '@steady-moth/core/job';
import { MAIN_SKETCH } from '@steady-moth/core/sketch';
import { describe, expect, it } from 'vitest';
import { hand } from './hand.test-data';

const segments = (h: ReturnType<typeof hand>, k = 0) => {
  const form = h.forms()[k];
  return form?.kind === 'chain' ? form.segments : [];
};

describe('an arc tangent to what came before', () => {
  it('leaves the line before it smoothly, and the line after it is free', () => {
    const h = hand('line').press(0, 0).press(20, 0);
    h.bench.tangent = true;
    h.move(30, 10);
    expect(h.preview?.forms).toHaveLength(1);
    h.press(30, 10);
    h.bench.tangent = false;
    h.press(30, 25);
    expect(h.kinds(h.paths[0]!)).toEqual(['line', 'arc', 'line']);
    const arc = segments(h)[1]!;
    const shape = arc.kind === 'arc' ? shapeOfArc(arc) : null;
    // Boards have y down: from (20, 0) along X to (30, 10) is a quarter of a circle about (20, 10).
    expect(shape).toMatchObject({ centre: { x: expect.closeTo(20, 6), y: expect.closeTo(-10, 6) } });
    expect(shape?.radius).toBeCloseTo(10, 6);
  });

  it('is a line where nothing came before', () => {
    const h = hand('line').press(0, 0);
    h.bench.tangent = true;
    h.press(20, 5);
    expect(h.kinds(h.paths[0]!)).toEqual(['line']);
  });

  it('goes on at the head of a path as well', () => {
    const h = hand('line').press(0, 0).press(20, 0);
    h.finish();
    h.press(0, 0, h.points(h.paths[0]!)[0]);
    h.bench.tangent = true;
    h.press(-10, 10);
    expect(h.kinds(h.paths[0]!)).toEqual(['arc', 'line']);
    const arc = segments(h)[0]!;
    expect(arc.kind === 'arc' && shapeOfArc(arc)?.radius).toBeCloseTo(10, 6);
  });
});

describe('what is typed while a path is drawn', () => {
  it('is a length in a direction', () => {
    const h = hand('line').press(10, 10);
    expect(h.type('40 at 90', 0)).toBeNull();
    expect(h.at(h.points(h.paths[0]!)[1]!)).toEqual({ x: expect.closeTo(10, 9), y: expect.closeTo(-30, 9) });
    expect(Object.values(h.sketch!.dimensions)).toMatchObject([
      { kind: 'distance', origin: { value: { text: '40', unit: 'mm' } } },
      { kind: 'angle', origin: { value: { text: '90' } } },
    ]);
  });

  it('stays what was typed when the picture is trued anew', () => {
    const h = hand('line').press(3, 4);
    for (const text of ['x 10 y -5', '40 at 30', '20 turn 50', 'r 12 turn -100']) expect(h.type(text, 0)).toBeNull();
    // A tenth larger along one way only, and askew: nothing would be what it was.
    const [form] = h.formsThrough((p: Vec2) => ({ x: 1.1 * p.x + 0.03 * p.y, y: p.y + 0.02 * p.x }));
    const all = form!.kind === 'chain' ? form!.segments : [];
    const way = ({ from, to }: Segment) => (Math.atan2(to.y - from.y, to.x - from.x) * 180) / Math.PI;
    expect(all[0]!.to).toEqual({ x: expect.closeTo(10, 6), y: expect.closeTo(-5, 6) });
    expect(way(all[1]!)).toBeCloseTo(30, 6);
    expect(Math.hypot(all[1]!.to.x - 10, all[1]!.to.y + 5)).toBeCloseTo(40, 6);
    expect(way(all[2]!)).toBeCloseTo(80, 6);
    expect(all[3]!.kind === 'arc' && shapeOfArc(all[3]!)).toMatchObject({
      radius: expect.closeTo(12, 6),
      sweep: expect.closeTo((-100 * Math.PI) / 180, 6),
    });
  });

  it('is a direction, on which the next press lies', () => {
    const h = hand('line').press(0, 0);
    expect(h.type('0 deg', 0)).toBeNull();
    h.press(30, 7);
    expect(h.at(h.points(h.paths[0]!)[1]!)).toEqual({ x: expect.closeTo(30, 9), y: expect.closeTo(0, 9) });
    h.press(40, 9);
    expect(h.at(h.points(h.paths[0]!)[2]!)).toEqual({ x: 40, y: 9 });
  });

  it('is a turn against the piece before', () => {
    const h = hand('line').press(0, 0);
    expect(h.type('10 turn 90', 0)).toBe('There is no piece before it to turn from.');
    h.press(20, 0);
    expect(h.type('10 turn 90', 0)).toBeNull();
    expect(h.at(h.points(h.paths[0]!)[2]!)).toEqual({ x: expect.closeTo(20, 9), y: expect.closeTo(-10, 9) });
  });

  it('is a place', () => {
    const h = hand('line').press(0, 0);
    expect(h.type('x 12 y -5', 0)).toBeNull();
    expect(h.at(h.points(h.paths[0]!)[1]!)).toEqual({ x: expect.closeTo(12, 9), y: expect.closeTo(5, 9) });
  });

  it('is an arc of a radius', () => {
    const h = hand('line').press(0, 0).press(20, 0);
    expect(h.type('r 5', 0)).toBe('Of an arc type its radius and how far it turns: r 12 turn 90.');
    for (const text of ['r 5 turn 90', 'r 8 turn -180']) expect(h.type(text, 0)).toBeNull();
    const [, first, second] = segments(h);
    expect(first?.kind === 'arc' && shapeOfArc(first)).toMatchObject({
      radius: expect.closeTo(5, 6),
      sweep: expect.closeTo(Math.PI / 2, 6),
    });
    expect(first?.to).toMatchObject({ x: expect.closeTo(25, 6), y: expect.closeTo(5, 6) });
    expect(second?.kind === 'arc' && shapeOfArc(second)).toMatchObject({
      radius: expect.closeTo(8, 6),
      sweep: expect.closeTo(-Math.PI, 6),
    });
    expect(second?.to).toMatchObject({ x: expect.closeTo(41, 6), y: expect.closeTo(5, 6) });
  });

  it('is refused in words where it cannot be read', () => {
    const h = hand('line').press(0, 0);
    h.move(5, 0);
    expect(h.type('forty', 0)).toMatch(/^Type a length/);
    expect(h.paths).toEqual([]);
  });
});

describe('Shape', () => {
  it('is a rectangle over its base', () => {
    const h = hand('shape').press(0, 0).press(30, 0).press(12, -10);
    expect(h.paths[0]).toMatchObject({ closed: true });
    expect(formArea(h.forms()[0]!)).toBeCloseTo(300, 6);
    expect(h.sketch!.dimensions).toEqual({});
    expect(h.changes).toEqual(['draw a rectangle']);
  });

  it('is as large as was typed, and stays so when the picture changes its scale', () => {
    const h = hand('shape').press(0, 0);
    expect(h.awaits).toBe('Length of its base');
    h.move(10, 0);
    h.type('30', 30);
    expect(h.awaits).toBe('Height over its base');
    h.move(30, -4);
    h.type('20', 20);
    expect(formArea(h.forms()[0]!)).toBeCloseTo(600, 6);
    expect(Object.keys(h.sketch!.dimensions)).toHaveLength(5);
    const larger = h.formsAt(10 / 1.02)[0]!;
    expect(formArea(larger)).toBeCloseTo(600, 5);
    expect(formLength(larger)).toBeCloseTo(100, 6);
  });

  it('is a rectangle whose sizes were typed before the first press: one press where it begins, one which way', () => {
    const h = hand('shape');
    expect(h.awaits).toBe('Base, height');
    expect(h.type('95, 60', 0)).toBeNull();
    h.press(10, 5).press(10, -40);
    const [form] = h.forms();
    expect(form && formArea(form)).toBeCloseTo(95 * 60, 6);
    expect(form && formLength(form)).toBeCloseTo(2 * (95 + 60), 6);
    // The base runs up from where it begins: 95 along it, and its left is where X falls.
    const xs = segments(h).flatMap((seg) => [seg.from.x]);
    expect([Math.min(...xs), Math.max(...xs)]).toEqual([expect.closeTo(-50, 6), expect.closeTo(10, 6)]);
    // As decided as if they had been typed afterwards.
    const again = h.formsAt(12)[0]!;
    expect(formArea(again)).toBeCloseTo(95 * 60, 3);
  });

  it('takes sizes typed ahead with a times sign or alone, lies along X at Enter, and refuses what are none', () => {
    const h = hand('shape');
    expect(h.type('40 × 25', 0)).toBeNull();
    h.press(0, 0).finish();
    expect(formArea(h.forms()[0]!)).toBeCloseTo(1000, 6);
    expect(h.type('1, 2, 3', 0)).toMatch(/Two sizes are enough/);
    expect(h.type('wide', 0)).not.toBeNull();
    h.bench.shape = 'slot';
    expect(h.type('30', 0)).toBeNull();
    h.press(0, 50).press(20, 50);
    expect(h.type('8', 8)).toBeNull();
    expect(formArea(h.forms()[1]!)).toBeCloseTo(30 * 8 + Math.PI * 16, 4);
  });

  it('is a slot', () => {
    const h = hand('shape');
    h.bench.shape = 'slot';
    h.press(0, 0).press(20, 0).press(8, 3);
    expect(h.paths[0]).toMatchObject({ name: 'Slot 1' });
    expect(h.kinds(h.paths[0]!)).toEqual(['line', 'arc', 'line', 'arc']);
    expect(formArea(h.forms()[0]!)).toBeCloseTo(20 * 6 + Math.PI * 9, 6);
  });

  it('is a polygon as wide across flats as is typed', () => {
    const h = hand('shape');
    h.bench.shape = 'polygon';
    h.press(0, 0).move(5, 0);
    expect(h.awaits).toBe('Across flats');
    h.type('10', 10);
    expect(formArea(h.forms()[0]!)).toBeCloseTo((Math.sqrt(3) / 2) * 100, 6);
    expect(formArea(h.formsAt(10 / 1.05)[0]!)).toBeCloseTo((Math.sqrt(3) / 2) * 100, 5);
  });

  it('is a circle by its rim', () => {
    const h = hand('shape');
    h.bench.shape = 'three-rim';
    h.press(10, 0).press(0, 10).press(-10, 0);
    expect(h.forms()[0]).toMatchObject({ kind: 'circle', radius: expect.closeTo(10, 9) });
    h.bench.shape = 'two-rim';
    h.press(50, 0).press(50, 8);
    expect(h.forms()[1]).toMatchObject({
      kind: 'circle',
      radius: expect.closeTo(4, 9),
      centre: { x: expect.closeTo(50, 9) },
    });
  });

  it('is none through three places on a line, or of no size', () => {
    const h = hand('shape');
    h.bench.shape = 'three-rim';
    h.press(0, 0).press(5, 0).press(10, 0);
    h.bench.shape = 'rectangle';
    h.press(0, 0).press(0, 0).press(0, 0);
    expect(h.paths).toEqual([]);
  });
});

describe('Trim', () => {
  const cross = () => {
    const h = hand('line').press(0, 0).press(40, 0);
    h.finish();
    h.press(10, -10).press(10, 10);
    h.finish();
    h.press(30, -10).press(30, 10);
    h.finish();
    return h.take('trim');
  };

  it('takes what lies between two crossings, and the path falls in two', () => {
    const h = cross();
    h.move(20, 0.5);
    expect(h.preview?.forms).toHaveLength(1);
    h.press(20, 0.5);
    expect(h.paths).toHaveLength(4);
    const lengths = h.forms().map((f) => formLength(f!));
    expect(lengths.sort((a, b) => a - b)).toEqual([
      expect.closeTo(10, 6),
      expect.closeTo(10, 6),
      expect.closeTo(20, 6),
      expect.closeTo(20, 6),
    ]);
    expect(h.changes.at(-1)).toBe('trim a piece');
  });

  it('takes an end that sticks out, and leaves the rest where it was', () => {
    const h = cross().press(36, 0);
    expect(h.paths).toHaveLength(3);
    expect(segments(h)).toMatchObject([{ from: { x: 0 }, to: { x: expect.closeTo(30, 6) } }]);
    expect(segments(h, 1)).toMatchObject([{ from: { y: 10 }, to: { y: -10 } }]);
  });

  it('joins two paths into a corner', () => {
    const h = hand('line').press(0, 0).press(40, 0);
    h.finish();
    h.press(30, -20).press(30, 5);
    h.finish();
    h.take('trim').press(38, 0).press(30, 4);
    expect(h.paths).toHaveLength(1);
    expect(h.kinds(h.paths[0]!)).toEqual(['line', 'line']);
    expect(h.paths[0]!.closed).toBe(false);
  });

  it('draws a piece on that nothing crosses, up to what lies ahead', () => {
    const h = hand('line').press(0, 0).press(20, 0);
    h.finish();
    h.press(30, -10).press(30, 10);
    h.finish();
    h.take('trim').press(15, 0);
    expect(segments(h)[0]).toMatchObject({ to: { x: expect.closeTo(30, 6), y: expect.closeTo(0, 6) } });
    expect(h.changes.at(-1)).toBe('draw an end on');
  });

  it('opens a closed path, and a circle', () => {
    const h = hand('shape').press(0, 0).press(30, 0).press(0, -10);
    h.take('line').press(10, -5).press(10, 5);
    h.finish();
    h.press(20, -5).press(20, 5);
    h.finish();
    h.take('trim').press(15, 0);
    expect(h.paths[0]!.closed).toBe(false);
    expect(formLength(h.forms()[0]!)).toBeCloseTo(70, 6);
    const c = hand('shape');
    c.bench.shape = 'three-rim';
    c.press(10, 0).press(0, 10).press(-10, 0);
    c.take('line').press(-20, 0).press(20, 0);
    c.finish();
    c.take('trim').press(0, -10);
    const arc = c.forms().find((f) => f?.kind === 'chain' && f.segments[0]?.kind === 'arc');
    expect(arc && formLength(arc)).toBeCloseTo(10 * Math.PI, 6);
    expect(c.paths.filter((p) => p.closed)).toHaveLength(0);
  });

  it('keeps the size that was typed of a circle, said of the arc that is left', () => {
    const c = hand('shape');
    c.bench.shape = 'three-rim';
    c.press(10, 0).press(0, 10).press(-10, 0);
    const circle = c.paths[0]!.uses[0]!.curve;
    c.apply(
      addDimensions(MAIN_SKETCH, [
        {
          id: 'typed',
          kind: 'diameter',
          refs: [{ sketch: MAIN_SKETCH, id: circle }],
          along: 'straight',
          label: null,
          origin: { kind: 'decided', value: { text: '20.4', unit: 'mm' }, why: '' },
        },
      ]),
    );
    c.take('line').press(-20, 0).press(20, 0);
    c.finish();
    c.take('trim').press(0, -10);
    const arc = Object.values(c.sketch!.curves).find((curve) => curve.kind === 'arc')!;
    const sizes = Object.values(c.sketch!.dimensions);
    expect(sizes).toMatchObject([
      { kind: 'diameter', refs: [{ id: arc.id }], origin: { kind: 'decided', value: { text: '20.4' } } },
    ]);
  });

  it('does nothing where nothing crosses and nothing lies ahead', () => {
    const h = hand('line').press(0, 0).press(20, 0);
    h.finish();
    const before = h.changes.length;
    h.take('trim').press(10, 0).press(200, 200);
    expect(h.changes).toHaveLength(before);
  });
});

describe('Choose', () => {
  const three = () => {
    const h = hand('line');
    for (const x of [0, 30, 60]) {
      h.press(x, 0).press(x + 20, 0);
      h.finish();
    }
    return h.take('choose');
  };

  it('chooses what lies all within a box, or what it touches', () => {
    const h = three().drag([-5, -5], [55, 5]);
    expect(h.selection).toMatchObject({ kind: 'several', items: [{ kind: 'path' }, { kind: 'path' }] });
    h.drag([-5, -5], [65, 5]);
    expect(h.selection).toMatchObject({ items: [{}, {}] });
    h.bench.boxTouches = true;
    h.drag([-5, -5], [65, 5]);
    expect(h.selection).toMatchObject({ items: [{}, {}, {}] });
  });

  it('adds with Shift, and takes away again what is pressed twice', () => {
    const h = three().drag([10, 0], [10, 0]).drag([40, 0], [40, 0], null, true);
    expect(h.selection).toMatchObject({ kind: 'several', items: [{}, {}] });
    h.drag([10, 0], [10, 0], null, true);
    expect(h.selection).toEqual({ kind: 'path', path: h.paths[1]!.id });
    h.drag([200, 200], [200, 200]);
    expect(h.selection).toBeNull();
  });

  it('moves all that is chosen together, and nothing else', () => {
    const h = three().drag([-5, -5], [55, 5]).take(null);
    h.drag([5, 0], [5, 10]);
    expect(h.forms().map((f) => (f?.kind === 'chain' ? f.segments[0]!.from.y : null))).toEqual([
      -10,
      -10,
      expect.closeTo(0, 9),
    ]);
    expect(h.selection).toMatchObject({ kind: 'several' });
    expect(h.changes.at(-1)).toBe('move what is chosen');
    h.drag([5, 10], [5, 10]);
    expect(h.selection).toMatchObject({ kind: 'piece' });
  });
});

describe('Guide', () => {
  it('runs through two places, or in a direction that is typed, and is for reference', () => {
    const h = hand('guide').press(0, 0).press(30, 10);
    expect(h.paths).toMatchObject([{ name: 'Guide 1', role: 'reference', closed: false }]);
    h.press(50, 50);
    expect(h.type('90 deg', 0)).toBeNull();
    const [line] = segments(h, 1);
    expect(line!.from.x).toBeCloseTo(line!.to.x, 9);
    h.press(0, 20);
    expect(h.type('10 at 180', 0)).toBeNull();
    expect(segments(h, 2)).toMatchObject([{ to: { x: expect.closeTo(-10, 9), y: expect.closeTo(-20, 9) } }]);
    expect(h.press(0, 0).type('sideways', 0)).toMatch(/^Type a direction/);
  });

  it('lies beside a line, as far as is pressed or typed', () => {
    const h = hand('line').press(0, 0).press(40, 0);
    h.finish();
    h.take('guide');
    h.bench.guide = 'parallel';
    h.press(20, 0).press(10, -7);
    expect(segments(h, 1)).toMatchObject([{ from: { y: expect.closeTo(7, 9) }, to: { y: expect.closeTo(7, 9) } }]);
    h.press(20, 0);
    h.type('12', 12);
    expect(Math.abs(segments(h, 2)[0]!.from.y)).toBeCloseTo(12, 9);
    const before = h.paths.length;
    h.press(200, 200).press(10, 10);
    expect(h.paths).toHaveLength(before);
  });

  it('is the middle between two lines, and between two places', () => {
    const h = hand('line').press(0, 0).press(40, 0);
    h.finish();
    h.press(0, 10).press(40, 10);
    h.finish();
    h.press(60, 0).press(60, 40);
    h.finish();
    h.take('guide');
    h.bench.guide = 'middle';
    h.press(20, 0).press(20, 10);
    expect(segments(h, 3)).toMatchObject([{ from: { y: expect.closeTo(-5, 9) }, to: { y: expect.closeTo(-5, 9) } }]);
    // Between a level and a plumb line it runs at half a right angle, through where both meet.
    h.press(20, 0).press(60, 20);
    const [slanting] = segments(h, 4);
    expect(Math.abs(slanting!.to.y - slanting!.from.y)).toBeCloseTo(Math.abs(slanting!.to.x - slanting!.from.x), 9);
    h.press(100, 100).press(110, 100);
    const [across] = segments(h, 5);
    expect(across!.from.x).toBeCloseTo(105, 9);
    expect(across!.to.x).toBeCloseTo(105, 9);
  });
});

describe('Measure', () => {
  it('goes on and on where that is chosen, until it is ended', () => {
    const h = hand('measure');
    h.bench.chain = true;
    h.press(0, 0).press(10, 0).press(10, 20).press(0, 20);
    expect(h.preview?.measure).toMatchObject({
      before: [{ place: { x: 0, y: -0 } }, { place: { x: 10, y: -0 } }],
      from: { place: { x: 10, y: -20 } },
      to: { place: { x: 0, y: -20 } },
    });
    h.finish();
    h.press(50, 50);
    expect(h.preview?.measure).toMatchObject({ before: [], from: { place: { x: 50 } }, to: null });
  });
});

describe('a curve through the places pressed', () => {
  const wave = (k: number): [number, number] => [10 * k, 8 * Math.sin(k)];

  it('passes each of them smoothly, each press one change', () => {
    const h = hand('curve');
    h.bench.curveThrough = true;
    for (let k = 0; k < 6; k++) h.press(...wave(k));
    h.finish();
    expect(h.changes).toHaveLength(5);
    expect(h.kinds(h.paths[0]!)).toEqual(['cubic', 'cubic', 'cubic', 'cubic', 'cubic']);
    const all = segments(h);
    for (const [k, s] of all.entries()) {
      expect(s.to).toMatchObject({ x: expect.closeTo(wave(k + 1)[0], 6), y: expect.closeTo(-wave(k + 1)[1], 6) });
      const next = all[k + 1];
      if (s.kind !== 'curve' || next?.kind !== 'curve') continue;
      const [p, q] = [
        { x: s.to.x - s.handleTo.x, y: s.to.y - s.handleTo.y },
        { x: next.handleFrom.x - s.to.x, y: next.handleFrom.y - s.to.y },
      ];
      expect(Math.abs(Math.atan2(p.x * q.y - p.y * q.x, p.x * q.x + p.y * q.y))).toBeLessThan(1e-6);
    }
  });

  it('leaves smoothly from a line that came before', () => {
    const h = hand('line').press(0, 0).press(20, 0);
    h.bench.curveThrough = true;
    h.take('curve').press(30, 10);
    const [, s] = segments(h);
    expect(s?.kind === 'curve' && s.handleFrom).toMatchObject({ y: expect.closeTo(0, 9) });
  });
});

describe('bad input', () => {
  it('of many clicks on one place leaves nothing behind', () => {
    for (const tool of ['line', 'arc', 'curve', 'shape', 'guide', 'trim'] as const) {
      const h = hand(tool);
      for (let k = 0; k < 40; k++) h.press(5, 5);
      h.finish();
      expect(h.paths).toEqual([]);
      expect(h.changes).toEqual([]);
    }
  });
});

describe('a stretch that is worn', () => {
  const wornOf = (h: ReturnType<typeof hand>) => Object.keys(h.sketch!.worn);

  it('is parted from its line by its two ends, in one step, whichever is pressed first', () => {
    for (const [from, to] of [
      [8, 13],
      [13, 8],
    ] as const) {
      const h = hand('line').press(0, 0).press(20, 0);
      h.finish();
      h.take('worn').press(from, 0.1);
      h.move(to, 0);
      expect(h.preview?.forms).toHaveLength(1);
      h.press(to, -0.1);
      expect(h.changes.at(-1)).toBe('mark a stretch as worn');
      expect(h.kinds(h.paths[0]!)).toEqual(['line', 'line', 'line']);
      const all = segments(h);
      expect(all.map((s) => s.to.x)).toEqual([8, 13, 20].map((x) => expect.closeTo(x, 6)));
      expect(wornOf(h)).toEqual([h.paths[0]!.uses[1]!.curve]);
    }
  });

  it('keeps the form of an arc, run the other way too', () => {
    for (const turned of [false, true]) {
      const h = hand('arc').press(0, 0).press(10, -10).press(20, 0);
      h.finish();
      const before = shapeOfArc(segments(h)[0] as Extract<Segment, { kind: 'arc' }>)!;
      if (turned) h.apply(reversePath(h.paths[0]!.id));
      const on = (angle: number): [number, number] => [10 - 10 * Math.cos(angle), -10 * Math.sin(angle)];
      h.take('worn')
        .press(...on(1))
        .press(...on(2));
      expect(h.kinds(h.paths[0]!)).toEqual(['arc', 'arc', 'arc']);
      for (const s of segments(h)) {
        const shape = shapeOfArc(s as Extract<Segment, { kind: 'arc' }>)!;
        expect(shape.radius).toBeCloseTo(before.radius, 6);
        expect(shape.centre.x).toBeCloseTo(before.centre.x, 6);
      }
      const worn = segments(h)[1]!;
      const ends = [worn.from.x, worn.to.x].sort((a, b) => a - b);
      expect(ends).toEqual([on(1)[0], on(2)[0]].map((x) => expect.closeTo(x, 6)));
      expect(wornOf(h)).toEqual([h.paths[0]!.uses[1]!.curve]);
    }
  });

  it('is none on two pieces, nor where nothing is', () => {
    const h = hand('line').press(0, 0).press(20, 0).press(20, -20);
    h.finish();
    h.take('worn').press(10, 0).press(20, -10).press(50, 50);
    expect(wornOf(h)).toEqual([]);
    expect(h.kinds(h.paths[0]!)).toEqual(['line', 'line']);
    h.press(15, 0);
    expect(wornOf(h)).toHaveLength(1);
  });
});
