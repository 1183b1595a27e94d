import { LINEAR_LIGHT, type Pixels } from '../../raster';

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
  const [far, near] = [fx * fy, (1 - fx) * (1 - fy)];
  const [right, below] = [fx - far, fy - far];
  for (let c = 0; c < 3; c++)
    out[at + c]! +=
      LINEAR[data[p + c]!]! * near +
      LINEAR[data[p + 4 + c]!]! * right +
      LINEAR[data[q + c]!]! * below +
      LINEAR[data[q + 4 + c]!]! * far;
  return true;
}
