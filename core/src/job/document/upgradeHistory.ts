import { enablePatches, Immer } from 'immer';
import { isHistory } from './checkHistory';
import { diff } from './diff';
import { DOCUMENT_VERSION } from './document';
import type { Change } from './history';
import { upgradeFrom } from './upgrade';

type Loose = Record<string, unknown>;

enablePatches();
const plain = new Immer({ autoFreeze: false });

/** States that are upgraded, times how large each is: what lies further back of a huge job is forgotten. */
const MOST_WORK = 6e6;

/**
 * A history of a document of an earlier version, for the same document in its present form: each state that it leads to
 * is upgraded in turn, and each change becomes what makes one of the other. A change that no longer changes anything
 * goes. One of the present version is given back as it is; null where it does not lead through states of this document.
 */
export function upgradeHistory(document: unknown, history: unknown): unknown {
  const { version } = (document ?? {}) as Loose;
  if (typeof version !== 'number' || version >= DOCUMENT_VERSION || !isHistory(history)) return history;
  const size = 100 + Object.keys((document as { part?: { points?: object } }).part?.points ?? {}).length;
  const most = Math.max(1, Math.floor(MOST_WORK / size));
  const present = document as Loose;
  try {
    const now = upgradeFrom(version, present);
    const past = walkStates(present, now, version, history.past.slice(-most).reverse(), 'inverse').reverse();
    return { past, future: walkStates(present, now, version, history.future.slice(0, most), 'patches') };
  } catch {
    return null;
  }
}

/** Goes from the present state along changes, forwards or back, and tells each between upgraded states. */
function walkStates(
  present: Loose,
  now: Loose,
  version: number,
  changes: readonly Change[],
  way: 'patches' | 'inverse',
): Change[] {
  let [state, upgraded] = [present, now];
  return changes.flatMap((change) => {
    state = plain.applyPatches(state, change[way]);
    const next = upgradeFrom(version, state);
    const [on, back] = [diff(upgraded, next), diff(next, upgraded)];
    upgraded = next;
    if (on.length === 0) return [];
    const told: Change =
      way === 'patches'
        ? { label: change.label, patches: on, inverse: back }
        : { label: change.label, patches: back, inverse: on };
    return [told];
  });
}
