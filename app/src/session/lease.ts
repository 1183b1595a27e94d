import { newId } from './newId';
import { isFreeInStorage, type Lease, type LeaseSurroundings, storageLease } from './storageLease';

export type { Lease };

const nameOf = (jobId: string): string => `steady-moth-job-${jobId}`;

const lockLease: Lease = (jobId, steal, onChange) => {
  let release: () => void = () => {};
  let over = false;
  const held = new Promise<void>((resolve) => {
    release = resolve;
  });
  const hold = async () => {
    if (over) return;
    onChange(true);
    await held;
  };
  const lost = () => {
    if (!over) onChange(false);
  };
  // A stolen lock rejects the promise of the tab that had it.
  const ask = steal
    ? navigator.locks.request(nameOf(jobId), { steal: true }, hold)
    : navigator.locks.request(nameOf(jobId), { ifAvailable: true }, async (lock) => {
        if (lock) return hold();
        onChange(false);
      });
  ask.catch(lost);
  return () => {
    over = true;
    release();
  };
};

const on = (event: 'storage' | 'pagehide', told: () => void): (() => void) => {
  window.addEventListener(event, told);
  return () => window.removeEventListener(event, told);
};

const browser = (): LeaseSurroundings => ({
  storage: window.localStorage,
  onOtherTab: (told) => on('storage', told),
  onLeaving: (told) => on('pagehide', told),
  now: Date.now,
  newName: newId,
});

/** There are none on pages that were not fetched securely. */
const hasLocks = (): boolean => typeof navigator.locks?.request === 'function';

/** The browser's own locks, and a note in storage where it has none. */
export const takeLease: Lease = (jobId, steal, onChange) =>
  hasLocks() ? lockLease(jobId, steal, onChange) : storageLease(browser())(jobId, steal, onChange);

/** Whether no tab works on a job now. */
export async function isLeaseFree(jobId: string): Promise<boolean> {
  if (!hasLocks()) return isFreeInStorage(jobId, browser());
  return navigator.locks.request(nameOf(jobId), { ifAvailable: true }, async (lock) => lock !== null);
}
