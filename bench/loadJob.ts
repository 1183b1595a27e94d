import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { digest } from '../core/src/format/digest';
import { writeJobFile } from '../core/src/format/jobFile';
import { type JobDocument, MOST, NO_HISTORY, newJob, newPicture } from '../core/src/job';
import { MAIN_SKETCH, type Observation } from '../core/src/sketch';
import { putPath, seen } from '../core/src/sketch/traced.test-data';

/** How large a job is made. */
export interface LoadSize {
  pictures: number;
  paths: number;
  points: number;
}

/** The largest job that a document may hold. */
export const AT_THE_BOUNDS: LoadSize = { pictures: MOST.pictures, paths: MOST.paths, points: MOST.points };

/** A large job of every day: 2,000 pieces. */
export const OF_EVERY_DAY: LoadSize = { pictures: 2, paths: 200, points: 2000 };

const PICTURE = { widthPx: 4032, heightPx: 3024 };

/** A job file of a given size: the latch plate's picture so many times, small closed paths all over the first. */
export function makeLoadJob({ pictures, paths, points }: LoadSize): { file: Uint8Array; job: JobDocument } {
  const photo = readFileSync(fileURLToPath(new URL('../demo/pictures/latch-plate.jpg', import.meta.url)));
  const blobs = new Map<string, Uint8Array>();
  const job = newJob('load-job', 'Everything at once', '2026-01-01T00:00:00.000Z', 'mm');
  const pick = (uPx: number, vPx: number) => ({ uPx, vPx, sigmaPx: 0.1 });
  for (let k = 0; k < pictures; k++) {
    // What stands behind the end of a picture is no part of it: the same pixels under another hash.
    const bytes = Uint8Array.from([...photo.subarray(0, photo.length), k]);
    const blob = digest(bytes);
    blobs.set(blob, bytes);
    const facts = { ...PICTURE, focal35Mm: 27, focalMm: 5.6, doubts: [], resolution: null };
    const picture = newPicture(
      `pic${k}`,
      { blob, fileName: `latch-plate-${k}.jpg`, mime: 'image/jpeg', facts },
      'photo',
    );
    picture.calibration.references.push({
      id: `rule${k}`,
      kind: 'known-length',
      plane: 'reference',
      from: pick(700, 2300),
      to: pick(3300, 2300),
      lengthMm: 150,
      plusMinusMm: null,
      typed: '150',
      graduations: null,
      width: null,
    });
    picture.calibration.hold = 'flat-on';
    job.pictures.push(picture);
  }
  const each = Math.floor(points / paths);
  const columns = Math.ceil(Math.sqrt(paths * (PICTURE.widthPx / PICTURE.heightPx)));
  const [stepU, stepV] = [PICTURE.widthPx / columns, PICTURE.heightPx / Math.ceil(paths / columns)];
  for (let k = 0; k < paths; k++) {
    const [u, v] = [(0.5 + (k % columns)) * stepU, (0.5 + Math.floor(k / columns)) * stepV];
    const all: Record<string, Observation> = {};
    for (let j = 0; j < each; j++) {
      const angle = (2 * Math.PI * j) / each;
      const reach = 0.35 * Math.min(stepU, stepV) * (1 + 0.2 * Math.cos(5 * angle));
      all[`p${k}-${j}`] = seen(u + reach * Math.cos(angle), v + reach * Math.sin(angle), { picture: 'pic0' });
    }
    const role = k % 5 === 4 ? 'mark' : 'cut';
    putPath(job.part.sketches[MAIN_SKETCH]!, all, {
      id: `r${k}`,
      name: `Path ${k + 1}`,
      points: Object.keys(all),
      role,
    });
  }
  return { job, file: writeJobFile({ job, history: NO_HISTORY, blobs }) };
}
