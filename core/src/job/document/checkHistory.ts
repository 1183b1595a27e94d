import { checkJob } from './checkJob';
import type { JobDocument } from './document';
import { type Change, type History, type JobState, MOST_CHANGES, redo, undo } from './history';

/**
 * Checks a history from a file or from storage against its job: every change has the form of one; taking all of them
 * back, one by one, never fails and ends at a sound document, and so does making all of them again.
 * Null when it does not hold; the job itself is then still good, only without its history.
 */
export function checkHistory(history: unknown, job: JobDocument): History | null {
  if (!isHistory(history)) return null;
  const { past, future } = history;
  try {
    const sound = (now: JobState) => checkJob(now.job).ok;
    // Every change is tried both ways: all the way back, all the way on, and back to where the job stands.
    let state: JobState = { job, history: { past, future } };
    while (state.history.past.length) state = undo(state);
    if (past.length && !sound(state)) return null;
    while (state.history.future.length) state = redo(state);
    if (past.length + future.length > 0 && !sound(state)) return null;
    while (state.history.past.length > past.length) state = undo(state);
    return future.length === 0 || sound(state) ? { past, future } : null;
  } catch {
    return null;
  }
}

/** Has the form of a history, whatever it leads to. */
export function isHistory(history: unknown): history is History {
  if (typeof history !== 'object' || history === null) return false;
  const { past, future } = history as Partial<History>;
  return isChangeList(past) && isChangeList(future);
}

function isChangeList(list: unknown): list is Change[] {
  return Array.isArray(list) && list.length <= MOST_CHANGES && list.every(isChange);
}

function isChange(change: unknown): change is Change {
  if (typeof change !== 'object' || change === null) return false;
  const { label, patches, inverse } = change as Partial<Change>;
  return typeof label === 'string' && label.length <= 200 && arePatches(patches) && arePatches(inverse);
}

const OPERATIONS = new Set(['add', 'remove', 'replace']);

function arePatches(patches: unknown): boolean {
  return (
    Array.isArray(patches) &&
    patches.every(
      (p) =>
        typeof p === 'object' &&
        p !== null &&
        OPERATIONS.has(p.op) &&
        Array.isArray(p.path) &&
        p.path.length <= 12 &&
        p.path.every((step: unknown) => typeof step === 'number' || (typeof step === 'string' && step.length <= 80)),
    )
  );
}
