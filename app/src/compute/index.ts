import type { CalibrationCalls } from './calibration.worker';
import type { FiguresCalls } from './figures.worker';
import type { FilesCalls } from './files.worker';
import type { PagesCalls } from './pages.worker';
import type { PaintCalls } from './paint.worker';
import type { PixelsCalls } from './pixels.worker';
import type { ReadingCalls } from './reading.worker';
import type { SearchCalls } from './search.worker';
import type { SolidCalls } from './solid.worker';
import { startWorker, WORKER } from './startWorker';

/** The pixels of the open picture: decoding, redrawing, edges. */
export const pixels = startWorker<PixelsCalls>(
  () => new Worker(new URL('./pixels.worker.ts', import.meta.url), { type: 'module', name: 'pixels' }),
  // It holds much memory, and whoever traces waits for each of its answers: when it is gone that must show soon.
  { ...WORKER, silentMs: 10_000 },
);

/** Whole pictures, searched for things of known size: it ends with each search, and its pixels with it. */
export const searching = startWorker<SearchCalls>(
  () => new Worker(new URL('./search.worker.ts', import.meta.url), { type: 'module', name: 'search' }),
);

/** Figures printed on rulers and drawings: each reading has a worker of its own, which whoever opened it ends. */
export const openReading = () =>
  startWorker<ReadingCalls>(
    () => new Worker(new URL('./reading.worker.ts', import.meta.url), { type: 'module', name: 'reading' }),
  );

/** The estimate, and the ± of everything derived from it. */
export const calibrating = startWorker<CalibrationCalls>(
  () => new Worker(new URL('./calibration.worker.ts', import.meta.url), { type: 'module', name: 'calibration' }),
);

/** Figures of what was traced: on a thread of its own, so that a long path never holds up a picture. */
export const figures = startWorker<FiguresCalls>(
  () => new Worker(new URL('./figures.worker.ts', import.meta.url), { type: 'module', name: 'figures' }),
);

/** Paths that nobody has in hand, painted as one picture. */
export const paint = startWorker<PaintCalls>(
  () => new Worker(new URL('./paint.worker.ts', import.meta.url), { type: 'module', name: 'paint' }),
);

/** Pages of documents, drawn as pictures. */
export const pages = startWorker<PagesCalls>(
  () => new Worker(new URL('./pages.worker.ts', import.meta.url), { type: 'module', name: 'pages' }),
);

/** Files in and out. */
export const files = startWorker<FilesCalls>(
  () => new Worker(new URL('./files.worker.ts', import.meta.url), { type: 'module', name: 'files' }),
);

/** The body: the modelling kernel, which is large, is fetched and started when a body is first asked for. */
export const solids = startWorker<SolidCalls>(
  () => new Worker(new URL('./solid.worker.ts', import.meta.url), { type: 'module', name: 'solid' }),
  // One feature is worked in one go, and the largest take their time.
  { ...WORKER, silentMs: 90_000 },
);
