import { measureCoverage } from './rows/coverage';
import { WAYS } from './rows/ways';

for (const k of process.argv[2].split(',').map(Number))
  for (const f of ['bounds', 'priors'] as const) {
    if (f === 'bounds' && !WAYS[k].errors) continue;
    const t = Date.now();
    const n = Number(process.argv[3]);
    const c = measureCoverage(WAYS[k], 1, n, f);
    console.log(
      WAYS[k].name,
      f,
      `median ${c.medianMm.toFixed(3)} q95 ${c.q95Mm.toFixed(3)} told ${c.toldMm.toFixed(3)} held ${((100 * c.held) / n).toFixed(1)} several ${c.several}`,
      Date.now() - t,
    );
  }
