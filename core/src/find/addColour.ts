import { LINEAR_LIGHT, type Pixels } from '../raster';

/** Linear light of the three colours. */
export type Rgb = readonly [number, number, number];

/** Beside the loop that reads it. */
const LINEAR = LINEAR_LIGHT;

/** Adds the linear colour of a place, bilinear; false outside the picture. */
export function addColour(
  { width, height, data }: Pixels,
  x: number,
  y: number,
  out: Float64Array,
  at: number,
): boolean {
  const u = x - 0.5;
  const v = y - 0.5;
  if (!(u >= 0 && v >= 0 && u < width - 1 && v < height - 1)) return false;
  const i = Math.floor(u);
  const j = Math.floor(v);
  const [fx, fy] = [u - i, v - j];
  const p = (j * width + i) * 4;
  const q = p + width * 4;
  for (let c = 0; c < 3; c++)
    out[at + c]! +=
      (LINEAR[data[p + c]!]! * (1 - fx) + LINEAR[data[p + 4 + c]!]! * fx) * (1 - fy) +
      (LINEAR[data[q + c]!]! * (1 - fx) + LINEAR[data[q + 4 + c]!]! * fx) * fy;
  return true;
}
