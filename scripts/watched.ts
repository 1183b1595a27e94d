import { Worker } from 'node:worker_threads';

/** Said so often how long it takes already, s. */
const EVERY_SECONDS = 5;

/**
 * Does a script's work on a thread of its own, and ends this process with its exit code. Meanwhile signals are obeyed at
 * once, and every few seconds the error output says that it goes on: the work itself may not look up for minutes.
 */
export async function watched(script: URL): Promise<never> {
  const began = Date.now();
  // A thread does not take over the loader of this one.
  const code = `import('tsx/esm/api').then(({ tsImport }) => tsImport(${JSON.stringify(script.href)}, ${JSON.stringify(script.href)}));`;
  const worker = new Worker(code, { eval: true, argv: process.argv.slice(2) });
  const tick = setInterval(() => {
    process.stderr.write(`Working, ${Math.round((Date.now() - began) / 1000)} s so far …\n`);
  }, EVERY_SECONDS * 1000);
  for (const [signal, code] of [
    ['SIGTERM', 143],
    ['SIGINT', 130],
    ['SIGHUP', 129],
  ] as const)
    process.on(signal, () => {
      process.stderr.write('Ended before it was done; nothing was written.\n');
      process.exit(code);
    });
  const ended = await new Promise<number>((done) => {
    worker.on('error', (error) => {
      console.error(error);
      done(1);
    });
    worker.on('exit', done);
  });
  clearInterval(tick);
  process.exit(ended);
}
