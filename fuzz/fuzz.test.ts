import { expect, it } from 'vitest';
import { fuzzAll } from './fuzzAll';

/** As the property tests: the same inputs at every run, others with SEED=7. */
const seed = Number(process.env.SEED ?? 1);
const INPUTS = 1500;
/** Time runs out before the inputs do only on a slow machine. */
const MOST_MS = 45_000;

it('no reader hangs, throws anything but its own refusals, or takes nonsense', { timeout: 120_000 }, async () => {
  const { faults, read, counts } = await fuzzAll(seed, 0, INPUTS, MOST_MS);
  expect(faults).toEqual([]);
  expect(read).toBeGreaterThan(100);
  // Inputs that are all refused, or all taken, test nothing.
  for (const reader of ['svg', 'dxf', 'picture', 'document']) {
    expect(counts[reader]!.refused, reader).toBeGreaterThan(0);
    expect(counts[reader]!.taken, reader).toBeGreaterThan(0);
  }
});
