/**
 * Who may write a job: the tab that holds its lock. A second tab reads only, until it takes the lock over.
 * @returns a function that gives the lease back.
 */
export function takeLease(jobId: string, steal: boolean, onChange: (mayWrite: boolean) => void): () => void {
  let release: () => void = () => {};
  let over = false;
  const held = new Promise<void>((resolve) => {
    release = resolve;
  });
  const name = `steady-moth-job-${jobId}`;
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
    ? navigator.locks.request(name, { steal: true }, hold)
    : navigator.locks.request(name, { ifAvailable: true }, async (lock) => {
        if (lock) return hold();
        onChange(false);
      });
  ask.catch(lost);
  return () => {
    over = true;
    release();
  };
}
