import { act, checkJob, type JobAction, type JobState, redo, undo } from '@steady-moth/core/job';
import { create } from 'zustand';
import { type LoadResult, loadJob, type NewBlob, type SaveResult, saveJob, database as theDatabase } from '../storage';
import { takeLease } from './lease';

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
  dismissNotice(): void;
}

/** The stores' ways to the outside, handed in so that tests can hand in others. */
export interface Outside {
  load(id: string): Promise<LoadResult>;
  save(state: JobState, revision: number, blobs: NewBlob[]): Promise<SaveResult>;
  lease: typeof takeLease;
  now(): number;
}

export function createJobStore(outside: Outside) {
  return create<JobStore>((set, get) => {
    let revision = 0;
    let waiting: NewBlob[] = [];
    let saving = false;
    let dirty = false;
    let giveBack = () => {};

    const load = async (id: string) => {
      const result = await outside.load(id);
      if (get().id !== id) return;
      if (!result.ok) {
        set({ fault: result, state: null });
        return;
      }
      revision = result.revision;
      dirty = false;
      set({ state: result.state, fault: null, keeping: { kind: 'kept', at: outside.now() } });
    };

    /** One save at a time; changes made meanwhile go into the next. */
    const save = async () => {
      if (saving) return;
      saving = true;
      while (dirty) {
        const { state, id } = get();
        if (!state) break;
        dirty = false;
        const blobs = waiting;
        waiting = [];
        const result = await outside.save(state, revision, blobs);
        if (get().id !== id) break;
        if (result.ok) {
          revision = result.revision;
          if (!dirty) set({ keeping: { kind: 'kept', at: outside.now() } });
        } else {
          waiting = [...blobs, ...waiting];
          dirty = true;
          set({ keeping: { kind: 'failing', reason: result.reason } });
          break;
        }
      }
      saving = false;
    };

    const change = (next: JobState | null) => {
      if (!next || next === get().state) return;
      set({ state: next, keeping: { kind: 'keeping' } });
      dirty = true;
      void save();
    };

    const lease = (id: string, steal: boolean) => {
      giveBack();
      giveBack = outside.lease(id, steal, (mayWrite) => {
        if (get().id !== id) return;
        set({ mayWrite });
        // Whoever comes to write reads first what the other tab had done; and nothing is read before it is known who
        // writes, since what was changed in between would be read over.
        if (mayWrite || get().state === null) void load(id);
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
        set({ id, state: null, fault: null, mayWrite: true, notice: null });
        waiting = [];
        dirty = false;
        lease(id, false);
        return () => {
          giveBack();
          giveBack = () => {};
          if (get().id === id) set({ id: null, state: null });
        };
      },
      takeOver() {
        const { id } = get();
        if (id) lease(id, true);
      },
      apply(action, blobs = []) {
        const { state, mayWrite } = get();
        if (!state || !mayWrite) return;
        waiting.push(...blobs);
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
        set({ keeping: { kind: 'keeping' } });
        void save();
      },
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
  load: (id) => loadJob(theDatabase, id),
  save: (state, revision, blobs) => saveJob(theDatabase, state, revision, blobs),
  lease: takeLease,
  now: Date.now,
});
