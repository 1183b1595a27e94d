import { type CalibrationInput, calibrate } from '../../core/src/calibration';
import { buildPyramid, buildWarpGrid, type Pixels, redraw } from '../../core/src/raster';
import { drawScene } from '../drawScene';

/** Middle of several runs, ms. */
function median(runs: number, work: () => void): number {
  const times = Array.from({ length: runs }, () => {
    const started = performance.now();
    work();
    return performance.now() - started;
  });
  return times.sort((a, b) => a - b)[runs >> 1]!;
}

const WIDTH = 4032;
const HEIGHT = 3024;

/** Copying, halving and redrawing 12 megapixels straight, in Node on one thread. */
export function timeRaster(): { copyMs: number; pyramidMs: number; redrawMs: number; screenMs: number } {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4).map((_, k) => k * 31);
  const picture: Pixels = { width: WIDTH, height: HEIGHT, data };
  const copy = new Uint8ClampedArray(data.length);
  const copyMs = median(5, () => copy.set(data));
  let pyramid = buildPyramid(picture);
  const pyramidMs = median(3, () => {
    pyramid = buildPyramid(picture);
  });
  const map = (scale: number) => (x: number, y: number, out: Float64Array) => {
    const w = 1 + 2e-5 * scale * x - 1e-5 * scale * y;
    out[0] = (scale * (x + 0.02 * y)) / w + 20;
    out[1] = (scale * (y - 0.02 * x)) / w + 30;
    return true;
  };
  const draw = (width: number, height: number, scale: number) => {
    const out = new Uint8ClampedArray(width * height * 4);
    return median(3, () => redraw(pyramid, buildWarpGrid(width, height, map(scale)), width, 0, height, out));
  };
  return { copyMs, pyramidMs, redrawMs: draw(WIDTH, HEIGHT, 1), screenMs: draw(814, 580, 4.5) };
}

/** The estimate with and without its draws, ms. */
export function timeEstimate(): { quickMs: number; drawnMs: number } {
  const scene = drawScene(3, 'free');
  const span = (id: string, a: [number, number], b: [number, number]): CalibrationInput['references'][number] => {
    const [from, to] = [scene.pickOf(...a, 'face'), scene.pickOf(...b, 'face')];
    if (!from || !to) throw new Error('the bench scene must be in the frame');
    return {
      id,
      kind: 'known-length',
      plane: 'face',
      from,
      to,
      lengthMm: Math.hypot(b[0] - a[0], b[1] - a[1]),
      plusMinusMm: 0.05,
    };
  };
  const input: CalibrationInput = {
    ...scene.input,
    references: [span('a', [-60, -40], [60, -40]), span('b', [50, -30], [50, 40])],
  };
  return { quickMs: median(9, () => calibrate(input, { draws: 0 })), drawnMs: median(3, () => calibrate(input)) };
}
