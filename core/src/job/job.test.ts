import { describe, expect, it } from 'vitest';
import { compileJobValidator } from '../../../scripts/compileJobValidator';
import { calibrate } from '../calibration';
import { type Bend, findPath, formOf, MAIN_SKETCH, newPart, nextName, type Path, pathsOf, walkOf } from '../sketch';
import { seen } from '../sketch/traced.test-data';
import * as said from './actions/calibrationActions';
import * as trace from './actions/pathActions';
import * as on from './actions/pictureActions';
import { calibrationInput, datumOf } from './calibrationInput';
import { checkHistory } from './document/checkHistory';
import { checkJob } from './document/checkJob';
import { newPicture, newPreparation } from './document/document';
import { act, type JobState, NO_HISTORY, redo, together, undo } from './document/history';
import { upgradeDocument } from './document/upgrade';
import { measurePath } from './measures/measure';
import { asVersion9, sampleJob, sampleJob9, samplePart9 } from './sample.test-data';

const start = (): JobState => ({ job: sampleJob(), history: NO_HISTORY });
const RECT = { leftPx: 100, topPx: 200, widthPx: 900, heightPx: 700 };
const FILE = {
  blob: 'b'.repeat(64),
  fileName: 'revision-b.png',
  mime: 'image/png' as const,
  facts: { widthPx: 2000, heightPx: 1500, focal35Mm: null, focalMm: null, doubts: [], resolution: null },
};
const at = (uPx: number, vPx: number) => seen(uPx, vPx, { sigmaPx: 0.2, snappedTo: 'free' });

const main = (job: any) => job.part.sketches[MAIN_SKETCH];

describe('checkJob', () => {
  it('passes a sound job, whole after a trip through text', () => {
    const job = sampleJob();
    expect(checkJob(JSON.parse(JSON.stringify(job)))).toEqual({ ok: true, job });
  });

  it('is compiled from the schema as it stands', async () => {
    const { readFileSync } = await import('node:fs');
    const text = readFileSync(new URL('./document/validateJob.generated.js', import.meta.url), 'utf8');
    expect(text === compileJobValidator()).toBe(true);
  });

  it('brings version 1 to the present', () => {
    const old = sampleJob9();
    old.version = 1;
    for (const run of old.part.runs) delete run.name;
    for (const picture of old.pictures) delete picture.preparation;
    const found = checkJob(old);
    expect(found.ok && pathsOf(found.job.part).map((p) => p.name)).toEqual(['Run 1', 'Run 2']);
    expect(found.ok && found.job.pictures[0]!.preparation).toEqual(newPreparation());
  });

  it.each([
    ['a job from the future', (j: any) => (j.version = 99), { reason: 'from-the-future' }],
    [
      'two things of one name',
      (j: any) => (main(j).picks.a = main(j).picks.via),
      { reason: 'bad-field', place: '/part/sketches/sketch/order' },
    ],
    [
      'two pictures of one name',
      (j: any) => j.pictures.push(structuredClone(j.pictures[0])),
      { reason: 'bad-field', place: '/pictures' },
    ],
    [
      'two yardsticks of one name',
      (j: any) => j.pictures[0].calibration.references.push(structuredClone(j.pictures[0].calibration.references[0])),
      { reason: 'bad-field', place: '/pictures/0/calibration/references' },
    ],
    [
      'a plane that goes by the name of the table',
      (j: any) => j.pictures[0].calibration.planes.push({ id: 'table', name: 'x', heightMm: 3, plusMinusMm: 0 }),
      { reason: 'bad-field', place: '/pictures/0/calibration/planes' },
    ],
    [
      'a picture of 60,000 × 60,000',
      (j: any) => Object.assign(j.pictures[0].facts, { widthPx: 60_000, heightPx: 60_000 }),
      { reason: 'bad-field', place: '/pictures/0/facts' },
    ],
    [
      'a name that objects have',
      (j: any) => (main(j).paths.path1.id = '[object Object]'),
      { reason: 'bad-field', place: '/part/sketches/sketch/paths/path1/id' },
    ],
    ['no version', (j: any) => delete j.version, { reason: 'not-a-job' }],
    ['a field that nobody knows', (j: any) => (j.pictures[0].extra = 1), { reason: 'bad-field', place: '/pictures/0' }],
    [
      'a length of nothing',
      (j: any) => (j.pictures[0].calibration.references[0].lengthMm = 0),
      { reason: 'bad-field', place: '/pictures/0/calibration/references/0/lengthMm' },
    ],
    [
      'text for a number',
      (j: any) => (main(j).points.a.at.uPx = '1'),
      { reason: 'bad-field', place: '/part/sketches/sketch/points/a/at/uPx' },
    ],
    [
      'a point that is gone',
      (j: any) => delete main(j).points.a,
      { reason: 'bad-field', place: '/part/sketches/sketch/curves/path1-c0' },
    ],
    [
      'an arc that nothing bends',
      (j: any) => (main(j).curves['path1-c1'].evidence = []),
      { reason: 'bad-field', place: '/part/sketches/sketch/curves/path1-c1' },
    ],
    [
      'a curve without a length',
      (j: any) => (main(j).curves['path1-c0'].to = 'a'),
      { reason: 'bad-field', place: '/part/sketches/sketch/curves/path1-c0' },
    ],
    [
      'a path that breaks off',
      (j: any) => main(j).paths.path1.uses.splice(1, 1),
      { reason: 'bad-field', place: '/part/sketches/sketch/paths/path1' },
    ],
    [
      'a path that runs backwards where it says forwards',
      (j: any) => (main(j).paths.path1.uses[2].reversed = true),
      { reason: 'bad-field', place: '/part/sketches/sketch/paths/path1' },
    ],
    [
      'a path that is not listed',
      (j: any) => main(j).order.pop(),
      { reason: 'bad-field', place: '/part/sketches/sketch/order' },
    ],
    [
      'a size of nothing that is there',
      (j: any) =>
        (main(j).dimensions.size = {
          id: 'size',
          kind: 'distance',
          refs: ['a', 'gone'].map((id) => ({ sketch: 'sketch', id })),
          along: 'straight',
          label: null,
          origin: { kind: 'decided', value: { text: '12', unit: 'mm' }, why: '' },
        }),
      { reason: 'bad-field', place: '/part/sketches/sketch/dimensions/size' },
    ],
    [
      'a size of one thing too few',
      (j: any) =>
        (main(j).dimensions.size = {
          id: 'size',
          kind: 'distance',
          refs: [{ sketch: 'sketch', id: 'a' }],
          along: 'straight',
          label: null,
          origin: { kind: 'measured' },
        }),
      { reason: 'bad-field', place: '/part/sketches/sketch/dimensions/size' },
    ],
    [
      'a relation of something in another sketch',
      (j: any) =>
        (main(j).constraints.r = {
          id: 'r',
          kind: 'level',
          refs: [{ sketch: 'other', id: 'a' }],
          count: null,
        }),
      { reason: 'bad-field', place: '/part/sketches/sketch/constraints/r' },
    ],
    [
      'a sketch in a view that is gone',
      (j: any) => (main(j).frame.view = 'gone'),
      { reason: 'bad-field', place: '/part/sketches/sketch/frame' },
    ],
    [
      'no main sketch',
      (j: any) => (j.part = { ...j.part, sketches: {}, order: [] }),
      { reason: 'bad-field', place: '/part/order' },
    ],
    [
      'a picture that is gone',
      (j: any) => (main(j).points.a.at.picture = 'other'),
      { reason: 'bad-field', place: '/part/sketches/sketch/points' },
    ],
    [
      'an axis on nothing',
      (j: any) => (j.pictures[0].calibration.axis.reference = 'zz'),
      { reason: 'bad-field', place: '/pictures/0/calibration/axis' },
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
    said.addReference('pic', { ...sampleJob().pictures[0]!.calibration.references[0]!, id: 'y2' }),
    said.changeReference('pic', 'y2', { lengthMm: 151, typed: '151' }),
    said.removeReference('pic', 'y1'),
    said.setAxis('pic', null),
    said.setZero('pic', { pick: { uPx: 1, vPx: 2, sigmaPx: 0.1 }, plane: 'face' }),
    said.setCameraHold('pic', 'flat-on'),
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
    on.clearBackground('pic', { by: 'colour', colour: [200, 190, 170], tolerance: 0.1 }),
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
    trace.startPath(
      { id: 'p3', name: 'Path 3', role: 'cut' },
      [
        { id: 'q1', at: at(1, 1) },
        { id: 'q2', at: at(50, 1) },
      ],
      'l1',
    ),
    trace.decideDistance('p3', 'size1', ['q1', 'q2'], { text: '4.5', unit: 'mm' }),
    trace.freeSize('p3', 'size1'),
    trace.extendPath('p3', 'head', { id: 'q3', at: at(50, 50) }, 'l2'),
    trace.closePath('p3', 'l3'),
    trace.bend('l1', { kind: 'arc', via: { id: 'v', at: at(60, 30) } }),
    trace.bend('l1', {
      kind: 'cubic',
      handles: [
        { id: 'h', at: at(60, 30) },
        { id: 'k', at: at(60, 40) },
      ],
    }),
    trace.insertPoint('p3', 'l1', { id: 'n', at: at(60, 35) }, 'l4', [
      { kind: 'line' },
      { kind: 'arc', via: { id: 'm', at: at(61, 36) } },
    ]),
    trace.deletePoint('p3', 'n'),
    trace.bend('path1-c1', { kind: 'line' }),
    trace.openPath('path1'),
    trace.movePicks('move a point', { a: at(5, 5) }),
    trace.changePath('hole1', { role: 'mark' }),
    trace.setPathPlane('hole1', 'table'),
    trace.decideDiameter('hole1', 'size2', 'hole1-c', { text: '1/4 in', unit: 'mm' }),
    trace.deletePath('hole1'),
    trace.addCircle({ id: 'p5', name: 'Hole', role: 'cut' }, { curve: 'cc', centre: 'co' }, [
      { id: 'c1', at: at(1, 0) },
      { id: 'c2', at: at(0, 1) },
      { id: 'c3', at: at(1, 1) },
    ]),
    trace.addCircleAbout(
      { id: 'p6', name: 'Hole', role: 'drill' },
      { curve: 'ec', size: 'size3' },
      { id: 'eo', at: at(70, 70) },
      { text: '8', unit: 'mm' },
    ),
    trace.startPath(
      { id: 'p4', name: 'Path 4', role: 'fold' },
      [
        { id: 'q5', at: at(300, 1) },
        { id: 'q6', at: at(350, 1) },
      ],
      'l6',
    ),
    trace.joinPoints('d', 'q5', 'path1'),
  ];

  it('takes back every kind of change, and makes it again', () => {
    const states = [start()];
    for (const action of actions) states.push(act(states[states.length - 1]!, action));
    for (const [k, s] of states.entries()) {
      expect(checkJob(s.job), actions[k - 1]?.label).toMatchObject({ ok: true });
      if (k) expect(s, actions[k - 1]!.label).not.toBe(states[k - 1]);
    }
    let back = states[states.length - 1]!;
    for (let k = states.length - 2; k >= 0; k--) {
      back = undo(back);
      expect(back.job).toEqual(states[k]!.job);
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
    expect(act(state, trace.closePath('path1', 'x'))).toBe(state);
    expect(act(state, trace.deletePath('nowhere'))).toBe(state);
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
    const before = datumOf(sampleJob().pictures[0]!);
    const after = act(start(), said.removeReference('pic', 'y1')).job.pictures[0]!;
    expect(datumOf(after)).toEqual(before);
  });

  it('leaves no point behind', () => {
    let state = start();
    for (const id of ['path1', 'hole1']) state = act(state, trace.deletePath(id));
    expect(state.job.part).toEqual(newPart());
  });
});

describe('paths that were drawn', () => {
  const begun = (...places: [number, number][]) =>
    drawn({ job: { ...sampleJob(), part: newPart() }, history: NO_HISTORY }, 'new', places);
  const drawn = (state: JobState, id: string, places: [number, number][]): JobState => {
    const point = (k: number) => ({ id: `${id}${k}`, at: at(...places[k]!) });
    const first = act(state, trace.startPath({ id, name: 'Path 2', role: 'cut' }, [point(0), point(1)], `${id}c0`));
    return places
      .slice(2)
      .reduce((s, _, k) => act(s, trace.extendPath(id, 'tail', point(k + 2), `${id}c${k + 1}`)), first);
  };
  const path = (state: JobState, id = 'new'): Path => findPath(state.job.part, id)?.path as Path;
  const sketch = (state: JobState) => state.job.part.sketches[MAIN_SKETCH];
  const points = (state: JobState, id = 'new') => walkOf(sketch(state)!, path(state, id))?.points;

  it('close without a line of no length where both ends lie in one place', () => {
    const closed = act(begun([0, 0], [100, 0], [100, 80], [0, 0]), trace.closePath('new', 'last'));
    expect(path(closed).closed).toBe(true);
    expect(points(closed)).toEqual(['new0', 'new1', 'new2']);
    expect(sketch(closed)!.points.new3).toBeUndefined();
    expect(checkJob(closed.job).ok).toBe(true);
    const apart = act(begun([0, 0], [100, 0], [100, 80], [0, 1]), trace.closePath('new', 'last'));
    expect(path(apart).uses).toHaveLength(4);
  });

  it('are called a slot when they have its form, and keep a name that somebody gave', () => {
    const arc = (id: string, u: number): Bend => ({ kind: 'arc', via: { id, at: at(u, 20) } });
    const slot = (name: string) => {
      let state = act(begun([0, 0], [100, 0], [100, 40], [0, 40]), trace.changePath('new', { name }));
      state = act(state, trace.bend('newc1', arc('v1', 120)));
      state = act(state, trace.closePath('new', 'last'));
      return path(act(state, trace.bend('last', arc('v2', -20)))).name;
    };
    expect(slot('Path 2')).toBe('Slot 1');
    expect(slot('Guide')).toBe('Guide');
  });

  it('take the first name of their kind that is free', () => {
    const { part } = sampleJob();
    expect([nextName(part, 'Hole'), nextName(part, 'Path')]).toEqual(['Hole 2', 'Path 1']);
    expect(nextName(newPart(), 'Hole')).toBe('Hole 1');
  });

  it('become one with another at whose end they end, whichever way that runs', () => {
    for (const end of ['other0', 'other2']) {
      const two = drawn(begun([0, 0], [100, 0]), 'other', [
        [200, 0],
        [200, 50],
        [100, 50],
      ]);
      const one = act(two, trace.extendPath('new', 'tail', { id: end, at: null }, 'bridge'));
      expect(Object.keys(sketch(one)!.paths)).toEqual(['new']);
      const rest = end === 'other0' ? ['other0', 'other1', 'other2'] : ['other2', 'other1', 'other0'];
      expect(points(one)).toEqual(['new0', 'new1', ...rest]);
      expect(checkJob(one.job).ok).toBe(true);
      expect(undo(one).job).toEqual(two.job);
    }
  });

  it('become one with another onto whose end an end was dragged, and keep that one in name', () => {
    const two = drawn(begun([0, 0], [100, 0]), 'other', [
      [200, 0],
      [200, 50],
      [101, 2],
    ]);
    const one = act(two, trace.joinPoints('new1', 'other2', 'new'));
    expect(points(one)).toEqual(['new0', 'new1', 'other1', 'other0']);
    expect(checkJob(one.job).ok).toBe(true);
    const closed = act(one, trace.joinPoints('new0', 'other0', 'new'));
    expect(path(closed).closed).toBe(true);
    expect(points(closed)).toEqual(['new0', 'new1', 'other1']);
    expect(checkJob(closed.job).ok).toBe(true);
  });

  it('are joined by a line where a point was taken out, at either end of it and in the middle', () => {
    const three = begun([0, 0], [100, 0], [100, 80]);
    const without = (point: string) => act(three, trace.deletePoint('new', point));
    for (const [point, left] of [
      ['new0', ['new1', 'new2']],
      ['new1', ['new0', 'new2']],
      ['new2', ['new0', 'new1']],
    ] as const) {
      expect(points(without(point))).toEqual(left);
      expect(Object.keys(sketch(without(point))!.points).sort()).toEqual(left);
      expect(checkJob(without(point).job).ok).toBe(true);
    }
    expect(act(without('new1'), trace.deletePoint('new', 'new0')).job.part).toEqual(newPart());
  });

  it('share a point with a path that they only touch, and leave it when they go', () => {
    const two = drawn(begun([0, 0], [100, 0], [100, 80]), 'other', [
      [200, 0],
      [200, 50],
    ]);
    const touching = act(two, trace.extendPath('other', 'tail', { id: 'new1', at: null }, 'bridge'));
    expect(Object.keys(sketch(touching)!.paths)).toEqual(['new', 'other']);
    expect(points(touching, 'other')).toEqual(['other0', 'other1', 'new1']);
    expect(checkJob(touching.job).ok).toBe(true);
    const left = act(touching, trace.deletePath('new'));
    expect(Object.keys(sketch(left)!.points)).toEqual(expect.arrayContaining(['new1', 'other0', 'other1']));
    expect(Object.keys(sketch(left)!.points)).toHaveLength(3);
    expect(checkJob(left.job).ok).toBe(true);
  });

  it('keep both halves of a piece bent into which a point is put', () => {
    const bent = act(
      begun([0, 0], [100, 0], [100, 80]),
      trace.bend('newc0', { kind: 'arc', via: { id: 'v', at: at(50, 30) } }),
    );
    const halves: [Bend, Bend] = [
      { kind: 'arc', via: { id: 'v1', at: at(20, 22) } },
      { kind: 'arc', via: { id: 'v2', at: at(80, 22) } },
    ];
    const two = act(bent, trace.insertPoint('new', 'newc0', { id: 'mid', at: at(50, 30) }, 'half', halves));
    expect(points(two)).toEqual(['new0', 'mid', 'new1', 'new2']);
    expect(Object.keys(sketch(two)!.picks)).toEqual(['v1', 'v2']);
    expect(checkJob(two.job).ok).toBe(true);
  });
});

describe('checkHistory', () => {
  it('passes the history of a job, and refuses another or a spoilt one', () => {
    const state = act(act(start(), said.setUnit('in')), trace.deletePath('hole1'));
    const kept = JSON.parse(JSON.stringify(state.history));
    expect(checkHistory(kept, state.job)).toEqual(state.history);
    kept.past[1].inverse[0].path = ['[object Object]', 'polluted'];
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
  it('has forms for its paths', () => {
    const sketch = sampleJob().part.sketches[MAIN_SKETCH]!;
    const place = (id: string) => {
      const at = sketch.picks[id] ?? sketch.points[id]!.at;
      return 'uPx' in at ? { x: at.uPx, y: -at.vPx } : null;
    };
    expect(formOf(sketch, sketch.paths.hole1!, place)).toMatchObject({
      kind: 'circle',
      radius: expect.closeTo(100, 0),
    });
    expect(formOf(sketch, sketch.paths.path1!, place)).toMatchObject({ kind: 'chain', closed: true });
    expect(formOf(sketch, sketch.paths.path1!, () => null)).toBeNull();
  });

  it('measures paths with a ± that the scale dominates', () => {
    const job = sampleJob();
    const result = calibrate({ ...calibrationInput(job.pictures[0]!), hold: 'flat-on' });
    if (!result.ok) throw new Error(result.reason);
    const hole = measurePath(main(job), main(job).paths.hole1, result.calibration, job.pictures[0]!.calibration);
    expect(hole?.diameter?.value).toBeCloseTo(10, 0);
    expect(hole?.area?.value).toBeCloseTo(78.5, -1);
    const outer = measurePath(main(job), main(job).paths.path1, result.calibration, job.pictures[0]!.calibration);
    expect(Object.values(outer?.pieces ?? {}).map((s) => s.kind)).toEqual(['line', 'arc', 'curve', 'line']);
    expect(outer?.pieces['path1-c0']?.length.value).toBeCloseTo(50, -1);
    expect(outer?.pieces['path1-c1']?.radius?.value).toBeGreaterThan(0);
    expect(((outer?.corners.a?.value ?? 0) * 180) / Math.PI).toBeCloseTo(90, 0);
    for (const f of [hole?.diameter, outer?.length, outer?.area]) expect(f?.plusMinus).toBeGreaterThan(0);
  });
});

describe('strokes that were counted between two readings', () => {
  const pick = (uPx: number) => ({ uPx, vPx: 2000, sigmaPx: 0.05 });
  const graduations = {
    spacingMm: 1,
    graduations: [{ n: 3, places: [pick(660), pick(661)] }],
    edge: [pick(900)],
    far: [pick(950)],
  };
  const counted = act(start(), said.setGraduations('pic', 'y1', graduations));
  const of = (state: JobState) => {
    const y = state.job.pictures[0]!.calibration.references[0]!;
    return y.kind === 'known-length' ? y.graduations : undefined;
  };

  it('are kept, pass the check, and are one undo', () => {
    expect(of(counted)).toEqual(graduations);
    expect(checkJob(counted.job).ok).toBe(true);
    expect(of(undo(counted))).toBeNull();
  });

  it('are forgotten when a reading moves or the length becomes another, not when it is typed again', () => {
    expect(of(act(counted, said.movePick('pic', 'y1', 'to', pick(3500))))).toBeNull();
    expect(of(act(counted, said.changeReference('pic', 'y1', { lengthMm: 151 })))).toBeNull();
    expect(of(act(counted, said.changeReference('pic', 'y1', { lengthMm: 150, typed: '15 cm' })))).toEqual(graduations);
  });

  it('came without the other long edge in version 8, and without a width', () => {
    const { job } = act(counted, said.setRulerWidth('pic', 'y1', { widthMm: 19, plusMinusMm: 0.03 }));
    expect(checkJob(job).ok).toBe(true);
    const old = asVersion9(counted.job);
    const [ruler] = old.pictures[0].truing.yardsticks;
    delete ruler.width;
    delete ruler.strokes.far;
    const upgraded = upgradeDocument({ ...old, part: samplePart9(), version: 8 });
    const checked = upgraded.ok ? checkJob(upgraded.document) : null;
    if (!checked?.ok) throw new Error(JSON.stringify(checked));
    expect(checked.job.pictures[0]!.calibration.references[0]).toMatchObject({
      graduations: { far: [], edge: [pick(900)] },
      width: null,
    });
  });

  it('lose their other edge alone, and keep the width that was measured', () => {
    const wide = act(counted, said.setRulerWidth('pic', 'y1', { widthMm: 19, plusMinusMm: 0.03 }));
    const without = act(wide, said.leaveOutFarEdge('pic', 'y1'));
    expect(of(without)).toEqual({ ...graduations, far: [] });
    const moved = act(without, said.movePick('pic', 'y1', 'to', pick(3500)));
    expect(moved.job.pictures[0]!.calibration.references[0]).toMatchObject({
      graduations: null,
      width: { widthMm: 19 },
    });
    expect(of(undo(without))?.far).toEqual([pick(950)]);
    expect(without.history.past.at(-1)?.label).toBe('leave out the other edge');
  });

  it("go along to the picture that takes this one's place", () => {
    const { blob, fileName, mime, facts } = sampleJob('b'.repeat(64)).pictures[0]!;
    const swapped = act(counted, on.swapPicture('pic', { blob, fileName, mime, facts }, [2, 0, 10, 0, 2, 0, 0, 0, 1]));
    expect(of(swapped)?.graduations[0]?.places[0]).toEqual({ uPx: 1330, vPx: 4000, sigmaPx: 0.1 });
    expect(of(swapped)?.edge[0]?.uPx).toBe(1810);
    expect(of(swapped)?.far[0]?.uPx).toBe(1910);
  });
});
