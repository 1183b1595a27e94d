import { enablePatches, Immer, type Patch } from 'immer';
import { countOf } from '../../sketch';
import type { JobDocument } from './document';

enablePatches();

/** A change with a name in words, as undo shows it. */
export interface JobAction {
  label: string;
  recipe(job: JobDocument): void;
}

/** Several changes that are made, and taken back, as one. */
export function together(label: string, ...actions: JobAction[]): JobAction {
  return {
    label,
    recipe(job) {
      for (const action of actions) action.recipe(job);
    },
  };
}

/** One change that was made: how to make it again, and how to take it back. Plain data, kept in storage. */
export interface Change {
  label: string;
  patches: Patch[];
  inverse: Patch[];
}

export interface History {
  past: Change[];
  future: Change[];
}

export interface JobState {
  job: JobDocument;
  history: History;
}

/** Changes that can be taken back; older ones are forgotten. */
export const MOST_CHANGES = 1000;

export const NO_HISTORY: History = { past: [], future: [] };

/** Documents of more points are not frozen after a change: that would walk over all of them each time. */
const MOST_FROZEN = 2000;
const freezing = new Immer();
const plain = new Immer({ autoFreeze: false });
const by = ({ part }: JobDocument): Immer => (countOf(part) > MOST_FROZEN ? plain : freezing);

/** Makes a change. One that changes nothing gives the same state back. */
export function act(state: JobState, action: JobAction): JobState {
  const [job, patches, inverse] = by(state.job).produceWithPatches(state.job, (draft) => {
    action.recipe(draft);
  });
  if (patches.length === 0) return state;
  const past = [...state.history.past, { label: action.label, patches, inverse }].slice(-MOST_CHANGES);
  return { job, history: { past, future: [] } };
}

export function undo(state: JobState): JobState {
  const change = state.history.past.at(-1);
  if (!change) return state;
  return {
    job: by(state.job).applyPatches(state.job, change.inverse),
    history: { past: state.history.past.slice(0, -1), future: [change, ...state.history.future] },
  };
}

export function redo(state: JobState): JobState {
  const [change, ...future] = state.history.future;
  if (!change) return state;
  return {
    job: by(state.job).applyPatches(state.job, change.patches),
    history: { past: [...state.history.past, change], future },
  };
}
