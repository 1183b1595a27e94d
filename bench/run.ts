// npm run bench [-- --scenes N]: measures the figures of docs/measurement.md that are reached so far, prints them as a
// table, and writes docs/bench.md. Half of all scenes have fixed seeds, half are drawn afresh.
import { writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { fileURLToPath } from 'node:url';
import { timeBrowser } from './rows/browser';
import { type Coverage, measureCoverage } from './rows/coverage';
import { measureEdges } from './rows/edges';
import { timeFinding, timeManyPlaces, timeNativeWarp } from './rows/finding';
import { measureJoined, timeJoined } from './rows/joined';
import { timePictures } from './rows/pictures';
import { measureRendered } from './rows/rendered';
import { measureStrokes } from './rows/strokes';
import { timeEstimate, timeRaster } from './rows/times';
import { WAYS } from './rows/ways';

const at = process.argv.indexOf('--scenes');
const scenes = at > 0 ? Number(process.argv[at + 1]) : 200;
const fresh = 1_000_000 + Math.floor(Math.random() * 1e9);
const rows: string[][] = [];
const row = (...cells: string[]) => {
  rows.push(cells);
  console.log(cells.join(' | '));
};

/** 95 % interval of a share, by Wilson (1927), in percent. */
function interval(held: number, n: number): string {
  const z = 1.96;
  const p = held / n;
  const middle = (p + (z * z) / (2 * n)) / (1 + (z * z) / n);
  const half = (z * Math.sqrt((p * (1 - p)) / n + (z * z) / (4 * n * n))) / (1 + (z * z) / n);
  return `${(100 * p).toFixed(1)} % (${(100 * (middle - half)).toFixed(1)} to ${(100 * (middle + half)).toFixed(1)})`;
}

for (const [name, blur, radius] of [
  ['straight, blur 0.7', 0.7, null],
  ['straight, blur 1.2', 1.2, null],
  ['straight, blur 2', 2, null],
  ['radius 40 px, blur 1.2', 1.2, 40],
] as const)
  for (const [seeds, first] of [
    ['fixed', 1],
    ['fresh', fresh],
  ] as const) {
    const e = measureEdges(blur, radius, first, 300);
    const wanted = radius ? 'bias ≤ 0.05' : 'bias ≤ 0.02, RMS ≤ 0.06';
    row(
      `edge centre, ${name} px`,
      seeds,
      String(e.found),
      `bias ${e.biasPx.toFixed(3)}, RMS ${e.rmsPx.toFixed(3)} px; within ± ${(100 * e.held).toFixed(0)} %`,
      wanted,
    );
  }

for (const [distance, tilt, noise] of [
  [310, 5, 2.2],
  [400, 8, 2.2],
  [480, 15, 3],
] as const) {
  const s = measureStrokes(distance, tilt, noise);
  row(
    `half a stroke of a rendered rule, ${distance} mm off`,
    'fixed',
    `${s.places} places`,
    `bias ${s.biasPx.toFixed(3)}, RMS ${s.rmsPx.toFixed(3)} px; σ told ${s.toldPx.toFixed(3)}`,
    '',
  );
}

const told = (c: Coverage) =>
  `median ${c.medianMm.toFixed(3)}, 95 % ${c.q95Mm.toFixed(3)} mm per 100 mm; ± told ${c.toldMm.toFixed(3)}; held ${interval(c.held, c.scenes)}`;
for (const way of WAYS)
  for (const [seeds, first, n] of [
    ['fixed', 1, Math.ceil(scenes / 2)],
    ['fresh', fresh, Math.ceil(scenes / 2)],
  ] as const) {
    const c = measureCoverage(way, first, n);
    row(
      way.name,
      seeds,
      String(n),
      `${told(c)}${c.several ? `; several poses shown in ${c.several}` : ''}`,
      way.wanted,
    );
  }
for (const [seeds, first] of [
  ['fixed', 1],
  ['fresh', fresh],
] as const) {
  const n = Math.ceil(scenes / 2);
  const j = measureJoined(first, n);
  row(
    '406 mm over two joined pictures: one rule, three common points, tilt to 15°',
    seeds,
    String(n),
    `median ${j.medianMm.toFixed(3)}, 95 % ${j.q95Mm.toFixed(3)} mm; ± told ${j.toldMm.toFixed(3)}; held ${interval(j.held, n)}`,
    'held 94 to 97 %',
  );
}
const rendered = measureRendered(1, 60);
row(
  'rendered: rule by readings and three caliper lengths',
  'fixed',
  '60',
  `${told(rendered)}; picks 95 % within ${rendered.q95PickPx.toFixed(3)} px`,
  'held 94 to 97 %',
);

const raster = timeRaster();
const ratio = (ms: number) => `${ms.toFixed(0)} ms, ${(ms / raster.copyMs).toFixed(1)} × copying`;
row('copying 12 megapixels (Node, one thread)', '', '5', `${raster.copyMs.toFixed(0)} ms`, '');
row('halved copies of 12 megapixels', '', '3', ratio(raster.pyramidMs), '');
row('true picture of all 12 megapixels', '', '3', ratio(raster.redrawMs), '');
row('true picture on screen, 814 × 580', '', '3', `${raster.screenMs.toFixed(0)} ms`, '≤ 100 ms');
const estimate = timeEstimate();
row('estimate of two known lengths, the map alone', '', '9', `${estimate.quickMs.toFixed(0)} ms`, '≤ 60 ms');
row('the same with 400 drawn truings', '', '3', `${estimate.drawnMs.toFixed(0)} ms`, '');
const many = timeManyPlaces();
row(
  'estimate of five yardsticks, the map alone',
  '',
  '7',
  `${many.ms.toFixed(0)} ms, the first time ${many.firstMs.toFixed(0)}, ${many.observations} observations`,
  '≤ 60 ms with 2,000',
);
const pair = timeJoined();
row(
  'two joined pictures with 456 strokes, the map alone',
  '',
  '7',
  `${pair.wholeMs.toFixed(0)} ms; ${pair.draggedMs.toFixed(0)} ms while a pick of one is dragged`,
  '',
);
const native = timeNativeWarp();
row(
  'true picture of all 12 megapixels over a native homography on one thread',
  '',
  '3',
  native === null
    ? 'not measured: no native library here'
    : `${(raster.redrawMs / native).toFixed(1)} × ${native.toFixed(0)} ms`,
  '≤ 4 ×',
);
for (const f of await timeFinding())
  row(
    `finding ${f.name} from one click`,
    '',
    String(f.clicks),
    `${f.found} found; slowest ${f.worstMs.toFixed(0)} ms`,
    '≤ 1500 ms',
  );
const browser = await timeBrowser();
row(
  'browser: dropped 12-megapixel JPEG to first view',
  '',
  '1',
  `${browser.firstViewMs} ms, ${(browser.firstViewMs / browser.copyMs).toFixed(0)} × copying (${browser.copyMs.toFixed(0)} ms)`,
  '≤ 1000 ms',
);
row(
  'browser: longest task of the main thread, drop to true picture',
  '',
  '1',
  `${browser.longestTaskMs.toFixed(0)} ms`,
  '≤ 50 ms',
);
const pictures = await timePictures();
for (const [kind, ms] of Object.entries(pictures.firstView))
  row(
    kind === '50 MP'
      ? 'browser: dropped 50-megapixel JPEG to first view'
      : `browser: dropped 12-megapixel ${kind} to first view, median`,
    '',
    '3',
    ms === null
      ? 'not measured: no encoder on this machine'
      : `${ms} ms, ${(ms / browser.copyMs).toFixed(0)} × copying`,
    kind === '50 MP' ? 'works' : kind === 'HEIC' || kind === 'TIFF' ? '≤ 3000 ms' : '≤ 1000 ms',
  );
row(
  'browser: redrawings a second while tones are dragged',
  '',
  '1',
  `${pictures.tonesPerSecond.toFixed(0)} a second`,
  '≥ 30',
);
row('browser: the same for the cleared background', '', '1', `${pictures.clearPerSecond.toFixed(0)} a second`, '≥ 30');
const gb = (bytes: number) => `${(bytes / 1e9).toFixed(2)} GB`;
row(
  'browser: memory of the tab with ten 12-megapixel pictures',
  '',
  '1',
  `${gb(pictures.countedBytes)} counted by the browser, ${gb(pictures.residentBytes)} resident`,
  '≤ 1.5 GB',
);

const table = [['what', 'seeds', 'scenes', 'measured', 'wanted'], ['---', '---', '---', '---', '---'], ...rows]
  .map((r) => `| ${r.join(' | ')} |`)
  .join('\n');
writeFileSync(
  fileURLToPath(new URL('../docs/bench.md', import.meta.url)),
  `# Figures

Written by \`npm run bench -- --scenes ${scenes}\` on ${new Date().toISOString().slice(0, 10)}, Node ${process.versions.node}, ${cpus().length} cores (${cpus()[0]?.model.trim()}). Times vary two- to threefold between machines: the ratios say more.

${table}

How each row is made stands in \`bench/rows/\`. Scenes by geometry alone draw the camera from the priors of docs/measurement.md (tilt cut off at 40°) and add what the estimator does not model: a third radial term and decentring. "Held" is the share of scenes in which the ± of 95 % holds the truth, with the interval of that share.

## What it costs as the work grows

- A pointer move costs one look in the pixels' worker (a patch of at most 140 × 140 px, 5 to 15 ms) and one small picture back; moves that come faster are dropped but for the last.
- A changed view redraws what is visible: proportional to the board's pixels, not to the picture's. The whole picture is drawn once, at most 900 px wide, as a stand-in.
- A picture is held once at full size and a third more in halved copies: 64 MB for 12 megapixels, 270 MB for 50. Up to 900 MB are held; what was not looked at longest is dropped and decoded again when it is wanted. More than 150 megapixels are not drawn on one board at once.
- Tones and the cleared background are put over the visible part as it was drawn last: two passes over the board's pixels, none over the picture's. The table of what is cleared, a quarter million colours, is worked out once for each colour and tolerance.
- Every further picture on the board is one more redrawing of the visible part when the view changes.
- The estimate has eight unknowns, one for each uncertain height and up to ten for each yardstick; one observation for each known length, and one or two for each place of the others. A step of its descent costs 2 to 4 µs a place; the rough descents and the draws use 32 places of a yardstick at most. Where the tilt is barely seen 400 truings are drawn, each a descent of its own; with more known lengths fewer are needed, and none once the tilt is known to 0.6°.
- Joined pictures are one estimate of all their unknowns and three more for each further picture. Each is estimated alone first, and kept while another one is changed; then all together, from at most six combinations of their poses, and with 200 draws where a tilt is barely seen. The normal equations grow with the square of the unknowns: two pictures, each of a ruler, have 29, ten have 157.
- A change writes the job and its history (up to 1,000 changes) in one transaction; pictures are written once.
`,
);
