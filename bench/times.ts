import type { AddRow } from './addRow';
import { AT_THE_BOUNDS, OF_EVERY_DAY } from './loadJob';
import { timeBrowser } from './rows/browser';
import { timeEditing } from './rows/editing';
import { timeFigures } from './rows/figures';
import { timeFinding, timeManyPlaces, timeNativeWarp, timeSearch } from './rows/finding';
import { timeJoined } from './rows/joined';
import { timeLoad } from './rows/load';
import { lookThroughCurves, timeMaking } from './rows/making';
import { timePart } from './rows/part';
import { timePictures } from './rows/pictures';
import { timeEstimate, timeRaster } from './rows/times';

/** What everything costs: in Node on one thread, and in the browser. */
export async function measureTimes(row: AddRow): Promise<void> {
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
  for (const size of [OF_EVERY_DAY, AT_THE_BOUNDS]) {
    const part = timePart(size);
    row(
      `a part of ${size.points} points: cut into its paths and evaluated here; sent to another thread, its forms taken back`,
      '',
      '3',
      `${part.cutOutMs.toFixed(0)} + ${part.evaluateMs.toFixed(0)} ms; ${part.sendMs.toFixed(0)} + ${part.takeBackMs.toFixed(0)} ms`,
      '',
    );
  }
  const curves = lookThroughCurves(1000);
  row(
    'sound forms of six curves said to cross themselves or to touch; looking at one',
    '',
    '1000',
    `${curves.told}; ${curves.ms.toFixed(1)} ms`,
    '0',
  );
  for (const count of [500, 1000]) {
    const { offsetMs, crossingsMs, crossings } = timeMaking(count);
    row(
      `offset of a profile of ${count} pieces; all crossings of it with another, ${2 * count} pieces`,
      '',
      '9; 3',
      `${offsetMs.toFixed(0)} ms; ${crossingsMs.toFixed(0)} ms, ${crossings} crossings`,
      count === 500 ? '≤ 30 ms' : 'crossings ≤ 100 ms',
    );
  }
  for (const count of [500, 2000]) {
    const { trimMs, joinMs, axesMs, fewerMs } = timeEditing(count);
    row(
      `a piece trimmed, and two ends joined, among ${count} pieces`,
      '',
      '9; 9',
      `${trimMs.toFixed(1)} ms; ${joinMs.toFixed(1)} ms`,
      count === 500 ? '≤ 10 ms' : '',
    );
    if (count === 500)
      row(
        'axes of a closed path of 200 pieces; the same told by fewer',
        '',
        '3; 3',
        `${axesMs.toFixed(0)} ms; ${fewerMs.toFixed(0)} ms`,
        '',
      );
  }
  for (const { lines, ms, drawnMs } of timeFigures([40, 160, 1000]))
    row(
      `all figures of a closed path of ${lines} lines`,
      '',
      '3',
      `${ms.toFixed(0)} ms; ${drawnMs.toFixed(0)} ms by 400 draws`,
      lines === 160 ? '≤ 40 ms' : lines === 1000 ? '≤ 250 ms' : '',
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
  const search = await timeSearch();
  row(
    'searching a whole picture for things of known size',
    '',
    String(search.pictures),
    `${search.right} told as they are; slowest ${search.worstMs.toFixed(0)} ms`,
    '≤ 3000 ms',
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
  row(
    'browser: the same for the cleared background',
    '',
    '1',
    `${pictures.clearPerSecond.toFixed(0)} a second`,
    '≥ 30',
  );
  row(
    'browser: the same for one that is grown from a place',
    '',
    '1',
    `${pictures.grownPerSecond.toFixed(0)} a second`,
    '',
  );
  const answer = ({ medianMs, worstMs }: { medianMs: number; worstMs: number }) =>
    `${medianMs.toFixed(0)} ms, slowest ${worstMs.toFixed(0)}`;
  const jobs = [
    { size: OF_EVERY_DAY, word: 'a large job', task: '≤ 50 ms' },
    { size: AT_THE_BOUNDS, word: 'a job at its bounds', task: '' },
  ];
  for (const { size, word, task } of jobs) {
    const load = await timeLoad(size);
    const holds = `${size.pictures} pictures, ${size.paths} paths, ${size.points} points`;
    row(`browser: ${word} (${holds}), to its first picture`, '', '1', `${load.firstPictureMs} ms`, '≤ 5000 ms');
    row(
      `browser: ${word}, from a pan, a zoom, a drag of a point to the frame that shows it`,
      '',
      '15 each',
      `${answer(load.pan)}; ${answer(load.zoom)}; ${answer(load.drag)}`,
      '≤ 100 ms',
    );
    row(
      `browser: ${word}, longest task of the main thread, opening it and working on it`,
      '',
      '1',
      `${load.longestOpeningMs.toFixed(0)} ms, ${load.longestWorkingMs.toFixed(0)} ms`,
      task,
    );
    row(
      `browser: ${word}, frames a second while it is drawn along; an empty page beside it`,
      '',
      '4 s',
      `${load.frames.panning.toFixed(0)}; ${load.frames.empty.toFixed(0)}`,
      task && 'as the empty page',
    );
  }
  const gb = (bytes: number) => `${(bytes / 1e9).toFixed(2)} GB`;
  row(
    'browser: memory of the tab with ten 12-megapixel pictures',
    '',
    '1',
    `${gb(pictures.countedBytes)} counted by the browser, ${gb(pictures.residentBytes)} resident`,
    '≤ 1.5 GB',
  );
}
