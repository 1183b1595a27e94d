import { seededRandom } from '../core/src/numeric';
import { makeReaders } from './readers';

/* Runs on its own, so that whoever waits for it can end it: tells before and after each input where it is. */

const [seed, from, to] = process.argv.slice(2).map(Number) as [number, number, number];
const tell = (said: unknown) => process.send?.(said);
const readers = await makeReaders();
const turns = readers.flatMap((r) => Array<typeof r>(r.share).fill(r));
// Readers of other houses say on the console what they think of an input.
for (const way of ['log', 'warn', 'error'] as const) console[way] = () => {};

for (let k = from; k < to; k++) {
  // Each input has a seed of its own, so that it can be made again without those before it.
  const random = seededRandom(seed * 1_000_003 + k);
  const reader = turns[Math.floor(random() * turns.length)]!;
  tell({ kind: 'begin', k, reader: reader.name, mostMs: reader.mostMs });
  const began = performance.now();
  try {
    const came = await reader.read(random);
    tell({ kind: 'end', k, reader: reader.name, came, ms: performance.now() - began });
  } catch (error) {
    const why =
      error instanceof Error ? `${error.message}\n${error.stack?.split('\n').slice(1, 5).join('\n')}` : String(error);
    tell({ kind: 'fault', k, reader: reader.name, why });
  }
}
process.disconnect?.();
