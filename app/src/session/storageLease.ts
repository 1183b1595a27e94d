/**
 * Who may write a job: the tab that holds its lease. A second tab reads only, until it takes the lease over.
 * @returns a function that gives the lease back.
 */
export type Lease = (jobId: string, steal: boolean, onChange: (mayWrite: boolean) => void) => () => void;

/** What the lease in storage stands on, handed in so that tests can hand in others. */
export interface LeaseSurroundings {
  storage: Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>;
  /** Told when another tab wrote to the storage. */
  onOtherTab(told: () => void): () => void;
  onLeaving(told: () => void): () => void;
  now(): number;
  newName(): string;
}

export const LEASE = {
  /** How long a lease holds that is not renewed, ms: a tab in the background is woken once a minute. */
  holdsMs: 75_000,
  renewMs: 5_000,
  /** Two tabs that take it in one moment see after this which of them wrote last, ms. */
  settleMs: 120,
} as const;

/**
 * Who may write a job, where the browser has no locks: on pages that were not fetched securely, as from another machine
 * of the local network. A note in storage says which tab it is, and until when.
 */
export const storageLease =
  ({ storage, onOtherTab, onLeaving, now, newName }: LeaseSurroundings): Lease =>
  (jobId, steal, onChange) => {
    const key = `steady-moth-lease-${jobId}`;
    const me = newName();
    let over = false;
    let told: boolean | null = null;
    const tell = (mayWrite: boolean) => {
      if (over || told === mayWrite) return;
      told = mayWrite;
      onChange(mayWrite);
    };
    const holder = (): string | null => {
      const [name, until] = (storage.getItem(key) ?? '').split(' ');
      return name && Number(until) > now() ? name : null;
    };
    const take = () => storage.setItem(key, `${me} ${now() + LEASE.holdsMs}`);
    const renew = () => {
      if (told && holder() === me) take();
      else if (told) tell(false);
    };
    const giveBack = () => {
      if (holder() === me) storage.removeItem(key);
    };
    if (steal || holder() === null) take();
    const settled = setTimeout(() => tell(holder() === me), LEASE.settleMs);
    const renewing = setInterval(renew, LEASE.renewMs);
    const deaf = [onOtherTab(() => told && holder() !== me && tell(false)), onLeaving(giveBack)];
    return () => {
      giveBack();
      over = true;
      clearTimeout(settled);
      clearInterval(renewing);
      for (const stop of deaf) stop();
    };
  };

/** Whether no tab works on a job, by the note in storage. */
export function isFreeInStorage(jobId: string, { storage, now }: Pick<LeaseSurroundings, 'storage' | 'now'>): boolean {
  const until = (storage.getItem(`steady-moth-lease-${jobId}`) ?? '').split(' ')[1];
  return !(Number(until) > now());
}
