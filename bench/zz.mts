import { measureCoverage } from './rows/coverage';
import { WAYS } from './rows/ways';

const n = Number(process.argv[2] ?? 60);
for (const way of WAYS.slice(5)) {
  const t = performance.now();
  const c = measureCoverage(way, 1, n);
  console.log(
    way.name,
    '|',
    `median ${c.medianMm.toFixed(3)} 95% ${c.q95Mm.toFixed(3)} told ${c.toldMm.toFixed(3)} held ${((100 * c.held) / n).toFixed(1)} several ${c.several}`,
    '|',
    way.wanted,
    ((performance.now() - t) / n).toFixed(0) + ' ms each',
  );
}
