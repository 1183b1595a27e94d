import 'fake-indexeddb/auto';
import { act, type JobState, NO_HISTORY, setUnit } from '@steady-moth/core/job';
import Dexie from 'dexie';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { sampleJob } from '../../../../core/src/job/sample.test-data';
import { keepCamera, listCameras } from './cameras';
import { type Database, openDatabase } from './database';
import { createJob, deleteJob, loadJob, saveJob, storedAsItIs } from './jobs';
import { dropNote, readNote, writeNote } from './leavingNote';
import { forgetReference, keepReference, listReferences } from './ownReferences';

const BLOB = 'b'.repeat(64);
const bytes = () => ({ hash: BLOB, bytes: new Blob(['pixels']), thumb: null });
const state = (): JobState => ({ job: sampleJob(BLOB), history: NO_HISTORY });
let db: Database;
let name: string;

beforeEach(() => {
  name = `test-${Math.random()}`;
  db = openDatabase(name);
});
afterEach(async () => {
  vi.restoreAllMocks();
  await db.delete();
});

/** Local storage with room for a given number of characters. */
function shelf(room = Number.POSITIVE_INFINITY): Storage {
  const texts = new Map<string, string>();
  return {
    setItem(key: string, text: string) {
      if (text.length > room) throw new DOMException('full', 'QuotaExceededError');
      texts.set(key, text);
    },
    getItem: (key: string) => texts.get(key) ?? null,
    removeItem: (key: string) => texts.delete(key),
  } as unknown as Storage;
}

describe('what a page notes when it goes away', () => {
  const changed = act(state(), setUnit('in'));

  it('is what the job opens with, whether or not the save under way got through; nothing older', async () => {
    await createJob(db, state().job, [bytes()]);
    const storage = shelf();
    writeNote(storage, changed, 1);
    const load = () => loadJob(db, 'job1', (revision) => readNote(storage, 'job1', revision));
    expect(await load()).toEqual({ ok: true, state: changed, revision: 1, isNoted: true });
    await saveJob(db, state(), 1);
    expect(await load()).toEqual({ ok: true, state: changed, revision: 2, isNoted: true });
    await saveJob(db, state(), 2);
    expect(await load()).toEqual({ ok: true, state: state(), revision: 3 });
  });

  it('gives way to what is stored when it is broken or misses a picture', async () => {
    await createJob(db, state().job, [bytes()]);
    const storage = shelf();
    const load = () => loadJob(db, 'job1', (revision) => readNote(storage, 'job1', revision));
    for (const text of ['{', '7', '{"revision":1,"document":{"id":"job1"},"history":null}']) {
      storage.setItem('steady-moth-unsaved-job1', text);
      expect(await load()).toEqual({ ok: true, state: state(), revision: 1 });
    }
    writeNote(storage, { job: sampleJob('d'.repeat(64)), history: NO_HISTORY }, 1);
    expect(await load()).toEqual({ ok: true, state: state(), revision: 1 });
  });

  it('goes without its history where there is no room, and says when there is none at all', () => {
    const room = JSON.stringify({ revision: 1, document: changed.job, history: null }).length;
    const storage = shelf(room);
    expect(writeNote(storage, changed, 1)).toBe(true);
    expect(readNote(storage, 'job1', 1)).toEqual({ revision: 1, document: changed.job, history: null });
    dropNote(storage, 'job1');
    expect(readNote(storage, 'job1', 1)).toBeNull();
    expect(writeNote(shelf(10), changed, 1)).toBe(false);
  });
});

describe('stored jobs', () => {
  it('come back as they were, history and all', async () => {
    await createJob(db, state().job, [bytes()]);
    const changed = act(state(), setUnit('in'));
    expect(await saveJob(db, changed, 1)).toEqual({ ok: true, revision: 2 });
    expect(await loadJob(db, 'job1')).toEqual({ ok: true, state: changed, revision: 2 });
  });

  it('are not overwritten by a tab that did not see the last change', async () => {
    await createJob(db, state().job, [bytes()]);
    const changed = act(state(), setUnit('in'));
    await saveJob(db, changed, 1);
    expect(await saveJob(db, state(), 1)).toEqual({ ok: false, reason: 'changed-elsewhere' });
    expect(await loadJob(db, 'job1')).toMatchObject({ state: changed });
  });

  it('are stored whole or not at all', async () => {
    await createJob(db, state().job, [bytes()]);
    // The same name again fails after its picture was written: the picture must be gone as well.
    const other = { hash: 'c'.repeat(64), bytes: new Blob(['x']), thumb: null };
    expect(await createJob(db, state().job, [other])).toEqual({ ok: false, reason: 'storage-failed' });
    expect(await db.blobs.get(other.hash)).toBeUndefined();
  });

  it('say when the storage is full, and keep what was there', async () => {
    await createJob(db, state().job, [bytes()]);
    vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
      throw new DOMException('full', 'QuotaExceededError');
    });
    expect(await saveJob(db, act(state(), setUnit('in')), 1)).toEqual({ ok: false, reason: 'storage-full' });
    vi.restoreAllMocks();
    expect(await loadJob(db, 'job1')).toMatchObject({ ok: true, revision: 1, state: state() });
  });

  it('are not put back by a tab that did not see them deleted', async () => {
    await createJob(db, state().job, [bytes()]);
    await deleteJob(db, 'job1');
    expect(await saveJob(db, act(state(), setUnit('in')), 1)).toEqual({ ok: false, reason: 'deleted-elsewhere' });
    expect(await db.jobs.count()).toBe(0);
  });

  it('never write over stored bytes: the same ones under another type leave the first as they are', async () => {
    await createJob(db, state().job, [bytes()]);
    const spoilt = { hash: BLOB, bytes: new Blob(['pixels'], { type: 'text/html' }), thumb: new Blob(['x']) };
    await createJob(db, { ...state().job, id: 'job2' }, [spoilt]);
    await saveJob(db, act(state(), setUnit('in')), 1, [spoilt]);
    expect((await db.blobs.get(BLOB))?.thumb).toBeNull();
  });

  it('are read from the text that is stored, and from the objects that earlier versions stored', async () => {
    await createJob(db, state().job, [bytes()]);
    const stored = await db.jobs.get('job1');
    expect(stored && JSON.parse(stored.document as string)).toEqual(state().job);
    const objects = { document: state().job, history: NO_HISTORY, revision: 1, changedAt: 0 };
    await db.jobs.put({ id: 'job2', ...objects });
    expect(await loadJob(db, 'job2')).toMatchObject({ ok: true, state: { job: state().job } });
    await db.jobs.put({ id: 'job3', ...objects, document: '{"version":' });
    expect(await loadJob(db, 'job3')).toMatchObject({ ok: false, reason: 'not-a-job' });
    expect(await storedAsItIs(db, 'job2')).toMatchObject({ document: state().job, blobs: [{ hash: BLOB }] });
    expect(await storedAsItIs(db, 'nowhere')).toBeNull();
  });

  it('are checked like any stranger when they are read', async () => {
    await db.jobs.put({
      id: 'job1',
      document: { ...sampleJob(BLOB), surprise: 1 },
      history: null,
      revision: 1,
      changedAt: 0,
    });
    expect(await loadJob(db, 'job1')).toEqual({ ok: false, reason: 'bad-field', place: '/' });
    expect(await loadJob(db, 'nowhere')).toEqual({ ok: false, reason: 'no-such-job' });
  });

  it('name the missing picture of a half-written job', async () => {
    await db.jobs.put({ id: 'job1', document: sampleJob(BLOB), history: null, revision: 1, changedAt: 0 });
    expect(await loadJob(db, 'job1')).toEqual({ ok: false, reason: 'picture-missing' });
  });

  it('lose only their history when that does not hold', async () => {
    await db.blobs.put(bytes());
    await db.jobs.put({ id: 'job1', document: sampleJob(BLOB), history: { past: 3 }, revision: 1, changedAt: 0 });
    expect(await loadJob(db, 'job1')).toMatchObject({ ok: true, state: { history: NO_HISTORY } });
  });

  it('go with their pictures, but for those that another job needs', async () => {
    await createJob(db, state().job, [bytes()]);
    await createJob(db, { ...state().job, id: 'job2' }, []);
    await deleteJob(db, 'job1');
    expect(await db.blobs.count()).toBe(1);
    await deleteJob(db, 'job2');
    expect(await db.blobs.count()).toBe(0);
  });
});

describe('the database', () => {
  it('takes over what its first version held', async () => {
    db.close();
    const old = new Dexie(name);
    await old.delete();
    const first = new Dexie(name);
    first.version(1).stores({ jobs: 'id, changedAt', blobs: 'hash' });
    await first
      .table('jobs')
      .put({ id: 'job1', document: sampleJob(BLOB), history: NO_HISTORY, revision: 4, changedAt: 1 });
    await first.table('blobs').put(bytes());
    first.close();
    db = openDatabase(name);
    expect(await loadJob(db, 'job1')).toMatchObject({ ok: true, revision: 4 });
    await db.notes.put({ key: 'unit', value: 'in' });
    expect(await db.notes.count()).toBe(1);
  });
});

describe('yardsticks and cameras of the person’s own', () => {
  it('are kept under their name, replaced by one of the same name, and forgotten', async () => {
    const db = openDatabase(`own-${Math.random()}`);
    const washer = { kind: 'disc' as const, name: 'washer', diameterMm: 24, thicknessMm: 2, plusMinusMm: null };
    await keepReference(db, washer);
    const rule = { kind: 'ruler' as const, name: 'my steel rule', thicknessMm: 1, plusMinusShare: 0.0005 };
    await keepReference(db, { ...rule, widthMm: 19.02, widthPlusMinusMm: 0.03 });
    await keepReference(db, { ...washer, diameterMm: 23.9 });
    expect((await listReferences(db)).map((y) => y.name)).toEqual(['my steel rule', 'washer']);
    await forgetReference(db, 'disc', 'washer');
    expect(await listReferences(db)).toEqual([{ ...rule, widthMm: 19.02, widthPlusMinusMm: 0.03 }]);
    await db.notes.put({ key: 'own yardsticks', value: [rule, { ...rule, name: 'bent', widthMm: 'wide' }] });
    expect(await listReferences(db)).toEqual([{ ...rule, widthMm: null, widthPlusMinusMm: null }]);
  });

  it('are looked at when they come from storage', async () => {
    const db = openDatabase(`own-${Math.random()}`);
    const sound = {
      name: 'phone',
      mean: [8, 1, 1, 0, 0],
      covariance: new Array(25).fill(0),
      widthPx: 4,
      heightPx: 3,
      focal35Mm: 27,
    };
    await db.notes.put({
      key: 'checked cameras',
      value: [sound, { ...sound, mean: [1] }, null, { ...sound, covariance: ['x'] }],
    });
    await db.notes.put({
      key: 'own yardsticks',
      value: [
        { kind: 'cube', name: 'x' },
        { kind: 'grid', name: 'g', pitchMm: -1, plusMinusShare: null },
      ],
    });
    expect(await listCameras(db)).toEqual([sound]);
    expect(await listReferences(db)).toEqual([]);
    await keepCamera(db, { ...sound, name: 'other' });
    expect((await listCameras(db)).map((c) => c.name)).toEqual(['phone', 'other']);
  });
});
