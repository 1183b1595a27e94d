import type { CalibrationFace } from './calibration.worker';
import type { FiguresFace } from './figures.worker';
import type { FilesFace } from './files.worker';
import type { PagesFace } from './pages.worker';
import type { PaintFace } from './paint.worker';
import type { PixelsFace } from './pixels.worker';
import type { ReadingFace } from './reading.worker';
import type { SearchFace } from './search.worker';
import type { SolidFace } from './solid.worker';
import { startWorker, WORKER } from './startWorker';

/** The pixels of the open picture: decoding, redrawing, edges. */
export const pixels = startWorker<PixelsFace>(
  () => new Worker(new URL('./pixels.worker.ts', import.meta.url), { type: 'module', name: 'pixels' }),
  // It holds much memory, and whoever traces waits for each of its answers: when it is gone that must show soon.
  { ...WORKER, silentMs: 10_000 },
);

/** Whole pictures, searched for things of known size: it ends with each search, and its pixels with it. */
export const searching = startWorker<SearchFace>(
  () => new Worker(new URL('./search.worker.ts', import.meta.url), { type: 'module', name: 'search' }),
);

/** Figures printed on rulers and drawings: each reading has a worker of its own, which whoever opened it ends. */
export const openReading = () =>
  startWorker<ReadingFace>(
    () => new Worker(new URL('./reading.worker.ts', import.meta.url), { type: 'module', name: 'reading' }),
  );

/** The estimate, and the ± of everything derived from it. */
export const calibrating = startWorker<CalibrationFace>(
  () => new Worker(new URL('./calibration.worker.ts', import.meta.url), { type: 'module', name: 'calibration' }),
);

/** Figures of what was traced: on a thread of its own, so that a long path never holds up a picture. */
export const figures = startWorker<FiguresFace>(
  () => new Worker(new URL('./figures.worker.ts', import.meta.url), { type: 'module', name: 'figures' }),
);

/** Paths that nobody has in hand, painted as one picture. */
export const paint = startWorker<PaintFace>(
  () => new Worker(new URL('./paint.worker.ts', import.meta.url), { type: 'module', name: 'paint' }),
);

/** Pages of documents, drawn as pictures. */
export const pages = startWorker<PagesFace>(
  () => new Worker(new URL('./pages.worker.ts', import.meta.url), { type: 'module', name: 'pages' }),
);

/** Files in and out. */
export const files = startWorker<FilesFace>(
  () => new Worker(new URL('./files.worker.ts', import.meta.url), { type: 'module', name: 'files' }),
);

/** The body: the modelling kernel, which is large, is fetched and started when a body is first asked for. */
export const solids = startWorker<SolidFace>(
  () => new Worker(new URL('./solid.worker.ts', import.meta.url), { type: 'module', name: 'solid' }),
  // One feature is worked in one go, and the largest take their time.
  { ...WORKER, silentMs: 90_000 },
);
