import * as Comlink from 'comlink';
import { BEAT, LIVES } from './beat';

/** What a call may say of itself. */
interface CallOptions {
  signal?: AbortSignal;
  /** Aborting is somebody's wish to have it over, not only a later call in its place: the worker ends if it must. */
  endOnAbort?: boolean;
  /** How long the worker may be silent while this call is open, ms: longer than any stretch that it works in one go. */
  silentMs?: number;
}

/** A worker that is started when first needed, and again after it died. */
export interface WorkerClient<Calls extends object> {
  /**
   * Runs a call in the worker. Aborting drops the answer; with `endOnAbort` it also ends the worker where it does not
   * look up from that call soon. A worker that dies, or falls silent, fails every open call, and the next call starts
   * a new one.
   */
  call<Answer>(work: (calls: Calls) => Promise<Answer>, options?: AbortSignal | CallOptions): Promise<Answer>;
  /** Ends the worker at once; what it was doing is given up. */
  terminate(): void;
  /** Told whenever the worker ended, and with it all that it held; returns a function that ends the telling. */
  onEnd(told: () => void): () => void;
}

/** A call that was not answered yet. */
interface OpenCall {
  silentMs: number;
  begunAt: number;
  begin(): void;
}

/** What a call fails with when its worker died under it. */
export class WorkerDied extends Error {
  constructor() {
    super('The computation stopped unexpectedly. Please try again.');
    this.name = 'WorkerDied';
  }
}

/** A page that was asleep: its timers ran late, and so did the worker's. */
const ASLEEP_FACTOR = 3;

export const WORKER = {
  /** How often a worker with open calls is asked whether it is there, ms. */
  beatMs: 1000,
  /** How long it may be silent where a call does not say, ms. */
  silentMs: 30_000,
  /** How long it may go on with what was given up before it is ended, ms. */
  graceMs: 1500,
} as const;

export function startWorker<Calls extends object>(
  make: () => Worker,
  { beatMs, silentMs, graceMs }: { beatMs: number; silentMs: number; graceMs: number } = WORKER,
): WorkerClient<Calls> {
  let worker: Worker | null = null;
  let calls: Calls | null = null;
  const open = new Map<(reason: Error) => void, OpenCall>();
  let beat: ReturnType<typeof setInterval> | null = null;
  /** When it was last heard, and when last asked; a page that slept asks late, and excuses it as long. */
  let heardAt = 0;
  let askedAt = 0;
  let excusedAt = 0;
  const tellEnd = new Set<() => void>();

  const rest = () => {
    if (beat) clearInterval(beat);
    beat = null;
  };
  /** @param since calls that began later are begun anew in another worker: they only stood behind what was given up */
  const end = (reason: Error, since = Number.POSITIVE_INFINITY) => {
    rest();
    worker?.terminate();
    worker = null;
    calls = null;
    const failing = [...open].filter(([, call]) => call.begunAt <= since);
    for (const [fail] of failing) open.delete(fail);
    for (const [fail] of failing) fail(reason);
    for (const tell of tellEnd) tell();
    for (const call of [...open.values()]) call.begin();
  };
  const start = () => {
    const mine = make();
    worker = mine;
    mine.onerror = () => worker === mine && end(new WorkerDied());
    mine.addEventListener('message', ({ data }) => {
      if (data === BEAT && worker === mine) heardAt = performance.now();
      // The lock becomes free once the worker is gone: one that works without looking up keeps it, a dead one cannot.
      const lock = data !== null && typeof data === 'object' ? (data as { [LIVES]?: unknown })[LIVES] : undefined;
      if (typeof lock === 'string')
        void navigator.locks?.request(lock, () => worker === mine && end(new WorkerDied())).catch(() => {});
    });
    // Every call is asynchronous, so what is wrapped has the same type.
    calls = Comlink.wrap<Calls>(mine) as unknown as Calls;
    return calls;
  };
  /** A worker that died of want of memory tells nobody: it is asked as long as somebody waits for it. */
  const listen = () => {
    if (beat) return;
    excusedAt = performance.now();
    askedAt = excusedAt;
    worker?.postMessage(BEAT);
    beat = setInterval(() => {
      if (open.size === 0) return rest();
      const now = performance.now();
      if (now - askedAt > ASLEEP_FACTOR * beatMs) excusedAt = now;
      askedAt = now;
      if (now - Math.max(heardAt, excusedAt) > Math.max(...[...open.values()].map((call) => call.silentMs)))
        end(new WorkerDied());
      else worker?.postMessage(BEAT);
    }, beatMs);
  };
  /** What was given up may hold the worker for good: one that has not looked up by then is ended. */
  const endUnlessHeard = (mine: Worker | null) => {
    const since = performance.now();
    mine?.postMessage(BEAT);
    setTimeout(() => {
      if (worker === mine && mine && heardAt < since) end(new DOMException('Cancelled', 'AbortError'), since);
    }, graceMs);
  };

  return {
    call(work, options = {}) {
      const given: CallOptions = options instanceof AbortSignal ? { signal: options } : options;
      const { signal, endOnAbort = false, silentMs: silent = silentMs } = given;
      return new Promise((resolve, reject) => {
        if (signal?.aborted) {
          reject(signal.reason);
          return;
        }
        const settle =
          <T>(then: (value: T) => void) =>
          (value: T) => {
            open.delete(reject);
            signal?.removeEventListener('abort', onAbort);
            then(value);
          };
        const onAbort = () => {
          settle(reject)(signal?.reason);
          if (endOnAbort) endUnlessHeard(worker);
        };
        const begin = () => {
          const mine = calls ?? start();
          // What a worker says that was ended since does not count: the call may have begun anew.
          const isOwn =
            <T>(then: (value: T) => void) =>
            (value: T) =>
              calls === mine && then(value);
          work(mine).then(isOwn(settle(resolve)), isOwn(settle(reject)));
          listen();
        };
        open.set(reject, { silentMs: silent, begunAt: performance.now(), begin });
        signal?.addEventListener('abort', onAbort);
        begin();
      });
    },
    terminate: () => end(new DOMException('Cancelled', 'AbortError')),
    onEnd(told) {
      tellEnd.add(told);
      return () => void tellEnd.delete(told);
    },
  };
}
