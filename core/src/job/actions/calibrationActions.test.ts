import { describe, expect, it } from 'vitest';
import { observationOf } from '../../sketch';
import {
  act,
  checkJob,
  type GridRecord,
  type JobDocument,
  NO_HISTORY,
  type PickRecord,
  type SheetRecord,
  TURNED,
  upgradeDocument,
} from '..';
import { calibrationInput, datumOf } from '../calibrationInput';
import { sampleJob, sampleJob9 } from '../sample.test-data';
import * as said from './calibrationActions';
import { setPathPlane } from './pathActions';
import { reprojectPicture } from './reprojectPicture';

const pick = (uPx: number, vPx = 500) => ({ uPx, vPx, sigmaPx: 0.05 });
const row = (v: number, count = 8) => Array.from({ length: count }, (_, k) => pick(100 + 10 * k, v));
const sheet: SheetRecord = {
  id: 'sheet',
  kind: 'sheet',
  plane: 'table',
  typed: 'A5',
  edges: [row(900), row(100), row(200), row(300)],
  widthMm: 210,
  heightMm: 148,
  plusMinusMm: 1,
};
const grid: GridRecord = {
  id: 'grid',
  kind: 'grid',
  plane: 'table',
  typed: '10 mm',
  crossings: [0, 1, 2, 3].map((k) => ({ i: k % 2, j: k >> 1, pick: pick(200 + 50 * k, 300 + 7 * k) })),
  pitchMm: 10,
  plusMinusShare: null,
};
const coin = {
  id: 'coin',
  kind: 'disc' as const,
  plane: 'table',
  typed: '1 euro',
  foot: null,
  rim: row(700, 12),
  diameterMm: 23.25,
  plusMinusMm: null,
  thicknessMm: 2.33,
};
const lines = {
  id: 'lines',
  kind: 'square-lines' as const,
  plane: 'face',
  typed: '',
  lines: [
    { along: 'x' as const, from: pick(1), to: pick(400) },
    { along: 'y' as const, from: pick(1, 1), to: pick(1, 400) },
  ],
  plusMinusRad: null,
};
const equal = {
  id: 'equal',
  kind: 'equal-lengths' as const,
  plane: 'face',
  typed: '',
  lengths: [
    { from: pick(5), to: pick(300) },
    { from: pick(5, 9), to: pick(5, 300) },
  ],
  plusMinusShare: null,
};
const start = () => ({ job: sampleJob(), history: NO_HISTORY });
const all = [sheet, grid, coin, lines, equal].reduce((state, y) => act(state, said.addReference('pic', y)), start());
const calibrationOf = (job: JobDocument) => job.pictures[0]!.calibration;

describe('yardsticks of every kind', () => {
  it('pass the check, and reach the estimate without what was typed', () => {
    expect(checkJob(all.job)).toMatchObject({ ok: true });
    const input = calibrationInput(all.job.pictures[0]!);
    expect(input.references.map((y) => y.kind)).toEqual([
      'known-length',
      'sheet',
      'grid',
      'disc',
      'square-lines',
      'equal-lengths',
    ]);
    expect(input.references.some((y) => 'typed' in y)).toBe(false);
  });

  it.each([
    ['a sheet of three edges', { ...sheet, edges: sheet.edges.slice(1) }],
    ['a rim of three places', { ...coin, rim: coin.rim.slice(0, 3) }],
    ['a pitch below nothing', { ...grid, pitchMm: -1 }],
    ['a kind that nobody knows', { ...coin, kind: 'cube' }],
    ['a plane that is not there', { ...coin, plane: 'attic' }],
  ])('refuses %s', (_, wrong) => {
    const job = sampleJob();
    job.pictures[0]!.calibration.references.push(wrong as never);
    expect(checkJob(job).ok).toBe(false);
  });

  it('leaves out one place that was found wrongly', () => {
    const less = (id: string, u: number, v: number) => calibrationOf(act(all, said.leaveOutPlace('pic', id, u, v)).job);
    const of = (t: ReturnType<typeof calibrationOf>, id: string) => t.references.find((y) => y.id === id) as never;
    expect((of(less('coin', 100, 700), 'coin') as typeof coin).rim).toHaveLength(11);
    expect((of(less('sheet', 110, 200), 'sheet') as SheetRecord).edges.map((e) => e.length)).toEqual([8, 8, 7, 8]);
    expect((of(less('grid', 250, 307), 'grid') as GridRecord).crossings).toHaveLength(3);
    expect((of(less('coin', 1, 1), 'coin') as typeof coin).rim).toHaveLength(12);
  });

  it('moves one end of one of several lines', () => {
    const moved = calibrationOf(act(all, said.movePick('pic', 'lines', 'to', pick(7, 7), 1)).job).references;
    expect(moved.find((y) => y.id === 'lines')).toMatchObject({ lines: [{}, { to: { uPx: 7, vPx: 7 } }] });
  });

  it('keeps an axis where it was when its yardstick goes', () => {
    const leaning = act(all, said.setAxis('pic', { along: 'x', reference: 'grid' }));
    const { axis } = datumOf(leaning.job.pictures[0]!);
    const after = act(leaning, said.removeReference('pic', 'grid')).job.pictures[0]!;
    expect(datumOf(after).axis).toEqual(axis);
    expect(checkJob({ ...leaning.job, pictures: [after] }).ok).toBe(true);
  });

  it('a length on a turned part is told on its section, and lies on the plane of its axis once that is left out', () => {
    const silhouettes: [[PickRecord, PickRecord], [PickRecord, PickRecord]] = [
      [pick(100, 100), pick(900, 100)],
      [pick(100, 500), pick(900, 500)],
    ];
    let state = act(start(), said.setTurned('pic', { plane: 'face', silhouettes }));
    state = act(state, said.changeReference('pic', 'y1', { plane: TURNED }));
    state = act(state, said.setAxis('pic', { along: 'x', reference: 'y1' }));
    expect(checkJob(state.job).ok).toBe(true);
    const picture = () => state.job.pictures[0]!;
    expect(calibrationInput(picture()).references[0]).toMatchObject({
      id: 'y1',
      kind: 'turned-span',
      plane: 'face',
      silhouettes,
    });
    expect(datumOf(picture()).axis?.from).toMatchObject({ plane: 'face' });
    const gone = act(state, said.removeReference('pic', 'y1'));
    expect(checkJob(gone.job).ok).toBe(true);
    state = act(state, said.setTurned('pic', null));
    expect(checkJob(state.job).ok).toBe(true);
    expect(calibrationInput(picture()).references[0]).toMatchObject({ kind: 'known-length', plane: 'face' });
  });

  it('are carried to other pixels, every place of them', () => {
    const job = structuredClone(all.job);
    reprojectPicture(job, job.pictures[0]!, [2, 0, 10, 0, 2, 20, 0, 0, 1]);
    const places = (j: JobDocument) => JSON.stringify(calibrationOf(j).references).match(/"uPx":[\d.]+/g) ?? [];
    const before = places(all.job).map((t) => Number(t.slice(6)));
    expect(places(job).map((t) => Number(t.slice(6)))).toEqual(before.map((u) => 2 * u + 10));
  });
});

describe('planes, wanted lengths, factors and cameras', () => {
  it('take what stood on a plane that goes to the face', () => {
    let state = act(start(), said.addPlane('pic', { id: 'step', name: 'Step 1', heightMm: 4, plusMinusMm: 0.1 }));
    state = act(state, setPathPlane('path1', 'step'));
    state = act(state, said.changeReference('pic', 'y1', { plane: 'step' }));
    expect(checkJob(state.job).ok).toBe(true);
    expect(calibrationInput(state.job.pictures[0]!).planes.at(-1)).toEqual({
      id: 'step',
      heightMm: 4,
      plusMinusMm: 0.1,
    });
    state = act(state, said.setHeight('pic', 'step', { heightMm: 5, plusMinusMm: 0 }));
    expect(calibrationOf(state.job).planes[0]!.heightMm).toBe(5);
    state = act(state, said.removePlane('pic', 'step'));
    expect(observationOf(state.job.part, 'a')?.plane).toBe('face');
    expect(calibrationOf(state.job).references[0]!.plane).toBe('face');
    expect(checkJob(state.job).ok).toBe(true);
  });

  it('are one change each, and pass the check', () => {
    let state = start();
    state = act(
      state,
      said.setWanted('pic', { plane: 'face', from: pick(1), to: pick(99), lengthMm: 12, typed: '12' }),
    );
    state = act(state, said.movePick('pic', 'wanted', 'to', pick(120)));
    state = act(state, said.setFactor('pic', { value: 0.998, plusMinus: 0.001, checks: 2 }));
    state = act(state, said.setFreeRatio('pic', true));
    const camera = { name: 'mine', mean: [8, 2016, 1512, 0, 0], covariance: new Array(25).fill(0) };
    state = act(state, said.setCamera('pic', camera));
    expect(checkJob(state.job).ok).toBe(true);
    expect(calibrationOf(state.job)).toMatchObject({
      wanted: { to: { uPx: 120 } },
      factor: { checks: 2 },
      camera: { name: 'mine' },
    });
    expect(state.history.past).toHaveLength(5);
  });

  it('come to documents of version 5 as nothing', () => {
    const old = sampleJob9() as unknown as Record<string, unknown>;
    const picture = (old.pictures as { truing: Record<string, unknown> }[])[0]!;
    for (const key of ['freeRatio', 'planes', 'camera', 'wanted', 'factor', 'turned']) delete picture.truing[key];
    delete old.joins;
    for (const run of (old.part as { runs: Record<string, unknown>[] }).runs) delete run.plane;
    const upgraded = upgradeDocument({ ...old, version: 5 });
    expect(upgraded.ok && checkJob(upgraded.document)).toEqual(checkJob(sampleJob9()));
  });
});
