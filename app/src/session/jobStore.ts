import { act, checkJob, type JobAction, type JobState, redo, undo } from '@steady-moth/core/job';
import { create } from 'zustand';
import { type Lease, takeLease } from './lease';
import {
  blobsOfJob,
  createJob,
  dropNote,
  type LoadResult,
  loadJob,
  type NewBlob,
  readNote,
  type SaveResult,
  saveJob,
  database as theDatabase,
  writeNote,
} from './storage';

/** How the open job stands with storage. */
type Keeping =
  | { kind: 'kept'; at: number }
  | { kind: 'keeping' }
  | { kind: 'failing'; reason: Extract<SaveResult, { ok: false }>['reason'] };

export interface JobStore {
  id: string | null;
  state: JobState | null;
  fault: Extract<LoadResult, { ok: false }> | null;
  keeping: Keeping;
  /** False while another tab works on the same job. */
  mayWrite: boolean;
  /** Said once, for instance that a change could not be taken back. */
  notice: string | null;
  open(id: string): () => void;
  takeOver(): void;
  apply(action: JobAction, blobs?: NewBlob[]): void;
  undo(): void;
  redo(): void;
  retry(): void;
  /** Stores the job again after another tab deleted it, with the pictures that are still at hand. */
  hangAgain(): Promise<void>;
  /** The pictures of the open job that are at hand. */
  pictures(): NewBlob[];
  dismissNotice(): void;
}

/** The stores' ways to the outside, handed in so that tests can hand in others. */
export interface Outside {
  /** `mayWrite`: a note that a page left when it went away comes before what is stored. */
  load(id: string, mayWrite: boolean): Promise<LoadResult>;
  save(state: JobState, revision: number, blobs: NewBlob[]): Promise<SaveResult>;
  /** Stores a job that is no longer there, with all its pictures. */
  create(state: JobState, blobs: NewBlob[]): Promise<SaveResult>;
  /** The stored pictures of a job, as handles. */
  blobs(state: JobState): Promise<NewBlob[]>;
  lease: Lease;
  /** Notes at once, for whoever opens the job next, what is not stored on top of `revision` yet. */
  note(state: JobState, revision: number): void;
  /** Forgets the note: it is stored. */
  dropNote(id: string): void;
  onLeaving(told: () => void): void;
  now(): number;
}

/** One job while it is open, and until its last change is stored. */
interface Sitting {
  id: string;
  revision: number;
  /** The state that is not stored yet, and pictures that came in with it. */
  unsaved: JobState | null;
  /** The state that is on its way into storage. */
  underWay: JobState | null;
  isNoted: boolean;
  waiting: NewBlob[];
  saving: boolean;
  /** Its pictures, held on to: when another tab deletes the job they are still at hand. */
  held: Map<string, NewBlob>;
}

/** Reads jobs and stores them, the one that was just left among them. */
function createKeeper(
  outside: Outside,
  set: (change: Partial<JobStore>) => void,
  get: () => JobStore,
  /** The job that is open. */
  current: () => Sitting | null,
) {
  /** What is being stored. */
  const storing = new Set<Sitting>();

  const load = async (mine: Sitting) => {
    const result = await outside
      .load(mine.id, get().mayWrite)
      .catch(() => ({ ok: false as const, reason: 'storage-failed' as const }));
    if (current() !== mine) return;
    if (!result.ok) {
      set({ fault: result, state: null });
      return;
    }
    mine.revision = result.revision;
    mine.unsaved = null;
    set({ state: result.state, fault: null, keeping: { kind: 'kept', at: outside.now() } });
    if (result.isNoted) {
      mine.isNoted = true;
      mine.unsaved = result.state;
      set({ keeping: { kind: 'keeping' } });
      void save(mine);
    }
    for (const blob of await outside.blobs(result.state).catch(() => [])) mine.held.set(blob.hash, blob);
  };

  /** One save at a time; changes made meanwhile go into the next. Goes on for a job that was left before its end. */
  const save = async (mine: Sitting) => {
    if (mine.saving) return;
    mine.saving = true;
    storing.add(mine);
    while (mine.unsaved) {
      const state = mine.unsaved;
      const blobs = mine.waiting;
      mine.unsaved = null;
      mine.waiting = [];
      mine.underWay = state;
      const result = await outside.save(state, mine.revision, blobs);
      mine.underWay = null;
      if (result.ok) {
        mine.revision = result.revision;
        if (mine.isNoted && !mine.unsaved) {
          mine.isNoted = false;
          outside.dropNote(mine.id);
        }
        if (current() === mine && !mine.unsaved) set({ keeping: { kind: 'kept', at: outside.now() } });
      } else {
        mine.waiting = [...blobs, ...mine.waiting];
        mine.unsaved ??= state;
        if (current() === mine) set({ keeping: { kind: 'failing', reason: result.reason } });
        break;
      }
    }
    mine.saving = false;
    // What storage refused is noted as well, should the page go away with it.
    if (!mine.unsaved) storing.delete(mine);
  };

  outside.onLeaving(() => {
    for (const one of storing) {
      const last = one.unsaved ?? one.underWay;
      // Another tab that took the job over has the last word.
      if (!last || (one === current() && !get().mayWrite)) continue;
      outside.note(last, one.revision);
      one.isNoted = true;
    }
  });
  return { load, save };
}

export function createJobStore(outside: Outside) {
  return create<JobStore>((set, get) => {
    let sitting: Sitting | null = null;
    let giveBack = () => {};
    const { load, save } = createKeeper(outside, set, get, () => sitting);

    const change = (next: JobState | null) => {
      if (!sitting || !next || next === get().state) return;
      set({ state: next, keeping: { kind: 'keeping' } });
      sitting.unsaved = next;
      void save(sitting);
    };

    const lease = (mine: Sitting, steal: boolean) => {
      giveBack();
      giveBack = outside.lease(mine.id, steal, (mayWrite) => {
        if (sitting !== mine) return;
        set({ mayWrite });
        // Whoever comes to write reads first what the other tab had done; and nothing is read before it is known who
        // writes, since what was changed in between would be read over.
        if (mayWrite || get().state === null) void load(mine);
      });
    };

    return {
      id: null,
      state: null,
      fault: null,
      keeping: { kind: 'kept', at: 0 },
      mayWrite: true,
      notice: null,
      open(id) {
        const mine: Sitting = {
          id,
          revision: 0,
          unsaved: null,
          underWay: null,
          isNoted: false,
          waiting: [],
          saving: false,
          held: new Map(),
        };
        sitting = mine;
        set({ id, state: null, fault: null, mayWrite: true, notice: null, keeping: { kind: 'kept', at: 0 } });
        lease(mine, false);
        return () => {
          if (sitting !== mine) return;
          giveBack();
          giveBack = () => {};
          sitting = null;
          set({ id: null, state: null });
        };
      },
      takeOver() {
        if (sitting) lease(sitting, true);
      },
      apply(action, blobs = []) {
        const { state, mayWrite } = get();
        if (!sitting || !state || !mayWrite) return;
        sitting.waiting.push(...blobs);
        for (const blob of blobs) sitting.held.set(blob.hash, blob);
        change(act(state, action));
      },
      undo() {
        const { state, mayWrite } = get();
        if (state && mayWrite) change(sound(undo, state, set));
      },
      redo() {
        const { state, mayWrite } = get();
        if (state && mayWrite) change(sound(redo, state, set));
      },
      retry() {
        if (!sitting) return;
        set({ keeping: { kind: 'keeping' } });
        void save(sitting);
      },
      async hangAgain() {
        const { state } = get();
        const mine = sitting;
        if (!mine || !state) return;
        set({ keeping: { kind: 'keeping' } });
        const result = await outside.create(state, [...mine.held.values()]);
        if (sitting !== mine) return;
        if (!result.ok) {
          set({ keeping: { kind: 'failing', reason: result.reason } });
          return;
        }
        mine.revision = result.revision;
        mine.waiting = [];
        if (mine.unsaved === state || mine.unsaved === null) {
          mine.unsaved = null;
          set({ keeping: { kind: 'kept', at: outside.now() } });
        } else void save(mine);
      },
      pictures: () => [...(sitting?.held.values() ?? [])],
      dismissNotice: () => set({ notice: null }),
    };
  });
}

/** Takes a step through a history that may have come from a file: what it leads to is checked before it is shown. */
function sound(
  step: (state: JobState) => JobState,
  state: JobState,
  set: (part: Partial<JobStore>) => void,
): JobState | null {
  try {
    const next = step(state);
    if (next === state || checkJob(next.job).ok) return next;
  } catch {
    // Said below, together with a step that leads to a broken document.
  }
  set({
    notice: 'This change cannot be taken back: the history in the file does not fit the job. The job itself is whole.',
  });
  return null;
}

export const useJob = createJobStore({
  load: (id, mayWrite) =>
    loadJob(theDatabase, id, (revision) => (mayWrite ? readNote(window.localStorage, id, revision) : null)),
  save: (state, revision, blobs) => saveJob(theDatabase, state, revision, blobs),
  create: ({ job, history }, blobs) => createJob(theDatabase, job, blobs, history),
  blobs: (state) => blobsOfJob(theDatabase, state),
  lease: takeLease,
  note: (state, revision) => writeNote(window.localStorage, state, revision),
  dropNote: (id) => dropNote(window.localStorage, id),
  onLeaving: (told) => globalThis.addEventListener?.('pagehide', told),
  now: Date.now,
});
