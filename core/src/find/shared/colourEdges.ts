import type { Pixels } from '../../raster';
import { addColour, type Rgb } from './addColour';

/** An edge across a short band. */
export interface ColourEdge {
  /** From the place asked, along its normal, px. */
  offPx: number;
  /** From how the band's own parts scatter. */
  sigmaPx: number;
  /** Change of colour, linear light, over two pixels. */
  contrast: number;
  /** Mean colours a few pixels before and behind it along the normal, linear light. */
  before: Rgb;
  behind: Rgb;
}

export interface ColourEdgeOptions {
  /** Half width of the profile across it, px. */
  reachPx: number;
  /** Half length of the band along it, px. */
  halfLengthPx: number;
  /** Its bend, 1/px, positive towards the normal. */
  bend?: number;
  /** Within how far it falls off on both sides, px: two edges of a rounded rim seen as one are softer than one. */
  sharpWithinPx?: number;
  /** Rows that are averaged along the band, `ROWS` if nothing is said: a multiple of its parts. */
  rows?: number;
  /** Only changes this way from before to behind, a unit of linear light: other edges are not seen, and less noise. */
  along?: Rgb;
}

const STEP = 0.5;
const PARTS = 4;
const ROWS = 4 * PARTS;
/** Colours are compared so far apart, samples: a soft shadow hardly changes over it, an edge does altogether. */
const APART = 2;
/** The centre is taken of so much about a peak, samples. */
const WINDOW = 4;
/** Smallest change of colour that is an edge, linear light. */
const LEAST_CONTRAST = 0.012;
/** What no model here holds, px. */
const LEAST_SIGMA_PX = 0.03;

/**
 * All sharp edges that cross the normal near a place, by the change of colour and not of brightness alone: where a thing
 * meets its own shadow both may be equally bright. In order along the normal. Empty where the band leaves the picture.
 */
export function colourEdges(
  pixels: Pixels,
  x: number,
  y: number,
  nx: number,
  ny: number,
  { reachPx, halfLengthPx, bend = 0, sharpWithinPx = SHARP_WITHIN_PX, rows = ROWS, along }: ColourEdgeOptions,
): ColourEdge[] {
  const count = 2 * Math.round(reachPx / STEP) + 1;
  const middle = (count - 1) / 2;
  const parts = Array.from({ length: PARTS }, () => new Float64Array(3 * count));
  for (let row = 0; row < rows; row++) {
    const s = ((row + 0.5) / rows - 0.5) * 2 * halfLengthPx;
    const lift = 0.5 * bend * s * s;
    const part = parts[Math.floor((row * PARTS) / rows)]!;
    for (let k = 0; k < count; k++) {
      const t = (k - middle) * STEP + lift;
      if (!addColour(pixels, x + t * nx - s * ny, y + t * ny + s * nx, part, 3 * k)) return [];
    }
  }
  const whole = new Float64Array(3 * count);
  for (const part of parts) for (let k = 0; k < whole.length; k++) whole[k]! += part[k]!;
  const signal = changes(whole, rows, along);
  const found: ColourEdge[] = [];
  let ofParts: Float64Array[] | null = null;
  for (let k = APART + 1; k < count - APART - 1; k++) {
    if (signal[k]! < LEAST_CONTRAST || signal[k]! < signal[k - 1]! || signal[k]! <= signal[k + 1]!) continue;
    if (!isSharp(signal, k, sharpWithinPx / STEP)) continue;
    const centre = centreAbout(signal, k);
    ofParts ??= parts.map((part) => changes(part, rows / PARTS, along));
    const own = ofParts.map((part) => centreAbout(part, k));
    const mean = own.reduce((a, b) => a + b) / PARTS;
    const square = own.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (PARTS - 1);
    found.push({
      offPx: (centre - middle) * STEP,
      sigmaPx: Math.hypot(STEP * Math.sqrt(square / PARTS), LEAST_SIGMA_PX),
      contrast: signal[k]!,
      before: meanColour(whole, rows, k - SIDE.far, k - SIDE.near),
      behind: meanColour(whole, rows, k + SIDE.near, k + SIDE.far),
    });
  }
  return found;
}

/** Colours beside an edge are taken from so near to so far, samples. */
const SIDE = { near: 5, far: 10 } as const;

function meanColour(profile: Float64Array, rows: number, from: number, to: number): Rgb {
  const [first, last] = [Math.max(0, from), Math.min(profile.length / 3 - 1, to)];
  const sum = [0, 0, 0];
  for (let k = first; k <= last; k++) for (let c = 0; c < 3; c++) sum[c]! += profile[3 * k + c]!;
  const count = rows * Math.max(1, last - first + 1);
  return [sum[0]! / count, sum[1]! / count, sum[2]! / count];
}

/** Within so far a sharp edge has fallen off by half on both sides, px; the slope of a soft shadow has not. */
const SHARP_WITHIN_PX = 3;
const SHARP_SHARE = 0.55;

function isSharp(signal: Float64Array, k: number, within: number): boolean {
  let [before, behind] = [signal[k]!, signal[k]!];
  for (let j = 1; j <= within; j++) {
    before = Math.min(before, signal[k - j] ?? before);
    behind = Math.min(behind, signal[k + j] ?? behind);
  }
  return Math.max(before, behind) < SHARP_SHARE * signal[k]!;
}

/** How far colours `APART` before and behind each sample differ, altogether or one way only. */
function changes(profile: Float64Array, rows: number, along?: Rgb): Float64Array {
  const count = profile.length / 3;
  const out = new Float64Array(count);
  for (let k = APART; k < count - APART; k++) {
    const [a, b] = [3 * (k - APART), 3 * (k + APART)];
    const [r, g, blue] = [
      profile[b]! - profile[a]!,
      profile[b + 1]! - profile[a + 1]!,
      profile[b + 2]! - profile[a + 2]!,
    ];
    // Not by Math.hypot, which takes five times as long.
    out[k] =
      (along ? Math.max(0, r * along[0] + g * along[1] + blue * along[2]) : Math.sqrt(r * r + g * g + blue * blue)) /
      rows;
  }
  return out;
}

/** Centre of the hump about a peak, down to the valleys on both sides, the ground under it taken off. */
function centreAbout(signal: Float64Array, near: number): number {
  let peak = near;
  if (signal[peak - 1]! > signal[peak]!) peak -= 1;
  else if (signal[peak + 1]! > signal[peak]!) peak += 1;
  let reach = 1;
  while (
    reach < WINDOW &&
    signal[peak - reach - 1]! < signal[peak - reach]! &&
    signal[peak + reach + 1]! < signal[peak + reach]!
  )
    reach += 1;
  const ground = Math.max(signal[peak - reach] ?? 0, signal[peak + reach] ?? 0);
  let [sum, moment] = [0, 0];
  for (let k = peak - reach; k <= peak + reach; k++) {
    const weight = Math.max(0, (signal[k] ?? 0) - ground);
    sum += weight;
    moment += weight * k;
  }
  return sum > 0 ? moment / sum : peak;
}
