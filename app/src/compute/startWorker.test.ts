import * as Comlink from 'comlink';
import { describe, expect, it } from 'vitest';
import { BEAT } from './beat';
import { startWorker, WorkerDied } from './startWorker';

/** As quick as a test may be. */
const QUICK = { beatMs: 20, silentMs: 120, graceMs: 60 };

const face = {
  async double(n: number) {
    return 2 * n;
  },
  async never(): Promise<number> {
    return new Promise(() => {});
  },
  async later(ms: number): Promise<string> {
    await new Promise((resolve) => setTimeout(resolve, ms));
    return 'done';
  },
};

/** A stand-in for a worker over a message channel, which can be made to die, with and without a word. */
function makeFake() {
  const made: { onerror: (() => void) | null; mute(): void }[] = [];
  const make = () => {
    const { port1, port2 } = new MessageChannel();
    Comlink.expose(face, port2 as unknown as Comlink.Endpoint);
    let muted = false;
    port2.addEventListener('message', ({ data }) => {
      if (data === BEAT && !muted) port2.postMessage(BEAT);
    });
    const worker = Object.assign(port1, {
      terminate: () => (port1.close(), port2.close()),
      onerror: null as (() => void) | null,
      mute: () => {
        muted = true;
      },
    });
    port1.start();
    port2.start();
    made.push(worker);
    return worker as unknown as Worker;
  };
  return { make, made };
}

describe('a hired worker', () => {
  it('is started when first needed, and answers', async () => {
    const { make, made } = makeFake();
    const hired = startWorker<typeof face>(make);
    expect(made).toHaveLength(0);
    expect(await hired.call((w) => w.double(21))).toBe(42);
    expect(await hired.call((w) => w.double(4))).toBe(8);
    expect(made).toHaveLength(1);
    hired.terminate();
  });

  it('fails its open calls when it dies, and is started again', async () => {
    const { make, made } = makeFake();
    const hired = startWorker<typeof face>(make);
    const open = hired.call((w) => w.never());
    made[0]!.onerror?.();
    await expect(open).rejects.toBeInstanceOf(WorkerDied);
    expect(await hired.call((w) => w.double(1))).toBe(2);
    expect(made).toHaveLength(2);
    hired.terminate();
  });

  it('drops the answer of a call that was given up', async () => {
    const { make } = makeFake();
    const hired = startWorker<typeof face>(make);
    const stop = new AbortController();
    const open = hired.call((w) => w.never(), stop.signal);
    stop.abort();
    await expect(open).rejects.toMatchObject({ name: 'AbortError' });
    await expect(hired.call((w) => w.double(1), stop.signal)).rejects.toMatchObject({ name: 'AbortError' });
    hired.terminate();
  });

  it('is ended when it falls silent over an open call, tells so, and is started again', async () => {
    const { make, made } = makeFake();
    const hired = startWorker<typeof face>(make, QUICK);
    let ends = 0;
    hired.onEnd(() => (ends += 1));
    const open = hired.call((w) => w.never());
    made[0]!.mute();
    await expect(open).rejects.toBeInstanceOf(WorkerDied);
    expect(ends).toBe(1);
    expect(await hired.call((w) => w.double(3))).toBe(6);
    expect(made).toHaveLength(2);
    hired.terminate();
  });

  it('may work as long as it likes while it is heard, or as a call allows it to be silent', async () => {
    const { make, made } = makeFake();
    const hired = startWorker<typeof face>(make, QUICK);
    expect(await hired.call((w) => w.later(400))).toBe('done');
    made[0]!.mute();
    expect(await hired.call((w) => w.later(400), { silentMs: 5000 })).toBe('done');
    expect(made).toHaveLength(1);
    hired.terminate();
  });

  it('is ended where it goes on with what somebody cancelled, and not where a later call took its place', async () => {
    const { make, made } = makeFake();
    const hired = startWorker<typeof face>(make, QUICK);
    const [superseded, cancelled] = [new AbortController(), new AbortController()];
    const dropped = hired.call((w) => w.never(), superseded.signal);
    made[0]!.mute();
    superseded.abort();
    await expect(dropped).rejects.toMatchObject({ name: 'AbortError' });
    await new Promise((resolve) => setTimeout(resolve, 2 * QUICK.graceMs));
    const open = hired.call((w) => w.never(), { signal: cancelled.signal, endOnAbort: true, silentMs: 60_000 });
    const other = hired.call((w) => w.never(), { silentMs: 60_000 });
    expect(made).toHaveLength(1);
    cancelled.abort();
    await expect(open).rejects.toMatchObject({ name: 'AbortError' });
    await expect(other).rejects.toMatchObject({ name: 'AbortError' });
    expect(await hired.call((w) => w.double(1))).toBe(2);
    expect(made).toHaveLength(2);
    hired.terminate();
  });

  it('begins anew what was asked while it was being given up', async () => {
    const { make, made } = makeFake();
    const hired = startWorker<typeof face>(make, QUICK);
    const cancelled = new AbortController();
    const open = hired.call((w) => w.never(), { signal: cancelled.signal, endOnAbort: true, silentMs: 60_000 });
    made[0]!.mute();
    cancelled.abort();
    await expect(open).rejects.toMatchObject({ name: 'AbortError' });
    await new Promise((resolve) => setTimeout(resolve, 5));
    expect(await hired.call((w) => w.later(4 * QUICK.graceMs), { silentMs: 60_000 })).toBe('done');
    expect(made).toHaveLength(2);
    hired.terminate();
  });
});
