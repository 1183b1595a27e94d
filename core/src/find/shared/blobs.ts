import type { Vec2 } from '../../geometry';
import type { Pixels } from '../../raster';
import { type CoarseColours, coarseColoursOf } from './coarse';
import { convexHull } from './hull';

/** A like-coloured region of a picture, or a thing that lies in one; px of the picture. */
export interface Blob {
  hull: Vec2[];
  /** A place in it, far from its rim. */
  at: Vec2;
  /** Share of the picture that it covers, and of its own hull. */
  share: number;
  fill: number;
  /** Mean levels, 0 to 255. */
  colour: readonly [number, number, number];
  touchesRim: boolean;
}

/** What a region surrounds. */
export type Thing = Blob & { within: Blob };

/** Levels by which a region may change from one small pixel to the next, in all three colours together. */
const SAME = 14;
/** And from where it began. */
const SAME_FAR = 90;
const LONG_PX = 500;
/** Regions smaller than this are not looked at, as a share of the picture. */
const LEAST_SHARE = 0.0006;
/** Things are looked for in regions of this share at least. */
const GROUND_SHARE = 0.02;

/**
 * The like-coloured regions of a picture, largest first, and when they are asked for the things that lie in each of the
 * large ones: what it surrounds, of whatever colour.
 */
export function blobsOf(pixels: Pixels): { regions: Blob[]; things(): Thing[] } {
  const coarse = coarseColoursOf(pixels, LONG_PX);
  const { width, height } = coarse;
  const labels = new Int32Array(width * height);
  const sizes = [0];
  const queue = new Int32Array(width * height);
  for (let seed = 0; seed < labels.length; seed++)
    if (labels[seed] === 0) sizes.push(flood(coarse, labels, queue, seed, sizes.length));
  const all = width * height;
  const large = sizes
    .map((size, label) => ({ size, label }))
    .filter(({ size }) => size >= LEAST_SHARE * all)
    .sort((a, b) => b.size - a.size);
  const regions = large.map(({ label }) => blobOf(coarse, (k) => labels[k] === label));
  const things = () =>
    large
      .filter(({ size }) => size >= GROUND_SHARE * all)
      .flatMap(({ label }, k) =>
        enclosed(coarse, labels, queue, label).map((thing) => ({ ...thing, within: regions[k]! })),
      );
  return { regions, things };
}

function flood(
  { width, height, levels }: CoarseColours,
  labels: Int32Array,
  queue: Int32Array,
  seed: number,
  label: number,
): number {
  const unlike = (a: number, b: number) =>
    Math.abs(levels[3 * a]! - levels[3 * b]!) +
    Math.abs(levels[3 * a + 1]! - levels[3 * b + 1]!) +
    Math.abs(levels[3 * a + 2]! - levels[3 * b + 2]!);
  let [head, tail] = [0, 0];
  queue[tail++] = seed;
  labels[seed] = label;
  while (head < tail) {
    const at = queue[head++]!;
    const x = at % width;
    for (const next of [x > 0 ? at - 1 : -1, x < width - 1 ? at + 1 : -1, at - width, at + width]) {
      if (next < 0 || next >= width * height || labels[next] !== 0) continue;
      if (unlike(next, at) > SAME || unlike(next, seed) > SAME_FAR) continue;
      labels[next] = label;
      queue[tail++] = next;
    }
  }
  return tail;
}

/** What hangs together of all that is not of a region, and does not reach the picture's rim. */
function enclosed(coarse: CoarseColours, labels: Int32Array, queue: Int32Array, ground: number): Blob[] {
  const { width, height } = coarse;
  const seen = new Int32Array(width * height);
  const found: Blob[] = [];
  for (let seed = 0, own = 1; seed < labels.length; seed++, own++) {
    if (seen[seed] || labels[seed] === ground) continue;
    let [head, tail, rim] = [0, 0, false];
    queue[tail++] = seed;
    seen[seed] = own;
    while (head < tail) {
      const at = queue[head++]!;
      const [x, y] = [at % width, Math.floor(at / width)];
      if (x === 0 || y === 0 || x === width - 1 || y === height - 1) rim = true;
      for (const next of [x > 0 ? at - 1 : -1, x < width - 1 ? at + 1 : -1, at - width, at + width]) {
        if (next < 0 || next >= width * height || seen[next] || labels[next] === ground) continue;
        seen[next] = own;
        queue[tail++] = next;
      }
    }
    if (!rim && tail >= LEAST_SHARE * width * height) found.push(blobOf(coarse, (k) => seen[k] === own));
  }
  return found;
}

function blobOf({ width, height, step, levels }: CoarseColours, isIn: (k: number) => boolean): Blob {
  const rim: Vec2[] = [];
  const sum = [0, 0, 0];
  let [count, touchesRim] = [0, false];
  for (let y = 0; y < height; y++) {
    let [first, last] = [-1, -1];
    for (let x = 0; x < width; x++) {
      const k = y * width + x;
      if (!isIn(k)) continue;
      if (first < 0) first = x;
      last = x;
      count++;
      for (let c = 0; c < 3; c++) sum[c]! += levels[3 * k + c]!;
      if (x === 0 || y === 0 || x === width - 1 || y === height - 1) touchesRim = true;
    }
    if (first >= 0) rim.push({ x: step * first, y: step * (y + 0.5) }, { x: step * (last + 1), y: step * (y + 0.5) });
  }
  const hull = convexHull(rim);
  const at = deepest(width, height, isIn);
  return {
    hull,
    at: { x: step * ((at % width) + 0.5), y: step * (Math.floor(at / width) + 0.5) },
    share: count / (width * height),
    fill: (count * step * step) / Math.max(1, areaOf(hull)),
    colour: [sum[0]! / count, sum[1]! / count, sum[2]! / count],
    touchesRim,
  };
}

/** The pixel of a region furthest from its rim, by steps along rows and columns. */
function deepest(width: number, height: number, isIn: (k: number) => boolean): number {
  const depth = new Uint16Array(width * height);
  let best = 0;
  for (let k = 0; k < depth.length; k++) {
    const isAtRim = k % width === 0 || k < width;
    if (isIn(k)) depth[k] = isAtRim ? 1 : 1 + Math.min(depth[k - 1]!, depth[k - width]!);
  }
  for (let k = depth.length - 1; k >= 0; k--) {
    const isAtRim = k % width === width - 1 || k >= depth.length - width;
    depth[k] = Math.min(depth[k]!, isAtRim ? 1 : 1 + Math.min(depth[k + 1]!, depth[k + width]!));
    if (depth[k]! > depth[best]!) best = k;
  }
  return best;
}

/** Area of a polygon, in its own unit squared. */
export function areaOf(polygon: readonly Vec2[]): number {
  let sum = 0;
  polygon.forEach((p, k) => {
    const q = polygon[(k + 1) % polygon.length]!;
    sum += p.x * q.y - p.y * q.x;
  });
  return Math.abs(sum) / 2;
}
