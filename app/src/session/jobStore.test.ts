import { type JobState, NO_HISTORY, renameJob, setUnit } from '@steady-moth/core/job';
import { describe, expect, it, vi } from 'vitest';
import { sampleJob } from '../../../core/src/job/sample.test-data';
import { createJobStore, type Outside } from './jobStore';
import type { LoadResult, NewBlob, SaveResult } from './storage';

const PICTURE: NewBlob = { hash: 'a'.repeat(64), bytes: new Blob(['x']), thumb: null };

const settle = () => new Promise((resolve) => setTimeout(resolve, 0));

/** A store over a storage that the test holds in its hands. */
function bench(history = NO_HISTORY) {
  const saved: { state: JobState; revision: number; blobs: NewBlob[] }[] = [];
  const created: { state: JobState; blobs: NewBlob[] }[] = [];
  let loads = 0;
  let answer: SaveResult | null = null;
  let tell: (mayWrite: boolean) => void = () => {};
  let leave = () => {};
  let note: { state: JobState; revision: number } | null = null;
  const outside: Outside = {
    async load(): Promise<LoadResult> {
      loads += 1;
      if (note) return { ok: true, ...note, isNoted: true };
      return { ok: true, state: { job: sampleJob(), history }, revision: 1 };
    },
    note(state, revision) {
      note = { state, revision };
    },
    dropNote() {
      note = null;
    },
    onLeaving(told) {
      leave = told;
    },
    async save(state, revision, blobs) {
      await settle();
      if (answer) return answer;
      saved.push({ state, revision, blobs });
      return { ok: true, revision: revision + 1 };
    },
    async create(state, blobs) {
      created.push({ state, blobs });
      return { ok: true, revision: 1 };
    },
    async blobs() {
      return [PICTURE];
    },
    lease(_, __, onChange) {
      tell = onChange;
      queueMicrotask(() => onChange(true));
      return () => {};
    },
    now: () => 1000,
  };
  const store = createJobStore(outside);
  return {
    store,
    saved,
    created,
    refuse: (a: SaveResult | null) => (answer = a),
    tell: (may: boolean) => tell(may),
    loads: () => loads,
    leave: () => leave(),
    note: () => note,
  };
}

describe('the open job', () => {
  it('is kept after every change, one save at a time, each on the one before', async () => {
    const { store, saved } = bench();
    store.getState().open('job1');
    await settle();
    store.getState().apply(setUnit('in'));
    store.getState().apply(renameJob('A'));
    store.getState().apply(renameJob('B'));
    await vi.waitFor(() => expect(store.getState().keeping).toEqual({ kind: 'kept', at: 1000 }));
    expect(saved.map((s) => s.revision)).toEqual([1, 2]);
    expect(saved.at(-1)?.state.job.name).toBe('B');
    expect(store.getState().state?.history.past.map((c) => c.label)).toEqual([
      'change the unit',
      'name the job',
      'name the job',
    ]);
  });

  it('is noted at once when the page goes away before the last change is stored, and is stored by whoever reads it', async () => {
    const { store, saved, leave, note, tell } = bench();
    store.getState().open('job1');
    await settle();
    leave();
    expect(note()).toBeNull();
    store.getState().apply(setUnit('in'));
    store.getState().apply(renameJob('A'));
    leave();
    expect(note()).toMatchObject({ revision: 1, state: { job: { name: 'A' } } });
    // A page that comes back goes on storing; the note has had its time then.
    await vi.waitFor(() => expect(store.getState().keeping.kind).toBe('kept'));
    expect(note()).toBeNull();

    store.getState().apply(renameJob('B'));
    leave();
    tell(true);
    await vi.waitFor(() => expect(note()).toBeNull());
    expect(saved.at(-1)?.state.job.name).toBe('B');
    expect(store.getState().state?.job.name).toBe('B');
  });

  it('leaves no note where another tab has taken the job over', async () => {
    const { store, leave, note, tell } = bench();
    store.getState().open('job1');
    await settle();
    store.getState().apply(setUnit('in'));
    tell(false);
    leave();
    expect(note()).toBeNull();
  });

  it('is read once, when it is known who writes, and again by whoever takes it over', async () => {
    const { store, tell, loads } = bench();
    store.getState().open('job1');
    expect(loads()).toBe(0);
    await settle();
    expect(loads()).toBe(1);
    tell(false);
    await settle();
    expect(loads()).toBe(1);
    tell(true);
    await settle();
    expect(loads()).toBe(2);
  });

  it('loses nothing when storage refuses, and keeps it on the next try', async () => {
    const { store, saved, refuse } = bench();
    store.getState().open('job1');
    await settle();
    refuse({ ok: false, reason: 'storage-full' });
    store.getState().apply(setUnit('in'));
    await vi.waitFor(() => expect(store.getState().keeping).toEqual({ kind: 'failing', reason: 'storage-full' }));
    expect(store.getState().state?.job.unit).toBe('in');
    refuse(null);
    store.getState().retry();
    await vi.waitFor(() => expect(store.getState().keeping.kind).toBe('kept'));
    expect(saved.at(-1)?.state.job.unit).toBe('in');
  });

  it('is not changed by a tab that may not write', async () => {
    const { store, tell } = bench();
    store.getState().open('job1');
    await settle();
    tell(false);
    store.getState().apply(setUnit('in'));
    expect(store.getState().state?.job.unit).toBe('mm');
    tell(true);
    await settle();
    store.getState().apply(setUnit('in'));
    expect(store.getState().state?.job.unit).toBe('in');
  });

  it('refuses to take back a change that leads to a broken job, and says so', async () => {
    const { store } = bench({
      past: [{ label: 'x', patches: [], inverse: [{ op: 'remove', path: ['unit'] }] }],
      future: [],
    });
    store.getState().open('job1');
    await settle();
    store.getState().undo();
    expect(store.getState().state?.job).toEqual(sampleJob());
    expect(store.getState().notice).toMatch(/cannot be taken back/);
  });

  it('hangs again with its pictures when another tab deleted it, and goes on from there', async () => {
    const { store, saved, created, refuse } = bench();
    store.getState().open('job1');
    await settle();
    await settle();
    refuse({ ok: false, reason: 'deleted-elsewhere' });
    store.getState().apply(setUnit('in'));
    await vi.waitFor(() => expect(store.getState().keeping).toEqual({ kind: 'failing', reason: 'deleted-elsewhere' }));
    refuse(null);
    await store.getState().hangAgain();
    expect(created).toEqual([{ state: store.getState().state, blobs: [PICTURE] }]);
    expect(store.getState().keeping.kind).toBe('kept');
    store.getState().apply(setUnit('mm'));
    await vi.waitFor(() => expect(saved).toHaveLength(1));
    expect(saved[0]!.revision).toBe(1);
  });

  it('stores the last of several changes also when it is left at once', async () => {
    const { store, saved } = bench();
    const leave = store.getState().open('job1');
    await settle();
    store.getState().apply(setUnit('in'));
    store.getState().apply(renameJob('B'));
    leave();
    await vi.waitFor(() => expect(saved.at(-1)?.state.job.name).toBe('B'));
  });

  it('forgets an answer that comes after it was left', async () => {
    const { store } = bench();
    const leave = store.getState().open('job1');
    leave();
    await settle();
    expect(store.getState().state).toBeNull();
  });
});
