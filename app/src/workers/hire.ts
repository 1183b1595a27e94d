import * as Comlink from 'comlink';

/** A worker that is started when first needed, and again after it died. */
export interface Hired<Face extends object> {
  /**
   * Runs a call in the worker. Aborting drops the answer; a worker that dies fails every open call, and the next call
   * starts a new one.
   */
  call<Answer>(work: (face: Face) => Promise<Answer>, signal?: AbortSignal): Promise<Answer>;
  /** Ends the worker at once; what it was doing is given up. */
  dismiss(): void;
  /** Told whenever the worker ended, and with it all that it held. */
  onEnd(told: () => void): void;
}

/** What a call fails with when its worker died under it. */
export class WorkerDied extends Error {
  constructor() {
    super('The computation stopped unexpectedly. Please try again.');
    this.name = 'WorkerDied';
  }
}

export function hire<Face extends object>(make: () => Worker): Hired<Face> {
  let worker: Worker | null = null;
  let face: Face | null = null;
  let failOpen = new Set<(reason: Error) => void>();
  const tellEnd: (() => void)[] = [];
  const end = (reason: Error) => {
    worker?.terminate();
    worker = null;
    face = null;
    const open = failOpen;
    failOpen = new Set();
    for (const fail of open) fail(reason);
    for (const tell of tellEnd) tell();
  };
  const start = () => {
    worker = make();
    worker.onerror = () => end(new WorkerDied());
    // Every function of a face is asynchronous, so the wrapped face has the face's own type.
    face = Comlink.wrap<Face>(worker) as unknown as Face;
    return face;
  };
  return {
    call(work, signal) {
      return new Promise((resolve, reject) => {
        if (signal?.aborted) {
          reject(signal.reason);
          return;
        }
        const settle =
          <T>(then: (value: T) => void) =>
          (value: T) => {
            failOpen.delete(reject);
            signal?.removeEventListener('abort', onAbort);
            then(value);
          };
        const onAbort = () => settle(reject)(signal?.reason);
        failOpen.add(reject);
        signal?.addEventListener('abort', onAbort);
        work(face ?? start()).then(settle(resolve), settle(reject));
      });
    },
    dismiss: () => end(new DOMException('Cancelled', 'AbortError')),
    onEnd: (told) => void tellEnd.push(told),
  };
}
