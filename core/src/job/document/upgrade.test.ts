import { describe, expect, it } from 'vitest';
import { circleThrough, type Form, type Vec2 } from '../../geometry';
import { evaluatePart, observationOf, type Part, type Placing, pathsOf } from '../../sketch';
import { sampleJob, sampleJob9 } from '../sample.test-data';
import { checkHistory } from './checkHistory';
import { checkJob } from './checkJob';
import { diff } from './diff';
import type { JobDocument } from './document';
import { redo, undo } from './history';
import { upgradeHistory } from './upgradeHistory';

const job9 = sampleJob9;

/** Every pixel a tenth of a millimetre, v down. */
const PLACING: Placing = new Map([
  ['pic', { isTrue: true, place: ({ uPx, vPx }) => ({ x: uPx / 10, y: -vPx / 10 }), turned: null }],
]);
const formsOf = (part: Part): (Form | null)[] =>
  evaluatePart(part, PLACING, { truly: true, draft: null }).paths.map((p) => p.form);

/** The forms of version 9 as its own rules had them, written down here once more. */
function formsOf9({ points, runs }: any): Form[] {
  const at = (id: string): Vec2 => ({ x: points[id].uPx / 10, y: -points[id].vPx / 10 });
  return runs.map((run: any): Form => {
    if (run.kind === 'circle') {
      const circle = circleThrough(at(run.points[0]), at(run.points[1]), at(run.points[2]));
      if (!circle) throw new Error('three places on a circle');
      return { kind: 'circle', ...circle };
    }
    const segments = run.segments.map((s: any, k: number) => {
      const [from, to] = [at(run.points[k]), at(run.points[(k + 1) % run.points.length])];
      if (s.kind === 'arc') return { kind: 'arc', from, via: at(s.via), to };
      if (s.kind === 'curve')
        return { kind: 'curve', from, handleFrom: at(s.handleFrom), handleTo: at(s.handleTo), to };
      return { kind: 'line', from, to };
    });
    return { kind: 'chain', segments, closed: run.closed };
  });
}

const checked = (document: unknown): JobDocument => {
  const found = checkJob(document);
  if (!found.ok) throw new Error(JSON.stringify(found));
  return found.job;
};

describe('a job of version 9', () => {
  it('has every trace where it was', () => {
    const old = job9();
    const { part } = checked(old);
    expect(formsOf(part)).toEqual(formsOf9(old.part));
    expect(pathsOf(part).map((p) => [p.name, p.role, p.layer, p.closed])).toEqual([
      ['Outer edge', 'cut', null, true],
      ['Hole 1', 'cut', null, true],
    ]);
    expect(observationOf(part, 'via')).toEqual({
      picture: 'pic',
      uPx: 2100,
      vPx: 1300,
      sigmaPx: 0.1,
      plane: 'face',
      snappedTo: 'edge',
      neighbouringEdge: null,
    });
  });

  it('is not changed itself', () => {
    const old = job9();
    const before = structuredClone(old);
    checked(old);
    expect(old).toEqual(before);
  });

  it('has a sketch for each view that something was traced in', () => {
    const old = job9();
    const view = (id: string, leftPx: number) => ({
      id,
      name: `View ${id}`,
      side: 'top',
      offsetMm: 0,
      crop: { leftPx, topPx: 900, widthPx: 300, heightPx: 400 },
    });
    old.pictures[0].views = [view('v1', 900), view('v2', 3000)];
    const { part } = checked(old);
    expect(part.order).toEqual(['sketch-v1', 'sketch'].reverse());
    expect([part.sketches['sketch-v1']!.order, part.sketches.sketch!.order]).toEqual([['run1'], ['run2']]);
    expect(part.sketches['sketch-v1']).toMatchObject({ name: 'View v1', frame: { view: 'v1' } });
  });

  it('leaves out a path of one point, and keeps paths that shared a name apart', () => {
    const old = job9();
    old.part.runs.push({ ...old.part.runs[0], id: 'stub', points: ['a'], segments: [], closed: false });
    old.part.runs.push({ ...old.part.runs[0], id: 'again' });
    const { part } = checked(old);
    expect(pathsOf(part).map((p) => p.id)).toEqual(['run1', 'run2', 'again']);
    const [first, , again] = formsOf(part);
    expect(again).toEqual(first);
  });
});

describe('a job of version 10', () => {
  it('clears its background by the colour that was picked, before and after undo', () => {
    const clear = { colour: [200, 190, 170], tolerance: 0.1 };
    const old: any = { ...structuredClone(sampleJob()), version: 10 };
    const before = structuredClone(old);
    old.pictures[0].preparation.clear = clear;
    const history = { past: [{ label: 'clear', patches: diff(before, old), inverse: diff(old, before) }], future: [] };
    const job = checked(old);
    expect(job.pictures[0]!.preparation.clear).toEqual({ by: 'colour', ...clear });
    const told = checkHistory(upgradeHistory(old, history), job);
    expect(told?.past).toHaveLength(1);
    const back = undo({ job, history: told! });
    expect(back.job).toEqual(checked(before));
    expect(redo(back).job).toEqual(job);
  });
});

/** A history of version 9: a point moved, a line drawn on another path, a path deleted; and one change to be made again. */
function history9(): { now: any; history: any; states: any[] } {
  const states = [job9()];
  const past: any[] = [];
  const change = (label: string, alter: (job: any) => void) => {
    const next = structuredClone(states.at(-1));
    alter(next);
    past.push({ label, patches: diff(states.at(-1), next), inverse: diff(next, states.at(-1)) });
    states.push(next);
  };
  const point = (uPx: number, vPx: number) => ({ ...job9().part.points.a, uPx, vPx });
  change('move a point', (j) => Object.assign(j.part.points.b, { uPx: 2100, sigmaPx: 0.5, cling: 'free' }));
  change('begin a path', (j) => {
    j.part.points.n1 = point(10, 10);
    j.part.runs.push({ ...j.part.runs[0], id: 'new', name: 'Path 2', points: ['n1'], segments: [], closed: false });
  });
  change('draw a line', (j) => {
    j.part.points.n2 = point(400, 10);
    j.part.runs[2].points.push('n2');
    j.part.runs[2].segments.push({ kind: 'line' });
  });
  change('delete a path', (j) => {
    j.part.runs.splice(1, 1);
    for (const id of ['r1', 'r2', 'r3']) delete j.part.points[id];
  });
  change('name the job', (j) => (j.name = 'Other'));
  const future = [past.pop()];
  return { now: states[4], history: { past, future }, states };
}

describe('its history', () => {
  it('leads through every state that it led through, each as it was', () => {
    const { now, history, states } = history9();
    const job = checked(now);
    const upgraded = checkHistory(upgradeHistory(now, history), job);
    if (!upgraded) throw new Error('the history holds');
    // A path of one point drew nothing: that change is gone.
    expect(upgraded.past.map((c) => c.label)).toEqual(['move a point', 'draw a line', 'delete a path']);
    let state = { job, history: upgraded };
    for (const k of [3, 1, 0]) {
      state = undo(state);
      expect(state.job).toEqual(checked(states[k]));
      const drawn = { ...states[k].part, runs: states[k].part.runs.filter((r: any) => r.points.length > 1) };
      expect(formsOf(state.job.part)).toEqual(formsOf9(drawn));
    }
    for (const k of [1, 3, 4, 5]) {
      state = redo(state);
      expect(state.job).toEqual(checked(states[k]));
    }
  });

  it('is forgotten where it does not fit, and left as it is where nothing is to be upgraded', () => {
    const { now, history } = history9();
    history.past[0].inverse[0].path = ['part', 'points', 'nobody', 'uPx'];
    expect(checkHistory(upgradeHistory(now, history), checked(now))).toBeNull();
    expect(upgradeHistory(now, 'x')).toBe('x');
    const present = { past: [], future: [] };
    expect(upgradeHistory(sampleJob(), present)).toBe(present);
  });

  it('of a huge job is kept as far back as it can be worked out', () => {
    const { now } = history9();
    for (let k = 0; k < 40_000; k++) now.part.points[`x${k}`] = now.part.points.a;
    const steps = (from: string, to: string) => ({
      label: 'name the job',
      patches: [{ op: 'replace', path: ['name'], value: to }],
      inverse: [{ op: 'replace', path: ['name'], value: from }],
    });
    const past = Array.from({ length: 300 }, (_, k) => steps(`n${k}`, `n${k + 1}`));
    const upgraded = upgradeHistory({ ...now, name: 'n300' }, { past, future: [] }) as any;
    expect(upgraded.past.length).toBeGreaterThan(100);
    expect(upgraded.past.length).toBeLessThan(300);
    expect(upgraded.past.at(-1).inverse).toEqual([{ op: 'replace', path: ['name'], value: 'n299' }]);
  });
});

describe('a job of version 13', () => {
  it('keeps what is made of its paths: every corner, one distance, from one copy to the next', () => {
    const now = sampleJob();
    const [path] = now.part.sketches.sketch!.order;
    const old = structuredClone(now) as any;
    old.version = 13;
    for (const field of ['layers', 'parameters', 'variants', 'variant']) delete old.part[field];
    const { sketch } = old.part.sketches;
    delete sketch.worn;
    const mm = { text: '2', unit: 'mm' };
    const of = (id: string, place: number, maker: object) => ({ id, path, place, ...maker });
    sketch.makers = {
      f: of('f', 0, { kind: 'fillet', size: mm }),
      o: of('o', 1, { kind: 'offset', by: mm, side: 'out', corners: 'round' }),
      r: of('r', 2, { kind: 'row', step: mm, count: 2, way: 'up' }),
      m3: of('m3', 3, { kind: 'mirror', about: path }),
      m4: of('m4', 4, { kind: 'round', about: path, count: 4 }),
    };
    const checked = checkJob(old);
    if (!checked.ok) throw new Error('it opens');
    expect(checked.job.part.sketches.sketch!.makers).toMatchObject({
      f: { at: null },
      o: { except: {} },
      r: { span: 'each' },
      m3: { smooth: false },
      m4: { turn: null, count: { text: '4', unit: 'number' } },
    });
    expect(checked.job.part).toMatchObject({
      layers: [],
      parameters: [],
      variants: [],
      variant: null,
      sketches: { sketch: { worn: {} } },
    });
  });
});

describe('a job of version 16', () => {
  it('keeps its counts and degrees as what could have been typed for them, and its picked edges', () => {
    const now = sampleJob();
    const [path] = now.part.sketches.sketch!.order;
    const old = structuredClone(now) as any;
    old.version = 16;
    delete old.part.passedOver;
    const mm = { text: '2', unit: 'mm' };
    const face = { feature: 'body', of: 'side', path, curve: null, nth: 0 };
    const base = { name: 'x', does: 'add' };
    old.part.sketches.sketch.makers = {
      g: { id: 'g', path, place: 0, kind: 'grid', step: mm, count: 3, rowStep: mm, rows: 2 },
    };
    old.part.features = [
      { ...base, id: 'turned', kind: 'revolve', sketch: 'sketch', path, axis: null, degrees: 12.5 },
      {
        ...base,
        id: 'edges',
        kind: 'edges',
        how: 'cut',
        size: mm,
        which: { kind: 'picked', edges: [{ faces: [face, face] }] },
      },
      { ...base, id: 'again', kind: 'repeat', of: ['turned'], how: { kind: 'row', along: 'x', step: mm, count: 4 } },
    ];
    old.part.bodyChecks = [{ id: 'check', faces: [face, face], reading: mm }];
    const checked = checkJob(old);
    if (!checked.ok) throw new Error(JSON.stringify(checked));
    const { part } = checked.job;
    const number = (text: string) => ({ text, unit: 'number' });
    expect(part.passedOver).toEqual([]);
    expect(part.sketches.sketch!.makers.g).toMatchObject({ count: number('3'), rows: number('2') });
    expect(part.features).toMatchObject([
      { degrees: number('12.5') },
      { which: { edges: [{ faces: [face, face], near: null }] } },
      { how: { count: number('4') } },
    ]);
    expect(part.bodyChecks).toEqual(old.part.bodyChecks);
  });
});
