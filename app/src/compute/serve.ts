import * as Comlink from 'comlink';
import { BEAT, LIVES } from './beat';

/** Offers a worker's calls to whoever hired it, and answers when asked whether the worker is there. */
export function serve(calls: object): void {
  holdLock();
  addEventListener('message', ({ data }) => {
    if (data === BEAT) postMessage(BEAT);
  });
  Comlink.expose(calls);
}

/** Holds a lock as long as this worker lives: the browser gives it away the moment it dies, however it died. */
function holdLock(): void {
  const { locks } = navigator as { locks?: LockManager };
  if (!locks) return;
  const name = `steady-moth-worker-${crypto.randomUUID()}`;
  void locks.request(name, () => {
    postMessage({ [LIVES]: name });
    return new Promise(() => {});
  });
}
