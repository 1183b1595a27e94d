import {
  act,
  checkJob,
  type JobState,
  NO_HISTORY,
  newPicture,
  type PickRecord,
  type Picture,
} from '@steady-moth/core/job';
import { describe, expect, it } from 'vitest';
import { sampleJob } from '../../../../../core/src/job/sample.test-data';
import type { Aim } from '../../../board/useAim';
import { screenPlace } from '../../../frames/place';
import type { Tool as ToolName } from '../../../session/sessionStore';
import type { ToolEvent } from '../../../tool/tool';
import type { DatumBy } from '../trueStore';
import type { TrueAnswer, TrueContext, TrueEffect, TrueHeld, TrueOutcome, TruePreview } from './context';
import { trueToolOf } from './index';

/** A hand with a tool of True; a pixel of the picture is a unit of the board. */
function hand(
  name: ToolName,
  given: Partial<TrueContext> & { turns?: 1; kind?: Picture['kind']; datumBy?: DatumBy } = {},
) {
  const { turns, kind, ...said } = given;
  let state: JobState = { job: structuredClone(sampleJob()), history: NO_HISTORY };
  const other = newPicture('pic2', { ...state.job.pictures[0]!, blob: 'b'.repeat(64) }, 'photo');
  state.job.pictures.push(other);
  if (kind) state.job.pictures[0]!.kind = kind;
  if (turns) state.job.pictures[0]!.preparation.turns = turns;
  const tool = trueToolOf(name, said.datumBy ?? 'point');
  let own = tool.start();
  let preview: TruePreview | null = null;
  let last: TrueOutcome<unknown> = { state: null };
  const effects: TrueEffect[] = [];
  let named = 0;
  const context = (): TrueContext => ({
    job: state.job,
    picture: state.job.pictures[0]!,
    mapper: { toPlace: ({ uPx, vPx }) => ({ x: uPx, y: -vPx }), toPicture: ({ x, y }) => ({ uPx: x, vPx: -y }) },
    isTrue: true,
    name,
    datumBy: 'point',
    acrossFirst: null,
    common: null,
    commonWith: null,
    laying: null,
    isFinding: false,
    newId: () => `n${named++}`,
    ...said,
  });
  const aim = (x: number, y: number): Aim => ({
    screen: screenPlace(x, y),
    place: { x, y: -y },
    picture: { uPx: x, vPx: y },
    pictureId: 'pic',
    sigmaPx: 0.2,
    snappedTo: 'edge',
    isShadow: false,
    point: null,
    onto: null,
    edges: [],
    edge: 0,
  });
  const dispatch = (event: ToolEvent<TrueHeld, TrueAnswer>) => {
    last = tool.step(own, event, context());
    own = last.state;
    if (last.preview !== undefined) preview = last.preview;
    if (last.action) state = act(state, last.action);
    if (last.effect) effects.push(last.effect);
    expect(checkJob(state.job).ok).toBe(true);
  };
  const me = {
    press(...places: [number, number][]) {
      for (const [x, y] of places) dispatch({ kind: 'place', aim: aim(x, y) });
      return me;
    },
    drag([x, y]: [number, number], to: [number, number]) {
      dispatch({ kind: 'press', at: { x, y: -y }, reach: 12, shift: false });
      const held = last.held ?? null;
      if (!held) return me;
      dispatch({ kind: 'move', aim: aim(...to), isHeld: true });
      dispatch({ kind: 'let-go' });
      dispatch({ kind: 'drop', held, isMoved: Math.hypot(to[0] - x, to[1] - y) >= 3, aim: aim(...to) });
      return me;
    },
    move: (x: number, y: number) => dispatch({ kind: 'move', aim: aim(x, y), isHeld: false }),
    answer: (answer: TrueAnswer) => dispatch({ kind: 'answer', answer }),
    effects,
    get last() {
      return last;
    },
    get preview() {
      return preview;
    },
    get calibration() {
      return state.job.pictures[0]!.calibration;
    },
    get pictures() {
      return state.job.pictures;
    },
    get joins() {
      return state.job.joins;
    },
    get changes() {
      return state.history.past.map((c) => c.label);
    },
    snaps: () => tool.snaps?.(context()) ?? true,
    wish: () => tool.wish(own, context()),
  };
  return me;
}

const pick = (uPx: number, vPx: number): PickRecord => ({ uPx, vPx, sigmaPx: 0.2 });

describe('tools of True that take two picks', () => {
  it.each(['readings', 'spot', 'wanted', 'across'] as const)('%s waits for the figure between both', (name) => {
    const h = hand(name).press([100, 100]);
    expect(h.preview?.first).toEqual(pick(100, 100));
    h.press([400, 110]);
    expect(h.effects.at(-1)).toEqual({
      kind: 'pending',
      pending: { purpose: name, from: pick(100, 100), to: pick(400, 110) },
    });
    expect(h.preview?.first).toBeNull();
    expect(h.changes).toEqual([]);
  });

  it('look for the middle of ink lines in a drawing: both their sides are edges', () => {
    expect(hand('direction', { kind: 'drawing' }).wish()).toBe('line');
    expect(hand('zero', { kind: 'drawing', datumBy: 'crossing' }).wish()).toBe('line');
    expect(hand('direction', { kind: 'scan' }).wish()).toBe('edge');
  });

  it('look for graduations when readings are taken, for edges otherwise', () => {
    expect([hand('readings').wish(), hand('spot').wish(), hand(null).wish()]).toEqual(['line', 'edge', null]);
  });

  it('say that the second is the first again, and go on waiting', () => {
    const h = hand('readings').press([100, 100], [101, 101]);
    expect(h.last.show?.snaps).toMatch(/first point again/);
    h.press([300, 100]);
    expect(h.effects.at(-1)?.kind).toBe('pending');
  });

  it('show how far it is from the first to the pointer', () => {
    const h = hand('spot').press([100, 100]);
    h.move(130, 60);
    expect(h.last.show).toMatchObject({ lengthMm: 50, angle: Math.atan2(40, 30) });
  });

  it('refuse a length that runs as the first one does', () => {
    const h = hand('across', { acrossFirst: { from: pick(0, 0), to: pick(500, 10) } }).press([0, 300], [500, 320]);
    expect(h.effects.at(-1)).toMatchObject({ kind: 'fault', sentence: expect.stringMatching(/one across it/) });
    h.press([0, 300], [20, 700]);
    expect(h.effects.at(-1)?.kind).toBe('pending');
  });

  it('lay the direction along X or Y as the picture is shown', () => {
    const h = hand('direction').press([100, 100], [500, 130]);
    expect(h.calibration.axis).toMatchObject({ along: 'x', from: pick(100, 100) });
    expect(h.last.isDone).toBe(true);
    expect(hand('direction', { turns: 1 }).press([100, 100], [500, 130]).calibration.axis).toMatchObject({
      along: 'y',
    });
  });
});

describe('tools of True that take four picks', () => {
  const four: [number, number][] = [
    [100, 100],
    [500, 100],
    [100, 400],
    [500, 410],
  ];

  it('make two square lines, two equal lengths, both edges of a turned part, a crossing, a centre line', () => {
    expect(
      hand('lines')
        .press(...four)
        .calibration.references.at(-1),
    ).toMatchObject({ kind: 'square-lines' });
    expect(
      hand('equal')
        .press(...four)
        .calibration.references.at(-1),
    ).toMatchObject({ kind: 'equal-lengths' });
    expect(hand('turned').press(...four).calibration.turned?.silhouettes[1][1]).toEqual(pick(500, 410));
    expect(hand('zero', { datumBy: 'crossing' }).press(...four).calibration.zero).toMatchObject({
      crossing: [pick(100, 100), {}, {}, {}],
    });
    expect(hand('direction', { datumBy: 'middle' }).press(...four).calibration.axis).toMatchObject({
      along: 'x',
      edges: [
        [pick(100, 100), {}],
        [{}, {}],
      ],
    });
  });

  it('change nothing before the fourth', () => {
    const h = hand('lines').press(...four.slice(0, 3));
    expect(h.changes).toEqual([]);
    expect(h.preview?.first).toEqual(pick(100, 400));
  });
});

describe('tools of True that look for something about a click', () => {
  it('ask for it, take no edge for the click, and wait for what is found', () => {
    const h = hand('disc').press([700, 700]);
    expect(h.last.ask).toEqual({ kind: 'disc', click: pick(700, 700) });
    expect(h.snaps()).toBe(false);
    h.answer({ kind: 'reference', answer: null });
    expect(h.effects).toEqual([]);
    const found = { ok: true as const, rim: [], used: 0 } as never;
    h.answer({ kind: 'reference', answer: { kind: 'disc', found } });
    expect(h.effects).toEqual([{ kind: 'found', found: { kind: 'disc', found } }]);
  });

  it('press in vain while something is looked for', () => {
    expect(hand('ruler', { isFinding: true }).press([1, 1]).last.ask).toBeUndefined();
  });

  it('set zero at the centre of a hole, and the direction through two', () => {
    const rim = [0, 1, 2, 3, 4].map((k) => pick(700 + 50 * Math.cos(k), 700 + 50 * Math.sin(k)));
    const zero = hand('zero', { datumBy: 'hole' }).press([700, 700]);
    expect(zero.last.ask).toMatchObject({ kind: 'holes', clicks: [pick(700, 700)] });
    zero.answer({ kind: 'holes', clicks: [pick(700, 700)], rims: [rim] });
    expect(zero.calibration.zero).toMatchObject({ rim: [{}, {}, {}, {}, {}] });
    const axis = hand('direction', { datumBy: 'hole' }).press([700, 700], [700, 200]);
    axis.answer({ kind: 'holes', clicks: [pick(700, 700), pick(700, 200)], rims: [rim, rim] });
    expect(axis.calibration.axis).toMatchObject({ along: 'y', holes: [[{}, {}, {}, {}, {}], {}] });
    const none = hand('direction', { datumBy: 'hole' });
    none.answer({ kind: 'holes', clicks: [pick(700, 700), pick(700, 200)], rims: null });
    expect(none.changes).toEqual([]);
  });
});

describe('a common point', () => {
  it('goes to the other picture, and is joined there', () => {
    const here = hand('common').press([10, 20]);
    expect(here.effects.at(-1)).toEqual({
      kind: 'seek',
      picture: 'pic2',
      begun: { picture: 'pic', pick: pick(10, 20) },
    });
    const there = hand('common', { common: { picture: 'pic2', pick: pick(5, 5) } }).press([10, 20]);
    expect(there.joins).toMatchObject([{ kind: 'point', seen: [{ picture: 'pic2' }, { picture: 'pic' }] }]);
    expect(there.effects.at(-1)).toEqual({ kind: 'seek', picture: 'pic2', begun: null });
  });
});

describe('laying another picture on the part', () => {
  it('takes the place that is pressed for its zero, keeps how it is turned, and goes back to it', () => {
    const h = hand('lay', { laying: 'pic2' }).press([30, -45]);
    expect(h.changes).toHaveLength(1);
    expect(h.pictures[1]!.calibration.laid).toEqual({ xMm: 30, yMm: 45, turnRad: 0 });
    expect(h.pictures[0]!.calibration.laid).toBeNull();
    expect(h.effects.at(-1)).toEqual({ kind: 'back', picture: 'pic2' });
  });

  it('says so where the picture that is pressed on has no size yet', () => {
    const h = hand('lay', { laying: 'pic2', isTrue: false }).press([30, -45]);
    expect(h.changes).toEqual([]);
    expect(h.effects.at(-1)).toMatchObject({ kind: 'fault', sentence: expect.stringContaining('not true yet') });
  });
});

describe('no tool in True', () => {
  it('drags a pick that is there, and only chooses it by a press', () => {
    const h = hand(null).drag([600, 2000], [640, 2010]);
    expect(h.calibration.references[0]).toMatchObject({ from: pick(640, 2010) });
    expect(h.preview?.draft).toBeNull();
    const chosen = hand(null).drag([603, 2001], [603, 2001]);
    expect(chosen.changes).toEqual([]);
    const empty = hand(null).drag([50, 50], [90, 90]);
    expect(empty.last.select).toBeNull();
  });
});
