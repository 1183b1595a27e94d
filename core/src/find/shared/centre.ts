import { LINEAR_LIGHT, type Pixels } from '../../raster';

/** Where a thin line or an edge lies across a short band, px from the place asked along its normal. */
export interface Centre {
  offPx: number;
  /** From how the band's own parts scatter. */
  sigmaPx: number;
  /** Depth of the line or height of the step, linear light; negative for a dark line, or a step down along the normal. */
  contrast: number;
}

export interface CentreOptions {
  /** Half width of the profile across it, px. */
  reachPx: number;
  /** Half length of the band along it, px. */
  halfLengthPx: number;
  /** Its bend, 1/px, positive towards the normal. */
  bend?: number;
}

/** Beside the loops that read it. */
const LINEAR = LINEAR_LIGHT;
/** Samples across lie this far apart, px. */
const STEP = 0.5;
/** The band is cut along its length into so many parts, which tell the scatter. */
const PARTS = 4;
const ROWS = 4 * PARTS;
/** What no model here holds, px: as for a located edge. */
const LEAST_SIGMA_PX = 0.03;
/** The centre is taken of what reaches this share of the peak. */
const PEAK_SHARE = 0.35;

/**
 * The middle of a thin line that crosses the normal near a place: the centre of light missing (or added) against the
 * ground on both sides. Made for the hundreds of strokes and grid lines of one reference, for which the full fit of
 * `locateLine` is too slow.
 * In: a place and a unit normal across the line. Null where the band leaves the picture or shows no line.
 */
export function lineCentre(
  pixels: Pixels,
  x: number,
  y: number,
  nx: number,
  ny: number,
  options: CentreOptions,
): Centre | null {
  return centreOf(pixels, x, y, nx, ny, options, (profile, out) => {
    const n = profile.length;
    const end = Math.max(2, n >> 3);
    let [left, right] = [0, 0];
    for (let k = 0; k < end; k++) {
      left += profile[k]! / end;
      right += profile[n - 1 - k]! / end;
    }
    for (let k = 0; k < n; k++) out[k] = profile[k]! - (left + ((right - left) * k) / (n - 1));
  });
}

/** The middle of a blurred step across the normal: the centre of its slope. As `lineCentre` otherwise. */
export function edgeCentre(
  pixels: Pixels,
  x: number,
  y: number,
  nx: number,
  ny: number,
  options: CentreOptions,
): Centre | null {
  return centreOf(pixels, x, y, nx, ny, options, (profile, out) => {
    const n = profile.length;
    for (let k = 0; k < n; k++) out[k] = k < 2 || k >= n - 2 ? 0 : profile[k + 2]! - profile[k - 2]!;
  });
}

function centreOf(
  pixels: Pixels,
  x: number,
  y: number,
  nx: number,
  ny: number,
  { reachPx, halfLengthPx, bend = 0 }: CentreOptions,
  shape: (profile: Float64Array, out: Float64Array) => void,
): Centre | null {
  const count = 2 * Math.round(reachPx / STEP) + 1;
  const middle = (count - 1) / 2;
  const parts = Array.from({ length: PARTS }, () => new Float64Array(count));
  const whole = new Float64Array(count);
  for (let row = 0; row < ROWS; row++) {
    const s = ((row + 0.5) / ROWS - 0.5) * 2 * halfLengthPx;
    const lift = 0.5 * bend * s * s;
    const part = parts[Math.floor((row * PARTS) / ROWS)]!;
    for (let k = 0; k < count; k++) {
      const t = (k - middle) * STEP + lift;
      const light = lightAt(pixels, x + t * nx - s * ny, y + t * ny + s * nx);
      if (Number.isNaN(light)) return null;
      part[k]! += light;
      whole[k]! += light;
    }
  }
  const signal = new Float64Array(count);
  shape(whole, signal);
  const peak = peakNear(signal, middle);
  if (peak < 0) return null;
  const centre = centroid(signal, peak, peak);
  if (centre === null) return null;
  const own = parts.flatMap((part) => {
    shape(part, signal);
    const at = centroid(signal, peak, Math.round(centre));
    return at === null ? [] : [at];
  });
  if (own.length < PARTS - 1) return null;
  shape(whole, signal);
  const mean = own.reduce((a, b) => a + b) / own.length;
  const square = own.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (own.length - 1);
  return {
    offPx: (centre - middle) * STEP,
    sigmaPx: Math.hypot(STEP * Math.sqrt(square / own.length), LEAST_SIGMA_PX),
    contrast: signal[peak]! / ROWS,
  };
}

/** The highest peak, near the middle counting more. */
function peakNear(signal: Float64Array, middle: number): number {
  let best = -1;
  let most = 0;
  for (let k = 1; k < signal.length - 1; k++) {
    const height = Math.abs(signal[k]!) * (1 - 0.6 * (Math.abs(k - middle) / middle));
    if (height > most) {
      most = height;
      best = k;
    }
  }
  return best;
}

/** Centre of the hump about a peak, of one sign with it; null where the hump runs out of the band. */
function centroid(signal: Float64Array, signAt: number, start: number): number | null {
  const sign = Math.sign(signal[signAt]!);
  let peak = start;
  while (peak > 0 && sign * signal[peak - 1]! > sign * signal[peak]!) peak -= 1;
  while (peak < signal.length - 1 && sign * signal[peak + 1]! > sign * signal[peak]!) peak += 1;
  const level = PEAK_SHARE * sign * signal[peak]!;
  if (!(level > 0)) return null;
  let [low, high] = [peak, peak];
  while (low > 0 && sign * signal[low - 1]! > level) low -= 1;
  while (high < signal.length - 1 && sign * signal[high + 1]! > level) high += 1;
  if (low === 0 || high === signal.length - 1) return null;
  let [sum, moment] = [0, 0];
  for (let k = low; k <= high; k++) {
    const weight = sign * signal[k]! - level;
    sum += weight;
    moment += weight * k;
  }
  // The hump's ends fall between samples: what stands above the level there counts as well.
  for (const [inside, outside] of [
    [low, low - 1],
    [high, high + 1],
  ] as const) {
    const a = sign * signal[inside]! - level;
    const b = level - sign * signal[outside]!;
    const share = a / (a + b);
    const weight = 0.5 * a * share;
    sum += weight;
    moment += weight * (inside + ((outside - inside) * share) / 3);
  }
  return sum > 0 ? moment / sum : null;
}

/** Linear light at a place, bilinear; NaN outside. */
function lightAt({ width, height, data }: Pixels, x: number, y: number): number {
  const u = x - 0.5;
  const v = y - 0.5;
  if (!(u >= 0 && v >= 0 && u < width - 1 && v < height - 1)) return Number.NaN;
  const i = Math.floor(u);
  const j = Math.floor(v);
  const [fx, fy] = [u - i, v - j];
  const at = (j * width + i) * 4;
  const row = width * 4;
  return (
    (lightOf(data, at) * (1 - fx) + lightOf(data, at + 4) * fx) * (1 - fy) +
    (lightOf(data, at + row) * (1 - fx) + lightOf(data, at + row + 4) * fx) * fy
  );
}

const lightOf = (data: Pixels['data'], at: number): number =>
  0.2126 * LINEAR[data[at]!]! + 0.7152 * LINEAR[data[at + 1]!]! + 0.0722 * LINEAR[data[at + 2]!]!;
