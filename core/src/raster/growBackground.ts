import { factorCholesky, solveCholesky } from '../numeric';
import { MOST_UNLIKE, RAMP } from './clearBackground';
import { labIndex, labTable } from './lab';
import type { Pixels } from './patch';

/** A part that is brighter than the light makes the ground is none of it; one that is darker may lie in a soft shadow. */
const DARKER_FACTOR = 1.5;
/** The ground's own grain counts: what lies within so many of its standard deviations is ground. */
const GRAIN_SIGMAS = 2.5;
/** It is grown in rings, each so much further than the one before, the light known better each time. */
const RING_FACTOR = 1.6;
const FIRST_RING_PX = 5;
/** From how far on the light is a plane, and a curved surface: further in, a few grains would bend it. */
const [PLANE_PX, CURVED_PX] = [10, 60];
/** Passes over all of it once the light is known. */
const LAST_PASSES = 2;
/** So many pixels tell the light as well as all do. */
const MOST_FITTED = 20_000;
/** Below this lightness a hue says nothing. */
const DARKEST = 0.1;
/** The rim of the ground, px of the copy that it was grown in: there each fine pixel is told by its own colour. */
const BAND_PX = 3;
/** Half the side of the square over which the ground's colour is averaged, px. */
const SMOOTH_PX = 3;
/** Opacity of what is ground for certain, and of its rim, in what `growBackground` answers. */
const GROUND = 255;
const RIM = 128;

/** What the ground is like: its lightness as a surface over the picture, its hue, and how much it differs in itself. */
interface Light {
  /** Of 1, x, y, x², xy, y², with x and y from −1 to 1; the last ones 0 where it is a plane. */
  surface: Float64Array;
  hueA: number;
  hueB: number;
  sigma: number;
}

/**
 * Grows a background from places in it, over everything that joins them and is as the light that falls on it lets the
 * ground be: brighter and darker as the lamp is near or far, of one hue, with its grain. In less light L, a and b of a
 * colour shrink alike, so that a/L and b/L tell the ground's own hue in shade and sun.
 *
 * In: a small copy of a picture; places in its pixels; how unlike a pixel may be to what the light makes of the ground
 * there, 0 to 1. Out: pixels of the same size: the ground's own colour, its opacity 255 for certain, 128 along its rim,
 * 0 elsewhere.
 */
export function growBackground(
  { width, height, data }: Pixels,
  places: readonly { uPx: number; vPx: number }[],
  tolerance: number,
): Pixels {
  const count = width * height;
  const table = labTable();
  const lab = new Float32Array(3 * count);
  for (let k = 0; k < count; k++) {
    const at = 3 * labIndex(data[4 * k]!, data[4 * k + 1]!, data[4 * k + 2]!);
    for (let c = 0; c < 3; c++) lab[3 * k + c] = table[at + c]!;
  }
  const field = { lab, width, height };
  // The light is found on every fourth pixel, which tells it as well.
  const thin = thinned(field);
  const reached = new Uint8Array(count);
  for (const { uPx, vPx } of places) {
    const [x, y] = [Math.floor(uPx), Math.floor(vPx)];
    if (!(x >= 0 && y >= 0 && x < width && y < height)) continue;
    // Each place under a light of its own: the next one may lie in a hole, or beyond the edge of a window's light.
    const bound = tolerance * MOST_UNLIKE;
    const light = lightFrom(thin, Math.min(x >> 1, thin.width - 1), Math.min(y >> 1, thin.height - 1), bound);
    const own = reachedFrom(field, x, y, light, bound, Math.hypot(width, height));
    for (let k = 0; k < count; k++) reached[k]! |= own[k]!;
  }
  return paintGround({ width, height, data }, reached);
}

interface Field {
  /** L, a and b of each pixel. */
  lab: Float32Array;
  width: number;
  height: number;
}

/** Every second pixel of every second row. */
function thinned({ lab, width, height }: Field): Field {
  const [w, h] = [Math.max(1, width >> 1), Math.max(1, height >> 1)];
  const out = new Float32Array(3 * w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++)
      for (let c = 0; c < 3; c++) out[3 * (y * w + x) + c] = lab[3 * (2 * y * width + 2 * x) + c]!;
  return { lab: out, width: w, height: h };
}

function lightFrom(field: Field, x: number, y: number, bound: number): Light {
  const { lab, width } = field;
  const at = 3 * (y * width + x);
  const l = Math.max(lab[at]!, DARKEST);
  const surface = new Float64Array(6);
  surface[0] = lab[at]!;
  let light: Light = { surface, hueA: lab[at + 1]! / l, hueB: lab[at + 2]! / l, sigma: 0 };
  const all = Math.hypot(field.width, field.height);
  for (let ring = FIRST_RING_PX; ring < all; ring *= RING_FACTOR)
    light = fitLight(field, reachedFrom(field, x, y, light, bound, ring), ring) ?? light;
  for (let pass = 0; pass < LAST_PASSES; pass++)
    light = fitLight(field, reachedFrom(field, x, y, light, bound, all), all) ?? light;
  return light;
}

/** What joins a place, is like the ground under that light, and lies no further than `ring` px. */
function reachedFrom(
  { lab, width, height }: Field,
  x0: number,
  y0: number,
  { surface: s, hueA, hueB, sigma }: Light,
  bound: number,
  ring: number,
): Uint8Array {
  const count = width * height;
  const reached = new Uint8Array(count);
  const queue = new Int32Array(count);
  const most = Math.max(bound, GRAIN_SIGMAS * sigma) ** 2;
  const furthest = ring * ring;
  let tail = 0;
  const tryNext = (x: number, y: number) => {
    const at = y * width + x;
    if (reached[at] || (x - x0) * (x - x0) + (y - y0) * (y - y0) > furthest) return;
    const [p, q] = [(2 * x) / width - 1, (2 * y) / height - 1];
    const l = lab[3 * at]!;
    const made = s[0]! + s[1]! * p + s[2]! * q + s[3]! * p * p + s[4]! * p * q + s[5]! * q * q;
    const off = l > made ? l - made : (l - made) / DARKER_FACTOR;
    const offA = lab[3 * at + 1]! - hueA * l;
    const offB = lab[3 * at + 2]! - hueB * l;
    if (off * off + offA * offA + offB * offB > most) return;
    reached[at] = 1;
    queue[tail++] = at;
  };
  const first = y0 * width + x0;
  reached[first] = 1;
  queue[tail++] = first;
  for (let head = 0; head < tail; head++) {
    const at = queue[head]!;
    const x = at % width;
    const y = (at - x) / width;
    if (x > 0) tryNext(x - 1, y);
    if (x < width - 1) tryNext(x + 1, y);
    if (y > 0) tryNext(x, y - 1);
    if (y < height - 1) tryNext(x, y + 1);
  }
  return reached;
}

/** The light over what was reached, by least squares; null where that is too little. */
function fitLight({ lab, width, height }: Field, reached: Uint8Array, ring: number): Light | null {
  const size = ring >= CURVED_PX ? 6 : ring >= PLANE_PX ? 3 : 1;
  let count = 0;
  for (const one of reached) count += one;
  if (count < 4 * size) return null;
  const step = Math.max(1, Math.floor(count / MOST_FITTED));
  const square = new Float64Array(size * size);
  const right = new Float64Array(size);
  const row = new Float64Array(6);
  const rowAt = (k: number) => {
    const p = (2 * (k % width)) / width - 1;
    const q = (2 * Math.floor(k / width)) / height - 1;
    row.set([1, p, q, p * p, p * q, q * q]);
  };
  let [n, l, a, b] = [0, 0, 0, 0];
  const used: number[] = [];
  for (let k = 0, seen = 0; k < reached.length; k++) {
    if (!reached[k] || seen++ % step) continue;
    used.push(k);
    rowAt(k);
    for (let i = 0; i < size; i++) {
      right[i]! += row[i]! * lab[3 * k]!;
      for (let j = 0; j < size; j++) square[i * size + j]! += row[i]! * row[j]!;
    }
    n++;
    l += lab[3 * k]!;
    a += lab[3 * k + 1]!;
    b += lab[3 * k + 2]!;
  }
  // A strip tells no surface: a trace of each keeps it solvable.
  for (let i = 1; i < size; i++) square[i * size + i]! += 1e-6 * n;
  if (!factorCholesky(square, size)) return null;
  solveCholesky(square, size, right);
  const surface = new Float64Array(6);
  surface.set(right);
  let squares = 0;
  for (const k of used) {
    rowAt(k);
    squares += (lab[3 * k]! - row.reduce((sum, v, i) => sum + v * surface[i]!, 0)) ** 2;
  }
  return { surface, hueA: a / l, hueB: b / l, sigma: Math.sqrt(squares / n) };
}

/** The colour of the ground where it was reached and a little beyond, averaged, with its opacity. */
function paintGround({ width, height, data }: Pixels, reached: Uint8Array): Pixels {
  const out = new Uint8ClampedArray(data.length);
  const near = boxSums(reached, width, height, BAND_PX, 1, () => 1);
  const full = boxSums(null, width, height, BAND_PX, 1, () => 1);
  // Colours reach further than the rim does, so that nothing black is mixed in where the copy is drawn larger.
  const reach = SMOOTH_PX + BAND_PX;
  const own = [0, 1, 2].map((c) => boxSums(reached, width, height, reach, 4, (k) => data[k + c]!));
  const weights = boxSums(reached, width, height, reach, 1, () => 1);
  for (let k = 0; k < reached.length; k++) {
    const weight = weights[k]!;
    if (weight === 0) continue;
    for (let c = 0; c < 3; c++) out[4 * k + c] = own[c]![k]! / weight;
    out[4 * k + 3] = near[k] === full[k] ? GROUND : near[k]! > 0 ? RIM : 0;
  }
  return { width, height, data: out };
}

/** Sums over squares of what was reached (or of all), by one pass along and one down. */
function boxSums(
  reached: Uint8Array | null,
  width: number,
  height: number,
  half: number,
  stride: number,
  valueAt: (k: number) => number,
): Float64Array {
  const rows = new Float64Array(width * height);
  const out = new Float64Array(width * height);
  const at = (k: number) => (reached === null || reached[k] ? valueAt(stride * k) : 0);
  for (let y = 0; y < height; y++) {
    let sum = 0;
    for (let x = -half; x < width; x++) {
      if (x + half < width) sum += at(y * width + x + half);
      if (x - half - 1 >= 0) sum -= at(y * width + x - half - 1);
      if (x >= 0) rows[y * width + x] = sum;
    }
  }
  for (let x = 0; x < width; x++) {
    let sum = 0;
    for (let y = -half; y < height; y++) {
      if (y + half < height) sum += rows[(y + half) * width + x]!;
      if (y - half - 1 >= 0) sum -= rows[(y - half - 1) * width + x]!;
      if (y >= 0) out[y * width + x] = sum;
    }
  }
  return out;
}

/** Below it an opacity means none of the ground, and above the other that it is ground for certain: halfway between. */
const [FROM, SURE] = [RIM / 2, (RIM + GROUND) / 2];

/**
 * Takes a grown background out of pixels, RGBA, in place: what is ground for certain goes, along its rim what is like
 * it. `ground` is what `growBackground` answered, drawn as the pixels are.
 */
export function clearGround(data: Uint8ClampedArray, ground: Uint8ClampedArray, tolerance: number): void {
  const table = labTable();
  const bound = tolerance * MOST_UNLIKE;
  for (let k = 0; k < data.length; k += 4) {
    const sure = ground[k + 3]!;
    if (data[k + 3] === 0 || sure < FROM) continue;
    if (sure > SURE) {
      data[k + 3] = 0;
      continue;
    }
    const own = 3 * labIndex(data[k]!, data[k + 1]!, data[k + 2]!);
    const other = 3 * labIndex(ground[k]!, ground[k + 1]!, ground[k + 2]!);
    const unlike = Math.hypot(
      table[own]! - table[other]!,
      table[own + 1]! - table[other + 1]!,
      table[own + 2]! - table[other + 2]!,
    );
    data[k + 3] = Math.min(data[k + 3]!, 255 * Math.min(1, Math.max(0, (unlike - bound) / RAMP)));
  }
}
