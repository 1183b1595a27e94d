import { expect, it } from 'vitest';
import { fuzzAll } from './fuzzAll';

/** As the property tests: the same inputs at every run, others with SEED=7. */
const seed = Number(process.env.SEED ?? 1);
const INPUTS = 1500;
/** Time runs out before the inputs do only on a slow machine. */
const MOST_MS = 45_000;
/** Of each reader so much is taken, or what lies behind its first check is never reached; told from so many inputs on. */
const LEAST_TAKEN = 0.25;
const FEWEST = 40;

it('no reader hangs, throws anything but its own refusals, or takes nonsense', { timeout: 120_000 }, async () => {
  const { faults, read, counts } = await fuzzAll(seed, 0, INPUTS, MOST_MS);
  expect(faults).toEqual([]);
  expect(read).toBeGreaterThan(100);
  // Inputs that are all refused, or all taken, test nothing.
  for (const [reader, { refused, taken }] of Object.entries(counts)) {
    if (refused + taken < FEWEST) continue;
    expect(refused, reader).toBeGreaterThan(0);
    expect(taken / (refused + taken), reader).toBeGreaterThan(LEAST_TAKEN);
  }
});
