import { describe, expect, it } from 'vitest';
import { compileJobValidator } from '../../../scripts/compileJobValidator';
import { calibrate } from '../calibration';
import * as said from './calibrationActions';
import { calibrationInput, datumOf } from './calibrationInput';
import { checkHistory } from './checkHistory';
import { checkJob } from './checkJob';
import { newPicture, newPreparation } from './document';
import { formOf } from './forms';
import { act, type JobState, NO_HISTORY, redo, together, undo } from './history';
import { measureRun } from './measure';
import * as on from './pictureActions';
import { sampleJob } from './sample.test-data';
import { stepStates } from './stepStates';
import * as trace from './traceActions';
import { upgradeDocument } from './upgrade';

const start = (): JobState => ({ job: sampleJob(), history: NO_HISTORY });
const RECT = { leftPx: 100, topPx: 200, widthPx: 900, heightPx: 700 };
const FILE = {
  blob: 'b'.repeat(64),
  fileName: 'revision-b.png',
  mime: 'image/png' as const,
  facts: { widthPx: 2000, heightPx: 1500, focal35Mm: null, focalMm: null, doubts: [], resolution: null },
};
const at = (uPx: number, vPx: number) => ({
  picture: 'pic',
  uPx,
  vPx,
  sigmaPx: 0.2,
  cling: 'free' as const,
  beside: null,
});

describe('checkJob', () => {
  it('passes a sound job, whole after a trip through text', () => {
    const job = sampleJob();
    expect(checkJob(JSON.parse(JSON.stringify(job)))).toEqual({ ok: true, job });
  });

  it('is compiled from the schema as it stands', async () => {
    const { readFileSync } = await import('node:fs');
    const text = readFileSync(new URL('./validateJob.generated.js', import.meta.url), 'utf8');
    expect(text === compileJobValidator()).toBe(true);
  });

  it('brings version 1 to the present', () => {
    const old = JSON.parse(JSON.stringify(sampleJob()));
    old.version = 1;
    for (const run of old.part.runs) delete run.name;
    for (const picture of old.pictures) delete picture.preparation;
    const found = checkJob(old);
    expect(found.ok && found.job.part.runs.map((r) => r.name)).toEqual(['Run 1', 'Run 2']);
    expect(found.ok && found.job.pictures[0].preparation).toEqual(newPreparation());
  });

  it.each([
    ['a job from the future', (j: any) => (j.version = 99), { reason: 'from-the-future' }],
    ['two runs of one name', (j: any) => (j.part.runs[1].id = 'run1'), { reason: 'bad-field', place: '/part/runs' }],
    [
      'two pictures of one name',
      (j: any) => j.pictures.push(structuredClone(j.pictures[0])),
      { reason: 'bad-field', place: '/pictures' },
    ],
    [
      'two yardsticks of one name',
      (j: any) => j.pictures[0].truing.yardsticks.push(structuredClone(j.pictures[0].truing.yardsticks[0])),
      { reason: 'bad-field', place: '/pictures/0/truing/yardsticks' },
    ],
    [
      'a plane that goes by the name of the table',
      (j: any) => j.pictures[0].truing.planes.push({ id: 'table', name: 'x', heightMm: 3, plusMinusMm: 0 }),
      { reason: 'bad-field', place: '/pictures/0/truing/planes' },
    ],
    [
      'a picture of 60,000 × 60,000',
      (j: any) => Object.assign(j.pictures[0].facts, { widthPx: 60_000, heightPx: 60_000 }),
      { reason: 'bad-field', place: '/pictures/0/facts' },
    ],
    [
      'a name that objects have',
      (j: any) => (j.part.runs[0].id = '__proto__'),
      { reason: 'bad-field', place: '/part/runs/0/id' },
    ],
    ['no version', (j: any) => delete j.version, { reason: 'not-a-job' }],
    ['a field that nobody knows', (j: any) => (j.pictures[0].extra = 1), { reason: 'bad-field', place: '/pictures/0' }],
    [
      'a length of nothing',
      (j: any) => (j.pictures[0].truing.yardsticks[0].lengthMm = 0),
      { reason: 'bad-field', place: '/pictures/0/truing/yardsticks/0/lengthMm' },
    ],
    [
      'text for a number',
      (j: any) => (j.part.points.a.uPx = '1'),
      { reason: 'bad-field', place: '/part/points/a/uPx' },
    ],
    [
      'a point that is gone',
      (j: any) => delete j.part.points.via,
      { reason: 'bad-field', place: '/part/runs/0/points' },
    ],
    [
      'a segment too few',
      (j: any) => j.part.runs[0].segments.pop(),
      { reason: 'bad-field', place: '/part/runs/0/segments' },
    ],
    [
      'a picture that is gone',
      (j: any) => (j.part.points.a.picture = 'other'),
      { reason: 'bad-field', place: '/part/points/a' },
    ],
    [
      'an axis on nothing',
      (j: any) => (j.pictures[0].truing.axis.yardstick = 'zz'),
      { reason: 'bad-field', place: '/pictures/0/truing/axis' },
    ],
  ])('refuses %s', (_, spoil, fault) => {
    const job = JSON.parse(JSON.stringify(sampleJob()));
    spoil(job);
    expect(checkJob(job)).toEqual({ ok: false, ...fault });
  });

  it.each([null, 7, 'job', [], {}])('refuses %s as no job', (document) => {
    expect(checkJob(document)).toMatchObject({ ok: false, reason: 'not-a-job' });
  });
});

describe('history', () => {
  const actions = [
    said.setUnit('in'),
    said.addYardstick('pic', { ...sampleJob().pictures[0].truing.yardsticks[0], id: 'y2' }),
    said.changeYardstick('pic', 'y2', { lengthMm: 151, typed: '151' }),
    said.removeYardstick('pic', 'y1'),
    said.setAxis('pic', null),
    said.setZero('pic', { pick: { uPx: 1, vPx: 2, sigmaPx: 0.1 }, plane: 'face' }),
    said.setHold('pic', 'flat-on'),
    said.setHeight('pic', 'face', { heightMm: 2, plusMinusMm: 0.1 }),
    said.addSpotCheck('pic', {
      id: 's1',
      plane: 'face',
      from: { uPx: 1, vPx: 1, sigmaPx: 1 },
      to: { uPx: 9, vPx: 9, sigmaPx: 1 },
      lengthMm: 5,
      plusMinusMm: null,
      typed: '5',
    }),
    said.movePick('pic', 's1', 'to', { uPx: 10, vPx: 9, sigmaPx: 1 }),
    said.changeSpotCheck('pic', 's1', { lengthMm: 6 }),
    said.removeSpotCheck('pic', 's1'),
    said.believeResolution('pic', false),
    on.setOpacity('pic', 0.5),
    on.turnPicture('pic', 1),
    on.flipPicture('pic'),
    on.cropPicture('pic', RECT),
    on.clearBackground('pic', { colour: [200, 190, 170], tolerance: 0.1 }),
    on.setKind('pic', 'scan'),
    on.addView('pic', { id: 'v1', name: 'Top', side: 'top', offsetMm: 0, crop: RECT }),
    on.changeView('pic', 'v1', { offsetMm: 12, side: 'front' }),
    on.removeView('pic', 'v1'),
    on.addPicture(newPicture('pic2', FILE, 'drawing')),
    on.orderPicture('pic2', -1),
    on.showPicture('pic2', false),
    on.lockPicture('pic2', true),
    on.lockPicture('pic2', false),
    on.swapPicture('pic', FILE, [2, 0, 10, 0, 2, 20, 0, 0, 1]),
    on.forgetBefore('pic'),
    on.removePicture('pic2'),
    on.setTones('pic', { dark: 0.1, light: 0.9, gamma: 1.2, gray: true }),
    said.renameJob('Other'),
    trace.startRun({ id: 'r3', name: 'Run 3', role: 'cut' }, { id: 'p1', point: at(1, 1) }),
    trace.extendRun('r3', 'tail', { id: 'p2', point: at(50, 1) }),
    trace.extendRun('r3', 'head', { id: 'p3', point: at(50, 50) }),
    trace.closeRun('r3'),
    trace.bowToArc('r3', 0, { id: 'v', point: at(60, 30) }),
    trace.bowToCurve('r3', 0, { id: 'h', point: at(60, 30) }, { id: 'k', point: at(60, 40) }),
    trace.insertPoint('r3', 0, { id: 'n', point: at(60, 35) }, { kind: 'line' }, { kind: 'arc', via: 'm' }, [
      { id: 'm', point: at(61, 36) },
    ]),
    trace.deletePoint('r3', 'n'),
    trace.straighten('run1', 1),
    trace.openRun('run1'),
    trace.movePoints('move a point', { a: at(5, 5) }),
    trace.changeRun('run2', { role: 'mark' }),
    trace.deleteRun('run2'),
    trace.addCircle({ id: 'c', name: 'Hole', role: 'cut' }, [
      { id: 'c1', point: at(1, 0) },
      { id: 'c2', point: at(0, 1) },
      { id: 'c3', point: at(1, 1) },
    ]),
  ];

  it('takes back every kind of change, and makes it again', () => {
    const states = [start()];
    for (const action of actions) states.push(act(states[states.length - 1], action));
    for (const [k, s] of states.entries()) {
      expect(checkJob(s.job), actions[k - 1]?.label).toMatchObject({ ok: true });
      if (k) expect(s, actions[k - 1].label).not.toBe(states[k - 1]);
    }
    let back = states[states.length - 1];
    for (let k = states.length - 2; k >= 0; k--) {
      back = undo(back);
      expect(back.job).toEqual(states[k].job);
    }
    expect(undo(back)).toBe(back);
    for (const s of states.slice(1)) {
      back = redo(back);
      expect(back.job).toEqual(s.job);
    }
    expect(redo(back)).toBe(back);
  });

  it('gives the same object when nothing changed', () => {
    const state = start();
    expect(act(state, said.setUnit('mm'))).toBe(state);
    expect(act(state, trace.closeRun('run1'))).toBe(state);
    expect(act(state, trace.deleteRun('nowhere'))).toBe(state);
  });

  it('forgets what could be made again once something else is done', () => {
    const one = act(start(), said.setUnit('in'));
    const other = act(undo(one), said.renameJob('x'));
    expect(other.history.future).toEqual([]);
  });

  it('takes several changes back as one', () => {
    const both = act(start(), together('both', said.setUnit('in'), said.renameJob('x')));
    expect(undo(both).job).toEqual(sampleJob());
  });

  it('keeps an axis and a zero where they were when their yardstick goes', () => {
    const before = datumOf(sampleJob().pictures[0]);
    const after = act(start(), said.removeYardstick('pic', 'y1')).job.pictures[0];
    expect(datumOf(after)).toEqual(before);
  });

  it('leaves no point behind', () => {
    let state = start();
    for (const id of ['run1', 'run2']) state = act(state, trace.deleteRun(id));
    expect(state.job.part).toEqual({ points: {}, runs: [] });
  });
});

describe('paths that were drawn', () => {
  const begun = (...places: [number, number][]) => {
    let state: JobState = { job: { ...sampleJob(), part: { points: {}, runs: [] } }, history: NO_HISTORY };
    const id = (k: number) => `p${k}`;
    state = act(
      state,
      trace.startRun({ id: 'new', name: 'Path 2', role: 'cut' }, { id: id(0), point: at(...places[0]) }),
    );
    for (const [k, place] of places.slice(1).entries())
      state = act(state, trace.extendRun('new', 'tail', { id: id(k + 1), point: at(...place) }));
    return state;
  };
  const run = (state: JobState) => state.job.part.runs[0];

  it('close without a line of no length where both ends lie in one place', () => {
    const closed = act(begun([0, 0], [100, 0], [100, 80], [0, 0]), trace.closeRun('new'));
    expect(run(closed)).toMatchObject({ closed: true, points: ['p0', 'p1', 'p2'] });
    expect(run(closed).kind === 'chain' && (run(closed) as { segments: unknown[] }).segments).toHaveLength(3);
    expect(closed.job.part.points.p3).toBeUndefined();
    expect(checkJob(closed.job).ok).toBe(true);
    const apart = act(begun([0, 0], [100, 0], [100, 80], [0, 1]), trace.closeRun('new'));
    expect((run(apart) as { segments: unknown[] }).segments).toHaveLength(4);
  });

  it('are called a slot when they have its form, and keep a name that somebody gave', () => {
    const slot = (name: string) => {
      let state = act(begun([0, 0], [100, 0], [100, 40], [0, 40]), trace.changeRun('new', { name }));
      state = act(state, trace.bowToArc('new', 1, { id: 'v1', point: at(120, 20) }));
      state = act(state, trace.closeRun('new'));
      return run(act(state, trace.bowToArc('new', 3, { id: 'v2', point: at(-20, 20) }))).name;
    };
    expect(slot('Path 2')).toBe('Slot 1');
    expect(slot('Guide')).toBe('Guide');
  });

  it('go when they never came further than their first point', () => {
    const stub = act(begun([5, 5]), trace.dropStub('new'));
    expect(stub.job.part).toEqual({ points: {}, runs: [] });
    const line = begun([5, 5], [9, 9]);
    expect(act(line, trace.dropStub('new'))).toBe(line);
  });

  it('take the first name of their kind that is free', () => {
    const { part } = sampleJob();
    expect([trace.nextName(part, 'Hole'), trace.nextName(part, 'Path')]).toEqual(['Hole 2', 'Path 1']);
    expect(trace.nextName({ ...part, runs: part.runs.slice(0, 1) }, 'Hole')).toBe('Hole 1');
  });
});

describe('checkHistory', () => {
  it('passes the history of a job, and refuses another or a spoilt one', () => {
    const state = act(act(start(), said.setUnit('in')), trace.deleteRun('run2'));
    const kept = JSON.parse(JSON.stringify(state.history));
    expect(checkHistory(kept, state.job)).toEqual(state.history);
    kept.past[1].inverse[0].path = ['__proto__', 'polluted'];
    expect(checkHistory(kept, state.job)).toBeNull();
    expect(checkHistory({ past: 'x', future: [] }, state.job)).toBeNull();
    expect(checkHistory(undefined, state.job)).toBeNull();
    expect(({} as Record<string, unknown>).polluted).toBeUndefined();
  });

  it('refuses changes to be made again that lead nowhere, or to a broken job', () => {
    const state = undo(act(start(), said.setUnit('in')));
    expect(checkHistory(state.history, state.job)).toEqual(state.history);
    const spoilt = structuredClone(state.history) as any;
    spoilt.future[0].patches[0].value = 'furlong';
    expect(checkHistory(spoilt, state.job)).toBeNull();
    spoilt.future[0].patches[0].path = ['no', 'such', 'place'];
    expect(checkHistory(spoilt, state.job)).toBeNull();
  });
});

describe('what is derived from a job', () => {
  it('has forms for its runs', () => {
    const job = sampleJob();
    const place = (id: string) => ({ x: job.part.points[id].uPx, y: -job.part.points[id].vPx });
    expect(formOf(job.part.runs[1], place)).toMatchObject({ kind: 'circle', radius: expect.closeTo(100, 0) });
    expect(formOf(job.part.runs[0], place)).toMatchObject({ kind: 'chain', closed: true });
    expect(formOf(job.part.runs[0], () => null)).toBeNull();
  });

  it('measures runs with a ± that the scale dominates', () => {
    const job = sampleJob();
    const result = calibrate({ ...calibrationInput(job.pictures[0]), hold: 'flat-on' });
    if (!result.ok) throw new Error(result.reason);
    const hole = measureRun(job.part.points, job.part.runs[1], result.truing, job.pictures[0].truing);
    expect(hole?.diameter?.value).toBeCloseTo(10, 0);
    expect(hole?.area?.value).toBeCloseTo(78.5, -1);
    const outer = measureRun(job.part.points, job.part.runs[0], result.truing, job.pictures[0].truing);
    expect(Object.values(outer?.segments ?? {}).map((s) => s.kind)).toEqual(['line', 'arc', 'curve', 'line']);
    expect(outer?.segments[0].length.value).toBeCloseTo(50, -1);
    expect(outer?.segments[1].radius?.value).toBeGreaterThan(0);
    expect(((outer?.corners.a.value ?? 0) * 180) / Math.PI).toBeCloseTo(90, 0);
    for (const f of [hole?.diameter, outer?.length, outer?.area]) expect(f?.plusMinus).toBeGreaterThan(0);
  });

  it('shows how far each step has come', () => {
    const { job } = start();
    expect(stepStates(job)).toMatchObject({
      picture: { bead: 'full' },
      true: { bead: 'chipped' },
      trace: { bead: 'full' },
      handover: { bead: 'full' },
    });
    const opened = act(start(), trace.openRun('run1')).job;
    expect(stepStates(opened).trace).toEqual({ bead: 'chipped', reason: 'open-run', name: 'Outer edge' });
    expect(stepStates({ ...job, pictures: [], part: { points: {}, runs: [] } }).picture.bead).toBe('empty');
  });
});

describe('strokes that were counted between two readings', () => {
  const pick = (uPx: number) => ({ uPx, vPx: 2000, sigmaPx: 0.05 });
  const strokes = {
    spacingMm: 1,
    strokes: [{ n: 3, places: [pick(660), pick(661)] }],
    edge: [pick(900)],
    far: [pick(950)],
  };
  const counted = act(start(), said.setStrokes('pic', 'y1', strokes));
  const of = (state: JobState) => {
    const y = state.job.pictures[0].truing.yardsticks[0];
    return y.kind === 'known-length' ? y.strokes : undefined;
  };

  it('are kept, pass the check, and are one undo', () => {
    expect(of(counted)).toEqual(strokes);
    expect(checkJob(counted.job).ok).toBe(true);
    expect(of(undo(counted))).toBeNull();
  });

  it('are forgotten when a reading moves or the length becomes another, not when it is typed again', () => {
    expect(of(act(counted, said.movePick('pic', 'y1', 'to', pick(3500))))).toBeNull();
    expect(of(act(counted, said.changeYardstick('pic', 'y1', { lengthMm: 151 })))).toBeNull();
    expect(of(act(counted, said.changeYardstick('pic', 'y1', { lengthMm: 150, typed: '15 cm' })))).toEqual(strokes);
  });

  it('came without the other long edge in version 8, and without a width', () => {
    const { job } = act(counted, said.setRulerWidth('pic', 'y1', { widthMm: 19, plusMinusMm: 0.03 }));
    expect(checkJob(job).ok).toBe(true);
    const old = structuredClone(counted.job) as unknown as { pictures: { truing: { yardsticks: object[] } }[] };
    old.pictures[0].truing.yardsticks = counted.job.pictures[0].truing.yardsticks.map((y) => {
      if (y.kind !== 'known-length') return y;
      const { width: _, strokes: lines, ...rest } = y;
      if (!lines) return { ...rest, strokes: null };
      const { far: __, ...seen } = lines;
      return { ...rest, strokes: seen };
    });
    const upgraded = upgradeDocument({ ...old, version: 8 });
    const checked = upgraded.ok ? checkJob(upgraded.document) : null;
    if (!checked?.ok) throw new Error(JSON.stringify(checked));
    expect(checked.job.pictures[0].truing.yardsticks[0]).toMatchObject({
      strokes: { far: [], edge: [pick(900)] },
      width: null,
    });
  });

  it('lose their other edge alone, and keep the width that was measured', () => {
    const wide = act(counted, said.setRulerWidth('pic', 'y1', { widthMm: 19, plusMinusMm: 0.03 }));
    const without = act(wide, said.leaveOutFarEdge('pic', 'y1'));
    expect(of(without)).toEqual({ ...strokes, far: [] });
    const moved = act(without, said.movePick('pic', 'y1', 'to', pick(3500)));
    expect(moved.job.pictures[0].truing.yardsticks[0]).toMatchObject({ strokes: null, width: { widthMm: 19 } });
    expect(of(undo(without))?.far).toEqual([pick(950)]);
    expect(without.history.past.at(-1)?.label).toBe('leave out the other edge');
  });

  it("go along to the picture that takes this one's place", () => {
    const { blob, fileName, mime, facts } = sampleJob('b'.repeat(64)).pictures[0];
    const swapped = act(counted, on.swapPicture('pic', { blob, fileName, mime, facts }, [2, 0, 10, 0, 2, 0, 0, 0, 1]));
    expect(of(swapped)?.strokes[0].places[0]).toEqual({ uPx: 1330, vPx: 4000, sigmaPx: 0.1 });
    expect(of(swapped)?.edge[0].uPx).toBe(1810);
    expect(of(swapped)?.far[0].uPx).toBe(1910);
  });
});
