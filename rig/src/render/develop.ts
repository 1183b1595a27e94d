import type { Film, Scene } from '../scene';
import { type Exposure, expose, type Frame, type Stage, setStage } from './expose';
import { numbers } from './noise';

/** Pixels as a file holds them: red, green, blue, 8 bits each, rows from the top. */
export interface Shot extends Frame {
  pixels: Uint8Array;
}

/** Margin round a frame so that blur and sharpening see past its rim, px. */
const MARGIN_PX = 12;

/** Makes a picture, or a frame of it, of a scene or of a stage already set: the same bytes for the same scene. */
export function shoot(of: Scene | Stage, frame?: Frame, progress?: (share: number) => void): Shot {
  const stage = 'bodies' in of ? of : setStage(of);
  const { camera } = stage.scene;
  const whole = frame ?? { left: 0, top: 0, width: camera.widthPx, height: camera.heightPx };
  const wide = {
    left: whole.left - MARGIN_PX,
    top: whole.top - MARGIN_PX,
    width: whole.width + 2 * MARGIN_PX,
    height: whole.height + 2 * MARGIN_PX,
  };
  return develop(expose(stage, wide, progress), stage.scene, whole);
}

function develop(exposure: Exposure, scene: Scene, frame: Frame): Shot {
  const { film, camera } = scene;
  const { width, height } = exposure;
  blurRgb(exposure.light, width, height, film.blurPx);
  const light = exposure.light;
  const normal = normalTable(scene.seed);
  const next = numbers(scene.seed * 7919 + exposure.left * 31 + exposure.top);
  const cx = camera.widthPx / 2;
  const cy = camera.heightPx / 2;
  const far = Math.hypot(cx, cy);
  const tone = toneTable(film.toneCurve);
  // Shot noise on linear light, so scaled that mid grey scatters by `noise` steps.
  const slope = tone[Math.round(MID_GREY * TONE_STEPS) + 1]! - tone[Math.round(MID_GREY * TONE_STEPS) - 1]!;
  const sigmaMid = (film.noise * 2) / (slope * TONE_STEPS);
  const toneOf = (value: number) => tone[Math.min(TONE_STEPS, Math.max(0, Math.round(value * TONE_STEPS)))]!;
  const toned = new Float32Array(light.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const r = Math.hypot(exposure.left + x - cx, exposure.top + y - cy) / far;
      const dim = 1 - film.vignette * r * r;
      for (let k = 0; k < 3; k++) {
        const at = (y * width + x) * 3 + k;
        const value = light[at]! * dim * (film.gain?.[k] ?? 1);
        const noisy =
          value +
          sigmaMid * Math.sqrt(0.25 + (0.75 * Math.max(0, value)) / MID_GREY) * normal[(next() * normal.length) | 0]!;
        toned[at] = film.isMosaic ? noisy : toneOf(noisy);
      }
    }
  if (film.isMosaic) {
    seeThroughFilters(toned, exposure);
    for (let k = 0; k < toned.length; k++) toned[k] = toneOf(toned[k]!);
  }
  if (film.colourBlurPx) smoothColours(toned, width, height, film.colourBlurPx);
  if (film.sharpening > 0) sharpen(toned, width, height, film.sharpening);
  const pixels = new Uint8Array(frame.width * frame.height * 3);
  for (let y = 0; y < frame.height; y++)
    for (let x = 0; x < frame.width * 3; x++) {
      const value = toned[((y + MARGIN_PX) * width + MARGIN_PX) * 3 + x]!;
      pixels[y * frame.width * 3 + x] = Math.min(255, Math.max(0, Math.round(value)));
    }
  return { ...frame, pixels };
}

const TONE_STEPS = 16384;
const MID_GREY = 0.214;

/** Linear light to 0 … 255: the standard curve of sRGB, bent a little to an S as cameras do. */
function toneTable(bend: number): Float32Array {
  const table = new Float32Array(TONE_STEPS + 1);
  for (let k = 0; k <= TONE_STEPS; k++) {
    const l = k / TONE_STEPS;
    const s = l <= 0.0031308 ? 12.92 * l : 1.055 * l ** (1 / 2.4) - 0.055;
    const curved = s * s * (3 - 2 * s);
    table[k] = 255 * (s + bend * (curved - s));
  }
  return table;
}

function normalTable(seed: number): Float32Array {
  const next = numbers(seed + 17);
  return Float32Array.from(
    { length: 65536 },
    () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next()),
  );
}

/** Which colour each pixel of two by two sees: red and green, green and blue. */
const FILTERS = [0, 1, 1, 2] as const;

/** Leaves each pixel the colour of its filter, and fills in the others by the mean of those within a pixel of it. */
function seeThroughFilters(values: Float32Array, { left, top, width, height }: Exposure): void {
  const seen = values.slice();
  const colourAt = (x: number, y: number) => FILTERS[((top + y) & 1) * 2 + ((left + x) & 1)]!;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let c = 0; c < 3; c++) {
        if (colourAt(x, y) === c) continue;
        let [sum, weight] = [0, 0];
        for (let dy = -1; dy <= 1; dy++)
          for (let dx = -1; dx <= 1; dx++) {
            const [u, v] = [x + dx, y + dy];
            if (u < 0 || v < 0 || u >= width || v >= height || colourAt(u, v) !== c) continue;
            // Green has neighbours at the sides, the others at the corners as well: the nearer ones tell more.
            const own = dx && dy ? 0.5 : 1;
            sum += own * seen[(v * width + u) * 3 + c]!;
            weight += own;
          }
        values[(y * width + x) * 3 + c] = sum / weight;
      }
}

/** Blurs what each colour differs by from the pixel's brightness, as noise reduction does. */
function smoothColours(values: Float32Array, width: number, height: number, sigma: number): void {
  const off = new Float32Array(values.length);
  const mean = (k: number) => 0.3 * values[k]! + 0.6 * values[k + 1]! + 0.1 * values[k + 2]!;
  for (let k = 0; k < values.length; k += 3) for (let c = 0; c < 3; c++) off[k + c] = values[k + c]! - mean(k);
  blurRgb(off, width, height, sigma);
  for (let k = 0; k < values.length; k += 3) {
    const own = mean(k);
    for (let c = 0; c < 3; c++) values[k + c] = own + off[k + c]!;
  }
}

function sharpen(values: Float32Array, width: number, height: number, strength: Film['sharpening']): void {
  const soft = values.slice();
  blurRgb(soft, width, height, 1.2);
  for (let k = 0; k < values.length; k++) values[k]! += strength * (values[k]! - soft[k]!);
}

/** Gaussian blur in place, both ways one after the other. */
function blurRgb(values: Float32Array, width: number, height: number, sigma: number): void {
  if (sigma <= 0) return;
  const reach = Math.min(MARGIN_PX, Math.max(1, Math.ceil(4 * sigma)));
  const kernel = Float64Array.from({ length: reach + 1 }, (_, k) => Math.exp((-k * k) / (2 * sigma * sigma)));
  const sum = kernel[0]! + 2 * kernel.slice(1).reduce((a, b) => a + b, 0);
  for (let k = 0; k <= reach; k++) kernel[k]! /= sum;
  const row = new Float32Array(Math.max(width, height) * 3);
  for (let y = 0; y < height; y++) blurLine(values, y * width * 3, 3, width, kernel, row);
  for (let x = 0; x < width; x++) blurLine(values, x * 3, width * 3, height, kernel, row);
}

function blurLine(
  values: Float32Array,
  start: number,
  stride: number,
  count: number,
  kernel: Float64Array,
  line: Float32Array,
): void {
  for (let k = 0; k < count; k++) for (let c = 0; c < 3; c++) line[k * 3 + c] = values[start + k * stride + c]!;
  const reach = kernel.length - 1;
  for (let k = 0; k < count; k++)
    for (let c = 0; c < 3; c++) {
      let sum = kernel[0]! * line[k * 3 + c]!;
      for (let n = 1; n <= reach; n++) {
        const before = Math.max(k - n, 0);
        const after = Math.min(k + n, count - 1);
        sum += kernel[n]! * (line[before * 3 + c]! + line[after * 3 + c]!);
      }
      values[start + k * stride + c] = sum;
    }
}
