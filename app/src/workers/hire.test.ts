import * as Comlink from 'comlink';
import { describe, expect, it } from 'vitest';
import { hire, WorkerDied } from './hire';

const face = {
  async double(n: number) {
    return 2 * n;
  },
  async never(): Promise<number> {
    return new Promise(() => {});
  },
};

/** A stand-in for a worker over a message channel, which can be made to die. */
function makeFake() {
  const made: { onerror: (() => void) | null }[] = [];
  const make = () => {
    const { port1, port2 } = new MessageChannel();
    Comlink.expose(face, port2 as unknown as Comlink.Endpoint);
    const worker = Object.assign(port1, {
      terminate: () => (port1.close(), port2.close()),
      onerror: null as (() => void) | null,
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
    const hired = hire<typeof face>(make);
    expect(made).toHaveLength(0);
    expect(await hired.call((w) => w.double(21))).toBe(42);
    expect(await hired.call((w) => w.double(4))).toBe(8);
    expect(made).toHaveLength(1);
    hired.dismiss();
  });

  it('fails its open calls when it dies, and is started again', async () => {
    const { make, made } = makeFake();
    const hired = hire<typeof face>(make);
    const open = hired.call((w) => w.never());
    made[0].onerror?.();
    await expect(open).rejects.toBeInstanceOf(WorkerDied);
    expect(await hired.call((w) => w.double(1))).toBe(2);
    expect(made).toHaveLength(2);
    hired.dismiss();
  });

  it('drops the answer of a call that was given up', async () => {
    const { make } = makeFake();
    const hired = hire<typeof face>(make);
    const stop = new AbortController();
    const open = hired.call((w) => w.never(), stop.signal);
    stop.abort();
    await expect(open).rejects.toMatchObject({ name: 'AbortError' });
    await expect(hired.call((w) => w.double(1), stop.signal)).rejects.toMatchObject({ name: 'AbortError' });
    hired.dismiss();
  });
});
