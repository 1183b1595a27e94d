import type { Vec2 } from '../../geometry';
import { medianOf } from '../../numeric';
import type { Pixels } from '../../raster';
import { greenAt } from '../shared/greenAt';
import type { FollowedStroke } from './followRow';

/** Strokes looked at, from either end of a row. */
const LOOKED_AT = 8;
/** The ground is read this far to both sides of a stroke, in periods, and so far along it. */
const BESIDE = 0.42;
const ALONG_PX = 4;
/**
 * What lies on both sides of a stroke is alike to this share of how much darker the strokes are, or to so many times what
 * is usual on this ruler.
 */
const UNLIKE = { share: 0.15, times: 6 } as const;

/**
 * A row of strokes without what stands at the ruler's own end: its rim is as dark a line as a stroke where a shadow lies
 * along it, and may stand in step with them, but on one side of it is the ruler and on the other the table.
 */
export function withoutRims(pixels: Pixels, strokes: readonly FollowedStroke[]): FollowedStroke[] {
  const sides = strokes.map((stroke, k) => {
    const next = strokes[Math.min(strokes.length - 1, k + 1)]!;
    const before = strokes[Math.max(0, k - 1)]!;
    const way = { x: next.at.x - before.at.x, y: next.at.y - before.at.y };
    const stride = BESIDE / Math.max(1, Math.abs(next.n - before.n));
    const read = (s: number) =>
      groundAt(pixels, { x: stroke.at.x + s * way.x, y: stroke.at.y + s * way.y }, stroke.down);
    const [a, on, b] = [read(-stride), read(0), read(stride)];
    return { apart: Math.abs(a - b), deep: Math.abs((a + b) / 2 - on) };
  });
  const most = Math.max(
    UNLIKE.share *
      medianOf(
        sides.map((s) => s.deep),
        0,
      ),
    UNLIKE.times *
      medianOf(
        sides.map((s) => s.apart),
        0,
      ),
  );
  const isRim = (k: number): boolean => sides[k]!.apart > most;
  let [from, to] = [0, strokes.length];
  for (let k = 0; k < Math.min(LOOKED_AT, strokes.length >> 2); k++) {
    if (isRim(k)) from = k + 1;
    if (isRim(strokes.length - 1 - k)) to = strokes.length - 1 - k;
  }
  return strokes.slice(from, to);
}

function groundAt(pixels: Pixels, { x, y }: Vec2, down: Vec2): number {
  let sum = 0;
  for (let t = -ALONG_PX; t <= ALONG_PX; t += 2) sum += greenAt(pixels, x + t * down.x, y + t * down.y);
  return sum;
}
