import { measureTiles, TILED_XS } from '../core/src/format/pdf/tiles.test-data';
import { figuresOf } from '../core/src/solid/kernel';
import { openKernel } from '../scripts/openKernel';
import type { AddRow } from './addRow';
import { timeKernel } from './rows/browser';
import {
  built,
  DEMO_JOBS,
  demoSteps,
  isClosedElsewhere,
  simulatedParts,
  stepElsewhere,
  timeBody,
  timeFigures,
} from './rows/solid';

/** Bodies: what they cost, and whether they are right, in other programs too. */
export async function measureSolid(row: AddRow): Promise<void> {
  const began = performance.now();
  const oc = await openKernel();
  row(
    'modelling kernel ready, outside a browser',
    'solid',
    '1',
    `${(performance.now() - began).toFixed(0)} ms`,
    '≤ 2 s',
  );
  const { shownMs, figuresMs } = await timeKernel();
  row(
    'kernel fetched and started, and a small body shown; its figures (in the browser)',
    'solid',
    '1',
    `${shownMs} ms; ${figuresMs} ms`,
    '≤ 2 s for the kernel',
  );
  const steps = DEMO_JOBS.map(demoSteps);
  const times = steps.map((own) => timeBody(oc, own));
  const each = times.map(({ first }, k) => `${DEMO_JOBS[k]} ${first.toFixed(0)}`);
  row('body of each demo part, to be seen', 'solid', '4', `${each.join(', ')} ms`, '≤ 1 s each');
  const figures = steps.map((own, k) => `${DEMO_JOBS[k]} ${timeFigures(oc, own).toFixed(0)}`);
  row('its volume, surface and centre after that', 'solid', '4', `${figures.join(', ')} ms`, '');
  const changed = times.flatMap((t) => t.changed).sort((a, b) => a - b);
  const median = changed[Math.floor(changed.length / 2)]!;
  row(
    'the same after a figure of one feature changed',
    'solid',
    String(changed.length),
    `median ${median.toFixed(0)}, most ${changed.at(-1)!.toFixed(0)} ms`,
    'median ≤ 500 ms',
  );
  const parts = simulatedParts(50);
  const worst = Math.max(
    ...parts.map(({ steps: own, exact }) => Math.abs(figuresOf(oc, built(oc, own).shape!).volumeMm3 / exact - 1)),
  );
  row('volume against an exact formula, relative', 'solid', '50', `at most ${worst.toExponential(0)}`, '≤ 1e-6');
  const bodies = [...steps, ...parts.slice(0, 8).map((p) => p.steps)].map((own) => built(oc, own));
  const read = bodies.map((body) => ({ read: stepElsewhere(oc, body), own: figuresOf(oc, body.shape!).volumeMm3 }));
  const off = read.map(({ read: r, own }) => (r ? Math.abs(r.volume / own - 1) : Number.NaN));
  row(
    'STEP read by another program: volume, relative; one solid each',
    'solid',
    String(read.length),
    off.some(Number.isNaN)
      ? 'that program is not on this machine'
      : `at most ${Math.max(...off).toExponential(0)}; ${read.filter((r) => r.read?.solids === 1).length} of ${read.length}`,
    '≤ 1e-6, all',
  );
  const closed = bodies.map((body) => isClosedElsewhere(oc, body));
  row(
    'STL without a defect in another program',
    'solid',
    String(closed.length),
    closed.includes(null)
      ? 'that program is not on this machine'
      : `${closed.filter(Boolean).length} of ${closed.length}`,
    'all',
  );
  const { seen } = await measureTiles();
  const errors = TILED_XS.flatMap((x) => (seen.get(x) ?? []).map((found) => Math.abs(found - x)));
  row(
    'pages printed to pixels and put together again: places over 600 mm',
    'solid',
    String(errors.length),
    `at most ${Math.max(...errors).toFixed(3)} mm off`,
    '≤ 0.05 mm',
  );
}
