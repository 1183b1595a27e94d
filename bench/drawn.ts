// One row of scenes in a process of its own: tsx bench/drawn.ts WHAT FIRST_SEED SCENES [bounds]; out come the figures as
// JSON.
import { measureCoverage } from './rows/coverage';
import { measureJoined } from './rows/joined';
import { measureRendered } from './rows/rendered';
import { WAYS } from './rows/ways';

const [what, first, scenes, from] = process.argv.slice(2);
const measure = () => {
  if (what === 'joined') return measureJoined(Number(first), Number(scenes));
  if (what === 'rendered') return measureRendered(Number(first), Number(scenes));
  return measureCoverage(WAYS[Number(what)]!, Number(first), Number(scenes), from === 'bounds' ? 'bounds' : 'priors');
};
console.log(JSON.stringify(measure()));
