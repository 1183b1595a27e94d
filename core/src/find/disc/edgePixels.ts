import type { CoarseColours } from '../shared/coarse';

/** Where colour changes most across an edge, and which way that is. */
export interface EdgePixel {
  x: number;
  y: number;
  /** Unit direction across it, either way. */
  nx: number;
  ny: number;
  /** Change of colour, levels of 255 a pixel. */
  strength: number;
}

/** A region of a small copy, px. */
export interface Region {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** Weights of the derivative that turns least with direction, and their sum on one side. */
const SCHARR = { side: 3, middle: 10, sum: 32 } as const;
/** Changes this faint are noise: levels a pixel, and against the usual change there. */
const LEAST_CHANGE = 1.2;
const LEAST_TIMES_USUAL = 2.2;
/** So far from its peak an edge has faded to so much of it, px of the small copy; the edge of a soft shadow has not. */
const FADES_PX = 3;
const FADED_SHARE = 0.7;

/**
 * The edges of a region, one pixel wide, by the change of colour in all three channels (Di Zenzo 1986, A note on the gradient
 * of a multi-image), kept where it is greatest across the edge.
 */
export function edgePixelsIn({ width, height, levels }: CoarseColours, region: Region): EdgePixel[] {
  const left = Math.max(1, region.left);
  const top = Math.max(1, region.top);
  const w = Math.min(width - 1, region.right) - left;
  const h = Math.min(height - 1, region.bottom) - top;
  if (w < 3 || h < 3) return [];
  const strength = new Float32Array(w * h);
  const turn = new Float32Array(w * h);
  const row = 3 * width;
  const { side, middle, sum } = SCHARR;
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      let [xx, xy, yy] = [0, 0, 0];
      const at = 3 * ((top + y) * width + left + x);
      for (let c = at; c < at + 3; c++) {
        const [nw, n, ne] = [levels[c - row - 3]!, levels[c - row]!, levels[c - row + 3]!];
        const [sw, s, se] = [levels[c + row - 3]!, levels[c + row]!, levels[c + row + 3]!];
        const gx = (side * (ne + se - nw - sw) + middle * (levels[c + 3]! - levels[c - 3]!)) / sum;
        const gy = (side * (sw + se - nw - ne) + middle * (s - n)) / sum;
        xx += gx * gx;
        xy += gx * gy;
        yy += gy * gy;
      }
      const half = (xx - yy) / 2;
      strength[y * w + x] = Math.sqrt((xx + yy) / 2 + Math.sqrt(half * half + xy * xy));
      turn[y * w + x] = Math.atan2(2 * xy, xx - yy) / 2;
    }
  const least = Math.max(LEAST_CHANGE, LEAST_TIMES_USUAL * medianOf(strength));
  const found: EdgePixel[] = [];
  for (let y = 1; y < h - 1; y++)
    for (let x = 1; x < w - 1; x++) {
      const k = y * w + x;
      const own = strength[k]!;
      if (own < least) continue;
      const [nx, ny] = [Math.cos(turn[k]!), Math.sin(turn[k]!)];
      const before = between(strength, w, x - nx, y - ny);
      const behind = between(strength, w, x + nx, y + ny);
      if (own < before || own <= behind) continue;
      const [inside, outside] = [x - FADES_PX * nx, y - FADES_PX * ny];
      const [across, beyond] = [x + FADES_PX * nx, y + FADES_PX * ny];
      if (inside < 0 || outside < 0 || inside > w - 2 || outside > h - 2) continue;
      if (across < 0 || beyond < 0 || across > w - 2 || beyond > h - 2) continue;
      // A soft shadow's edge goes on changing far beyond where a thing's edge has done with it.
      const faded = Math.max(between(strength, w, inside, outside), between(strength, w, across, beyond));
      if (faded > FADED_SHARE * own) continue;
      // The peak of the parabola through the three.
      const bend = before - 2 * own + behind;
      const off = bend < 0 ? (0.5 * (before - behind)) / bend : 0;
      found.push({ x: left + x + 0.5 + off * nx, y: top + y + 0.5 + off * ny, nx, ny, strength: own });
    }
  return found;
}

/** Bilinear; the place lies inside. */
function between(values: Float32Array, w: number, x: number, y: number): number {
  const [i, j] = [Math.floor(x), Math.floor(y)];
  const [fx, fy] = [x - i, y - j];
  const k = j * w + i;
  const upper = values[k]! * (1 - fx) + (fx > 0 ? values[k + 1]! * fx : 0);
  if (fy === 0) return upper;
  return upper * (1 - fy) + (values[k + w]! * (1 - fx) + (fx > 0 ? values[k + w + 1]! * fx : 0)) * fy;
}

/** The median of every eleventh: near enough for a threshold. */
function medianOf(values: Float32Array): number {
  const some = values.filter((_, k) => k % 11 === 0).sort();
  return some[some.length >> 1] ?? 0;
}
