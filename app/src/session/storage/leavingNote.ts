import type { JobState } from '@steady-moth/core/job';

/**
 * What was not stored yet when its page went away. The database answers in its own time, and a page that is closed
 * gets none; local storage takes a text at once. So the last state is noted there while the page goes, and is read
 * by whoever opens the job next.
 */
export interface LeavingNote {
  /** The last revision that is known to be stored. One save on top of it may have been under way. */
  revision: number;
  document: unknown;
  history: unknown;
}

/** Longer texts are not noted, characters: browsers give local storage about five million in all. */
const LONGEST = 2_000_000;

const keyOf = (id: string): string => `steady-moth-unsaved-${id}`;

/** Notes a state. A history that makes it too long is left out; a job too long by itself is not noted: false. */
export function writeNote(storage: Storage, { job, history }: JobState, revision: number): boolean {
  for (const kept of [history, null]) {
    const text = JSON.stringify({ revision, document: job, history: kept } satisfies LeavingNote);
    if (text.length > LONGEST) continue;
    try {
      storage.setItem(keyOf(job.id), text);
      return true;
    } catch {
      // Full: tried again without the history.
    }
  }
  return false;
}

/** The note that builds on what is stored at `revision`, unchecked; null where there is none, or an older one. */
export function readNote(storage: Storage, id: string, revision: number): LeavingNote | null {
  try {
    const note = JSON.parse(storage.getItem(keyOf(id)) ?? 'null') as LeavingNote | null;
    if (note === null || typeof note.revision !== 'number') return null;
    return revision === note.revision || revision === note.revision + 1 ? note : null;
  } catch {
    return null;
  }
}

export function dropNote(storage: Storage, id: string): void {
  try {
    storage.removeItem(keyOf(id));
  } catch {
    // Storage that is closed to us holds no note.
  }
}
