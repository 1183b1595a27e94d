import { act, checkJob, type JobState, NO_HISTORY } from '@steady-moth/core/job';
import {
  type Constraint,
  createEvaluator,
  MAIN_SKETCH,
  type Offer,
  observationIn,
  type Part,
  tellSketch,
  workedOut,
} from '@steady-moth/core/sketch';
import { readFormula } from '@steady-moth/core/units';
import { describe, expect, it } from 'vitest';
import { sampleJob } from '../../../../../core/src/job/sample.test-data';
import { plate } from '../../../../../core/src/sketch/settle/rig.test-data';
import type { Aim } from '../../../board/useAim';
import { screenPlace } from '../../../frames/place';
import { drawnPath } from '../../../part/useDrawn';
import type { Selection, Tool } from '../../../session/sessionStore';
import type { SketchState } from '../sketchState';
import { NO_SIZE_PREVIEW, type SizeContext, type SizeHeld, type SizePreview, sizeToolOf } from '.';

/* One pixel a millimetre, both y the other way up on the board. */
function bench(relate: readonly Omit<Constraint, 'id'>[] = [], name: Tool = null) {
  const tool = sizeToolOf(name);
  const sketch = plate();
  relate.forEach((c, k) => {
    sketch.constraints[`k${k}`] = { ...c, id: `k${k}` };
  });
  const job = sampleJob();
  const part: Part = { ...job.part, sketches: { [MAIN_SKETCH]: sketch }, order: [MAIN_SKETCH] };
  let state: JobState = { job: { ...job, part }, history: NO_HISTORY };
  let selection: Selection = null;
  let condition: string | null = null;
  let preview: SizePreview = NO_SIZE_PREVIEW;
  let own = tool.start();
  let held: SizeHeld | null = null;
  let named = 0;
  let offers: readonly Offer[] = [];
  const { evaluate } = createEvaluator();
  const placing = new Map([
    [
      'pic',
      { isTrue: true, place: ({ uPx, vPx }: { uPx: number; vPx: number }) => ({ x: uPx, y: vPx }), turned: null },
    ],
  ]);
  const drawn = () => {
    const { paths, placeOf, settled, faults } = evaluate(state.job.part, placing, {
      truly: false,
      draft: preview.points,
    });
    return {
      isWhole: true,
      locked: new Set<string>(),
      paths: paths.map(drawnPath),
      faults,
      settled,
      placeOf,
      placeSeen: ({ uPx, vPx }: { uPx: number; vPx: number }) => ({ x: uPx, y: vPx }),
    };
  };
  const context = (): SizeContext => {
    const now = drawn();
    const own = workedOut(state.job.part).sketches[MAIN_SKETCH]!;
    const seen = (id: string) => {
      const at = observationIn(own, id);
      return at ? { x: at.uPx, y: at.vPx } : null;
    };
    const chosen = (selection && 'items' in selection ? selection.items : selection ? [selection] : []).map((i) =>
      i.kind === 'point'
        ? i.point
        : i.kind === 'piece'
          ? i.curve
          : own.paths[(i as { path: string }).path]!.uses[0]!.curve,
    );
    const at: SketchState = {
      sketch: own,
      places: new Map(),
      place: now.placeOf,
      told: tellSketch(own, seen),
      measures: {},
      chosen,
    };
    return {
      job: state.job,
      drawn: now,
      mapper: { toPlace: ({ uPx, vPx }) => ({ x: uPx, y: vPx }), toPicture: ({ x, y }) => ({ uPx: x, vPx: y }) },
      state: at,
      offers: [...offers],
      selection,
      condition,
      scale: 10,
      read: (text, unit) => readFormula(text, unit, () => null),
      unit: 'mm',
      newId: () => `n${named++}`,
    };
  };
  const aim = (x: number, y: number): Aim => ({
    screen: screenPlace(0, 0),
    place: { x, y },
    picture: { uPx: x, vPx: y },
    pictureId: 'pic',
    sigmaPx: 0.1,
    snappedTo: 'free',
    isShadow: false,
    point: null,
    onto: null,
    edges: [],
    edge: 0,
  });
  const dispatch = (event: Parameters<typeof tool.step>[1]) => {
    const made = tool.step(own, event, context());
    own = made.state;
    if (made.preview) preview = made.preview;
    if (made.held !== undefined) held = made.held;
    if (made.select !== undefined) {
      selection = made.select;
      condition = null;
    }
    if (made.effect) [condition, selection] = [made.effect.lookAt, null];
    if (made.action) state = act(state, made.action);
    expect(checkJob(state.job)).toMatchObject({ ok: true });
    return made;
  };
  return {
    press: (x: number, y: number, shift = false) => void dispatch({ kind: 'press', at: { x, y }, reach: 1, shift }),
    drag(from: [number, number], to: [number, number]) {
      dispatch({ kind: 'press', at: { x: from[0], y: from[1] }, reach: 1, shift: false });
      dispatch({ kind: 'move', aim: aim(...to), isHeld: true });
      const was = held;
      dispatch({ kind: 'let-go' });
      if (was) dispatch({ kind: 'drop', held: was, isMoved: true, aim: aim(...to) });
    },
    hover: (x: number, y: number) => void dispatch({ kind: 'move', aim: aim(x, y), isHeld: false }),
    /** A press with a tool in hand: what took hold of nothing is placed. */
    touch(x: number, y: number) {
      const made = dispatch({ kind: 'press', at: { x, y }, reach: 1, shift: false });
      if (made.held) dispatch({ kind: 'let-go' });
      else dispatch({ kind: 'place', aim: aim(x, y) });
    },
    enter: () => void dispatch({ kind: 'finish' }),
    offer: (given: readonly Offer[]) => {
      offers = given;
    },
    draft: () => preview.draft,
    type: (text: string) => dispatch({ kind: 'said', text, unit: 'mm' }).refused ?? null,
    awaits: () => tool.awaits?.(own, context()) ?? null,
    at: (id: string) => context().state!.place(id)!,
    sketch: () => state.job.part.sketches[MAIN_SKETCH]!,
    selection: () => selection,
    condition: () => condition,
    changes: () => state.history.past.length,
  };
}

const ref = (id: string) => ({ sketch: MAIN_SKETCH, id });
const RECTANGLE: Omit<Constraint, 'id'>[] = [
  { kind: 'level', refs: [ref('rect-c0'), ref('rect-c2')], count: null },
  { kind: 'plumb', refs: [ref('rect-c1'), ref('rect-c3')], count: null },
];

describe('the hand in Size', () => {
  it('chooses pieces, points and holes, and more with Shift', () => {
    const b = bench();
    b.press(20, 0);
    expect(b.selection()).toEqual({ kind: 'piece', path: 'rect', curve: 'rect-c0' });
    b.press(40, 10, true);
    expect(b.selection()).toMatchObject({ kind: 'several', items: [{ curve: 'rect-c0' }, { curve: 'rect-c1' }] });
    b.press(40, 0);
    expect(b.selection()).toEqual({ kind: 'point', path: 'rect', point: 'b' });
    b.press(200, 200);
    expect(b.selection()).toBeNull();
  });

  it('decides the size of what is chosen by a typed figure, and once it is there by its figure on the board', () => {
    const b = bench();
    b.press(20, 0);
    expect(b.awaits()).toBe('Decide the size of what is chosen');
    expect(b.type('42')).toBeNull();
    const [d] = Object.values(b.sketch().dimensions);
    expect(d).toMatchObject({ kind: 'distance', origin: { kind: 'decided', value: { text: '42' } } });
    expect(Math.hypot(b.at('b').x - b.at('a').x, b.at('b').y - b.at('a').y)).toBeCloseTo(42, 8);
    // Its figure stands three millimetres off the line, away from the rectangle.
    b.press(20, -3);
    expect(b.condition()).toBe(d!.id);
    expect(b.type('1.75 in')).toBeNull();
    expect(Math.hypot(b.at('b').x - b.at('a').x, b.at('b').y - b.at('a').y)).toBeCloseTo(44.45, 8);
    expect(b.type('seven')).toBe('There is no parameter called seven.');
    expect(b.type('2 - 2')).toBe('A size is above 0.');
  });

  it('leads a figure to where it reads well', () => {
    const b = bench();
    b.press(20, 0);
    b.type('40');
    b.drag([20, -3], [25, -9]);
    const [d] = Object.values(b.sketch().dimensions);
    const middle = { x: (b.at('a').x + b.at('b').x) / 2, y: (b.at('a').y + b.at('b').y) / 2 };
    expect(d!.label!.dxMm).toBeCloseTo(25 - middle.x, 6);
    expect(d!.label!.dyMm).toBeCloseTo(-9 - middle.y, 6);
  });

  it('drags what is free, all relations kept, and nothing springs back', () => {
    const b = bench(RECTANGLE);
    const before = b.at('a');
    b.drag([b.at('c').x, b.at('c').y], [50, 30]);
    expect(b.at('c').x).toBeCloseTo(50, 6);
    expect(b.at('c').y).toBeCloseTo(30, 6);
    expect(b.at('b').x).toBeCloseTo(50, 6);
    expect(b.at('d').y).toBeCloseTo(30, 6);
    expect(b.at('b').y).toBeCloseTo(b.at('a').y, 8);
    // The corner that nothing leads stays.
    expect(b.at('a').x).toBeCloseTo(before.x, 6);
    expect(b.at('a').y).toBeCloseTo(before.y, 6);
    expect(b.changes()).toBe(1);
  });
});

describe('the tool for dimensions', () => {
  const sizes = (b: ReturnType<typeof bench>) => Object.values(b.sketch().dimensions);

  it('shows which size is meant by where its figure is held, and puts it there', () => {
    const b = bench([], 'dimension');
    b.touch(40, 0);
    b.touch(0, 20);
    expect(b.selection()).toMatchObject({ kind: 'several', items: [{ point: 'b' }, { point: 'd' }] });
    b.hover(20, -9);
    expect(b.draft()).toMatchObject({ kind: 'distance', along: 'x' });
    b.hover(50, 10);
    expect(b.draft()).toMatchObject({ kind: 'distance', along: 'y' });
    b.hover(50, 30);
    expect(b.draft()).toMatchObject({ kind: 'distance', along: 'straight' });
    b.touch(20, -9);
    const [d] = sizes(b);
    const middle = { x: (b.at('b').x + b.at('d').x) / 2, y: (b.at('b').y + b.at('d').y) / 2 };
    expect(d).toMatchObject({ kind: 'distance', along: 'x', origin: { kind: 'measured' } });
    expect(d!.label!.dxMm).toBeCloseTo(20 - middle.x, 6);
    expect(d!.label!.dyMm).toBeCloseTo(-9 - middle.y, 6);
    // It is looked at: what is typed now decides it.
    expect(b.condition()).toBe(d!.id);
    b.type('42');
    expect(b.at('b').x - b.at('d').x).toBeCloseTo(42, 8);
    expect(b.changes()).toBe(2);
  });

  it('decides at once by a figure typed while the size is shown, where it is held', () => {
    const b = bench([], 'dimension');
    b.touch(20, 0);
    b.hover(20, -12);
    expect(b.type('41')).toBeNull();
    const [d] = sizes(b);
    expect(d).toMatchObject({ origin: { kind: 'decided', value: { text: '41' } } });
    expect(d!.label!.dyMm).toBeLessThan(-11);
    expect(b.draft()).toBeNull();
  });

  it('keeps what was held while a figure is refused, and lets go of it where nothing is chosen', () => {
    const b = bench([], 'dimension');
    b.touch(20, 0);
    b.hover(20, -12);
    expect(b.type('0')).toBe('A size is above 0.');
    expect(b.draft()).not.toBeNull();
    b.enter();
    expect(sizes(b)).toMatchObject([{ label: null, origin: { kind: 'measured' } }]);
    b.touch(300, 300);
    b.touch(300, 300);
    expect(sizes(b)).toHaveLength(1);
    expect(b.selection()).toBeNull();
  });
});

describe('the other tools of Size', () => {
  it('chooses one more with each press, and takes the first relation that is possible on Enter', () => {
    const b = bench([], 'relate');
    b.touch(20, 0);
    b.touch(40, 10);
    expect(b.selection()).toMatchObject({ kind: 'several', items: [{ curve: 'rect-c0' }, { curve: 'rect-c1' }] });
    const refs = [ref('rect-c0'), ref('rect-c1')];
    b.offer([
      { constraint: { id: 'x', kind: 'parallel', refs, count: null }, trial: { ok: false } },
      { constraint: { id: 'y', kind: 'square', refs, count: null }, trial: { ok: true, moved: 1, mostMm: 0.1 } },
    ]);
    b.enter();
    expect(Object.values(b.sketch().constraints)).toMatchObject([{ kind: 'square' }]);
    expect(b.selection()).toBeNull();
  });

  it('holds what is pressed and lets it loose', () => {
    const b = bench([], 'hold');
    b.touch(20, 0);
    b.touch(40, 20);
    expect(Object.values(b.sketch().constraints).map((c) => c.refs[0]!.id)).toEqual(['rect-c0', 'c']);
    b.touch(20, 0);
    expect(Object.values(b.sketch().constraints)).toMatchObject([{ kind: 'fixed', refs: [{ id: 'c' }] }]);
  });

  it('drags a whole piece, its form kept, and takes along what is tied to it', () => {
    const b = bench(RECTANGLE, 'drag');
    const before = ['a', 'b', 'c', 'd'].map((id) => b.at(id));
    b.drag([20, 0], [20, -5]);
    const after = ['a', 'b', 'c', 'd'].map((id) => b.at(id));
    expect(after[0]!.y).toBeCloseTo(before[0]!.y - 5, 6);
    expect(after[1]!.y).toBeCloseTo(before[1]!.y - 5, 6);
    expect(after[1]!.x).toBeCloseTo(before[1]!.x, 6);
    expect(after[2]!.y).toBeCloseTo(before[2]!.y, 6);
    expect(b.changes()).toBe(1);
  });
});
