// npm run fuzz [-- --inputs 25000] [--seed 1] [--only K]: sets changed inputs upon every reader of files, documents and
// typed words, and lists what hung, threw, or was taken for sound and is not.
import { fuzzAll } from './fuzzAll';

const after = (name: string, otherwise: number): number => {
  const at = process.argv.indexOf(name);
  return at > 0 ? Number(process.argv[at + 1]) : otherwise;
};
const seed = after('--seed', 1);
const only = after('--only', -1);
const [from, to] = only >= 0 ? [only, only + 1] : [0, after('--inputs', 25_000)];
const began = Date.now();
const { counts, faults, read } = await fuzzAll(seed, from, to, Number.POSITIVE_INFINITY);
for (const [reader, { refused, taken, slowestMs }] of Object.entries(counts).sort())
  console.log(`${reader}: ${refused} refused, ${taken} taken, slowest ${slowestMs.toFixed(0)} ms`);
for (const { k, reader, why } of faults) console.log(`\n${reader}, --seed ${seed} --only ${k}: ${why}`);
console.log(`\n${read} inputs in ${Math.round((Date.now() - began) / 1000)} s, ${faults.length} faults`);
process.exit(faults.length ? 1 : 0);
