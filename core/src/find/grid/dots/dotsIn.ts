import { buildPyramid, type Patch, type Pixels } from '../../../raster';
import { grayOf } from '../board/corners';

/** A round spot that stands out from the ground about it, px of the whole picture. */
export interface Dot {
  x: number;
  y: number;
  /** Half its longer axis, px, and its area, px². */
  radius: number;
  area: number;
  isDark: boolean;
}

const DOTS = {
  /** Larger pictures are looked at in a smaller copy, px. */
  mostPx: 3.2e6,
  /** The ground is the mean over a square of this half width, px of the copy: a dot and what lies between dots. */
  groundPx: [9, 28],
  /** Less than this from the ground is none of it, 0 to 1. */
  leastContrast: 0.05,
  /** Area, px² of the copy. */
  area: { least: 9, most: 6000 },
  /**
   * By how much its area may differ from that of an ellipse with the same spread: of one so small that its pixels show, and
   * of a larger one; a square's is less by 0.045. And how much longer than wide it may be.
   */
  unlike: { small: 0.08, large: 0.025, from: 80 },
  longest: 2.4,
} as const;

/** All round spots of a picture, dark and light ones; those that several grounds show once. */
export function dotsIn(pixels: Pixels): Dot[] {
  const levels = buildPyramid(pixels);
  let n = 0;
  while (n + 1 < levels.length && levels[n]!.width * levels[n]!.height > DOTS.mostPx) n += 1;
  const gray = grayOf(levels[n]!);
  const scale = 2 ** n;
  const found = new Map<string, Dot>();
  for (const reach of DOTS.groundPx) {
    const ground = meanOver(gray, reach);
    for (const isDark of [true, false])
      for (const dot of spotsOf(gray, ground, isDark)) {
        const key = `${isDark} ${Math.round(dot.x / 3)} ${Math.round(dot.y / 3)}`;
        if (!found.has(key))
          found.set(key, {
            ...dot,
            x: dot.x * scale,
            y: dot.y * scale,
            radius: dot.radius * scale,
            area: dot.area * scale * scale,
          });
      }
  }
  return [...found.values()];
}

/** What hangs together of all that is darker than its ground, or lighter, where it is round. */
function spotsOf({ width, height, light }: Patch, ground: Float32Array, isDark: boolean): Dot[] {
  const sign = isDark ? 1 : -1;
  const isIn = (k: number): boolean => sign * (ground[k]! - light[k]!) > DOTS.leastContrast;
  const seen = new Uint8Array(width * height);
  const stack: number[] = [];
  const dots: Dot[] = [];
  for (let seed = 0; seed < seen.length; seed++) {
    if (seen[seed] || !isIn(seed)) continue;
    seen[seed] = 1;
    stack.push(seed);
    let [count, sx, sy, sxx, sxy, syy, touches] = [0, 0, 0, 0, 0, 0, false];
    while (stack.length > 0) {
      const k = stack.pop()!;
      const x = k % width;
      const y = (k - x) / width;
      count += 1;
      sx += x;
      sy += y;
      sxx += x * x;
      sxy += x * y;
      syy += y * y;
      if (x === 0 || y === 0 || x === width - 1 || y === height - 1) {
        touches = true;
        continue;
      }
      for (const next of [k - 1, k + 1, k - width, k + width])
        if (!seen[next] && isIn(next)) {
          seen[next] = 1;
          stack.push(next);
        }
    }
    if (touches || count < DOTS.area.least || count > DOTS.area.most) continue;
    const [mx, my] = [sx / count, sy / count];
    // A pixel has a spread of its own.
    const [a, b, c] = [sxx / count - mx * mx + 1 / 12, sxy / count - mx * my, syy / count - my * my + 1 / 12];
    const det = a * c - b * b;
    const root = Math.sqrt(Math.max(0, ((a - c) / 2) ** 2 + b * b));
    const [major, minor] = [(a + c) / 2 + root, (a + c) / 2 - root];
    const fill = count / (4 * Math.PI * Math.sqrt(det));
    const { small, large, from } = DOTS.unlike;
    if (Math.abs(fill - 1) > (count < from ? small : large) || major > DOTS.longest ** 2 * minor) continue;
    dots.push({ x: mx + 0.5, y: my + 0.5, radius: 2 * Math.sqrt(major), area: count, isDark });
  }
  return dots;
}

/** The mean over a square about each pixel; at the rim over what of it lies in the picture. */
function meanOver({ width, height, light }: Patch, reach: number): Float32Array {
  const sums = new Float64Array((width + 1) * (height + 1));
  for (let y = 0; y < height; y++)
    for (let x = 0, row = 0; x < width; x++) {
      row += light[y * width + x]!;
      sums[(y + 1) * (width + 1) + x + 1] = sums[y * (width + 1) + x + 1]! + row;
    }
  const mean = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const [top, low] = [Math.max(0, y - reach), Math.min(height, y + reach + 1)];
    for (let x = 0; x < width; x++) {
      const [left, right] = [Math.max(0, x - reach), Math.min(width, x + reach + 1)];
      const sum =
        sums[low * (width + 1) + right]! -
        sums[top * (width + 1) + right]! -
        sums[low * (width + 1) + left]! +
        sums[top * (width + 1) + left]!;
      mean[y * width + x] = sum / ((low - top) * (right - left));
    }
  }
  return mean;
}
