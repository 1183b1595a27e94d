import type { Vec2 } from '../../geometry';
import { medianOf } from '../../numeric';
import type { Pixels } from '../../raster';
import { greenAt } from '../shared/greenAt';

/** Where a stroke stands on its edge, along which way, and how far it is to the next ones, px. */
export interface StrokePlace {
  foot: Vec2;
  down: Vec2;
  own: number;
}

/**
 * How far in each stroke reaches, px: where the sum of what speaks for it, as dark as strokes are near the edge, against
 * its ground is greatest.
 *
 * In: where strokes stand, their period and as how deep they are all seen, px. Out: how far in they begin, and where each
 * ends, 0 where it hardly shows; null where most go on as far as is looked: those are lines that cross the edge.
 */
export function strokeLengths(
  pixels: Pixels,
  places: readonly StrokePlace[],
  period: number,
  dark: boolean,
  sure: number,
): { start: number; lengths: number[] } | null {
  const most = LONGEST_PERIODS * period;
  const step = Math.max(1, period / 12);
  const depths = Array.from({ length: Math.floor(most / step) }, (_, k) => (k + 1) * step);
  const sign = dark ? 1 : -1;
  const deepness = places.map(({ foot, down, own }) => {
    const [nx, ny] = [-down.y, down.x];
    return depths.map((d) => {
      const at = (s: number) => greenAt(pixels, foot.x + d * down.x + s * nx, foot.y + d * down.y + s * ny);
      const beside = (at(-0.5 * own) + at(0.5 * own) + at(-0.4 * own) + at(0.4 * own)) / 4;
      return sign * (beside - (at(-0.1 * own) + 2 * at(0) + at(0.1 * own)) / 4);
    });
  });
  const near = deepness.flatMap((deep) => deep.filter((_, k) => depths[k]! > 0.3 * sure && depths[k]! < sure));
  const usual = medianOf(near, 0);
  if (usual <= 0) return null;
  const ends = (sureTo: number, gap: number) =>
    deepness.map((deep) => {
      // A stroke that hardly shows where all do says nothing of its length.
      const own = deep.filter((_, k) => depths[k]! > 0.3 * sure && depths[k]! < sure);
      if (own.reduce((a, b) => a + b, 0) < SHOWN_SHARE * usual * own.length) return 0;
      let [sum, best, end] = [0, 0, 0];
      for (const [k, v] of deep.entries()) {
        sum += Math.max(-1, Math.min(1, (2 * v) / usual - 1));
        if (sum > best) [best, end] = [sum, depths[k]!];
        if (depths[k]! > sureTo && (sum < best - (gap * period) / step || (gap === 0 && v < 0.5 * usual))) break;
      }
      return end;
    });
  // As deep as most go a gap is a flaw; further in it is what parts a stroke from its figure.
  const rough = ends(sure, GAP.flaw).sort((a, b) => a - b);
  const scatter = medianOf(near.map((v) => Math.abs(v - usual)));
  const lengths = withoutFigures(ends(rough[rough.length >> 1]!, scatter < PLAIN * usual ? 0 : GAP.figure));
  const endless = lengths.filter((v) => v > 0.9 * most).length;
  if (endless >= ENDLESS_SHARE * lengths.length) return null;
  // Where they all begin: many rulers have a margin.
  const begins = depths.findIndex((_, k) => {
    const all = deepness.map((deep) => deep[k]!).sort((a, b) => a - b);
    return all[all.length >> 1]! > 0.5 * usual;
  });
  return { start: Math.min(sure / 2, Math.max(0, begins) * step), lengths };
}

/**
 * A figure may stand so near to its stroke that nothing parts them; a few strokes that are longer than the longest ones
 * are usually are no longer than those.
 */
function withoutFigures(lengths: readonly number[]): number[] {
  const top = [...lengths].sort((a, b) => b - a).slice(0, Math.max(LONGEST.fewest, LONGEST.share * lengths.length));
  const longest = top[top.length >> 1]!;
  return lengths.map((v) => (v > LONGEST.most * longest ? longest : v));
}

/** The longest strokes of a ruler are this share of all, or so many; they differ by less than so much. */
const LONGEST = { share: 0.05, fewest: 3, most: 1.06 } as const;

/** Strokes are looked at so far in, periods; if so many go on beyond, they are no strokes of a ruler. */
const LONGEST_PERIODS = 14;
const ENDLESS_SHARE = 0.5;
const SHOWN_SHARE = 0.5;
/** A stroke has ended where there has been none for so long, periods. */
const GAP = { flaw: 1, figure: 0.5 } as const;
/** Strokes are plain to see if their depth scatters by less than this share: those end where they first are half as deep. */
const PLAIN = 0.05;
