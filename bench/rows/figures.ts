import { calibrate } from '../../core/src/calibration';
import { measurePath, newCalibrationRecord } from '../../core/src/job';
import type { Observation } from '../../core/src/sketch';
import { seen, sketchOf } from '../../core/src/sketch/traced.test-data';
import { drawScene } from '../drawScene';

/** What all figures of a closed path of lines cost, ms, by how many lines it has: by the covariance, and by draws. */
export function timeFigures(counts: readonly number[]): { lines: number; ms: number; drawnMs: number }[] {
  const scene = drawScene(3, 'flat-on');
  const ends = [
    [0, 0],
    [150, 0],
    [0, 100],
  ] as const;
  const picks = ends.map(([x, y]) => scene.pickOf(x - 75, y - 50, 'reference'));
  if (picks.some((p) => p === null)) throw new Error('the scene does not show its yardsticks');
  type Seen = NonNullable<(typeof picks)[number]>;
  const [a, b, c] = picks as [Seen, Seen, Seen];
  const length = (id: string, from: typeof a, to: typeof a, lengthMm: number) =>
    ({
      id,
      kind: 'known-length',
      plane: 'reference',
      from,
      to,
      lengthMm,
      plusMinusMm: null,
      graduations: null,
      width: null,
    }) as const;
  const result = calibrate({ ...scene.input, references: [length('x', a, b, 150), length('y', a, c, 100)] });
  if (!result.ok) throw new Error(result.reason);
  const { calibration } = result;
  const time = (work: () => void): number => {
    const times = [0, 1, 2].map(() => {
      const began = performance.now();
      work();
      return performance.now() - began;
    });
    return times.sort((p, q) => p - q)[1]!;
  };
  return counts.map((lines) => {
    const all: Record<string, Observation> = {};
    for (let k = 0; k < lines; k++) {
      const angle = (2 * Math.PI * k) / lines;
      all[`p${k}`] = seen(2016 + 900 * Math.cos(angle), 1512 + 900 * Math.sin(angle));
    }
    const { sketch, path } = sketchOf(all, { points: Object.keys(all) });
    const measure = (draws: typeof calibration.draws) =>
      time(() => measurePath(sketch, path, { ...calibration, draws }, newCalibrationRecord()));
    return { lines, ms: measure(null), drawnMs: measure(calibration.draws ?? drawnAlike(calibration.parameters)) };
  });
}

/** As many parameters as draws have, all alike: what they cost does not hang on what they say. */
const drawnAlike = (parameters: Float64Array): Float64Array[] => Array.from({ length: 400 }, () => parameters.slice());
