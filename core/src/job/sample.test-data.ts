import { MAIN_SKETCH, newPart, type Part } from '../sketch';
import { putCircle, putPath, seen } from '../sketch/traced.test-data';
import { type JobDocument, newCalibrationRecord, newJob, newPicture } from './document/document';

/** A small sound job for tests: one picture with a known length, a closed run with an arc and a curve, a circle. */
export function sampleJob(blob = 'a'.repeat(64)): JobDocument {
  const pick = (uPx: number, vPx: number) => ({ uPx, vPx, sigmaPx: 0.1 });
  return {
    ...newJob('job1', 'Latch plate', '2026-03-01T12:00:00.000Z', 'mm'),
    pictures: [
      {
        ...newPicture(
          'pic',
          {
            blob,
            fileName: 'latch-plate.jpg',
            mime: 'image/jpeg',
            facts: { widthPx: 4032, heightPx: 3024, focal35Mm: 27, focalMm: 5.6, doubts: [], resolution: null },
          },
          'photo',
        ),
        calibration: {
          ...newCalibrationRecord(),
          references: [
            {
              id: 'y1',
              kind: 'known-length',
              plane: 'reference',
              from: pick(600, 2000),
              to: pick(3600, 2000),
              lengthMm: 150,
              plusMinusMm: null,
              typed: '150',
              graduations: null,
              width: null,
            },
          ],
          axis: { along: 'x', reference: 'y1' },
          zero: { reference: 'y1', end: 'from' },
        },
      },
    ],
    part: samplePart(),
  };
}

const ALL = {
  a: seen(1000, 1000),
  b: seen(2000, 1000),
  c: seen(2000, 1600),
  d: seen(1000, 1600),
  via: seen(2100, 1300),
  h1: seen(1700, 1700),
  h2: seen(1300, 1700),
};

function samplePart(): Part {
  const part = newPart();
  const sketch = part.sketches[MAIN_SKETCH]!;
  putPath(sketch, ALL, {
    id: 'path1',
    points: ['a', 'b', 'c', 'd'],
    bent: ['line', { arc: 'via' }, { cubic: ['h1', 'h2'] }, 'line'],
  });
  putCircle(sketch, 'hole1', [seen(1500, 1200), seen(1587, 1350), seen(1413, 1350)]);
  return part;
}

/** The same job as version 9 kept it. */
export const sampleJob9 = () => ({ ...asVersion9(sampleJob()), version: 9, part: samplePart9() });

const OLD: Readonly<Record<string, string>> = {
  calibration: 'truing',
  references: 'yardsticks',
  reference: 'yardstick',
  graduations: 'strokes',
  silhouettes: 'limbs',
};

/** What is said of pictures in the words of version 9; of traces nothing. */
export const asVersion9 = (job: object) =>
  JSON.parse(
    JSON.stringify(job).replace(/"(\w+)"(:?)/g, (whole, word, colon) =>
      OLD[word] && (colon || word === 'reference') ? `"${OLD[word]}"${colon}` : whole,
    ),
  );

/** The same traces as version 9 of the document kept them. */
export function samplePart9(): { points: Record<string, unknown>; runs: unknown[] } {
  const at = (uPx: number, vPx: number) => ({
    picture: 'pic',
    uPx,
    vPx,
    sigmaPx: 0.1,
    cling: 'edge',
    beside: null,
  });
  return {
    points: {
      a: at(1000, 1000),
      b: at(2000, 1000),
      c: at(2000, 1600),
      d: at(1000, 1600),
      via: at(2100, 1300),
      h1: at(1700, 1700),
      h2: at(1300, 1700),
      r1: at(1500, 1200),
      r2: at(1587, 1350),
      r3: at(1413, 1350),
    },
    runs: [
      {
        id: 'run1',
        kind: 'chain',
        role: 'cut',
        name: 'Outer edge',
        layer: null,
        plane: 'face',
        points: ['a', 'b', 'c', 'd'],
        segments: [
          { kind: 'line' },
          { kind: 'arc', via: 'via' },
          { kind: 'curve', handleFrom: 'h1', handleTo: 'h2' },
          { kind: 'line' },
        ],
        closed: true,
      },
      {
        id: 'run2',
        kind: 'circle',
        role: 'cut',
        name: 'Hole 1',
        layer: null,
        plane: 'face',
        points: ['r1', 'r2', 'r3'],
      },
    ],
  };
}
