import type { Graduations, PicturePoint, PixelPick } from '../../calibration';
import type { Vec2 } from '../../geometry';
import type { Pixels } from '../../raster';
import { linesOf, type PictureLines } from '../shared/strongLines';
import { type Family, tellFamilies } from './family';
import { type FollowedStroke, followRow, numbered } from './followRow';
import { takeGraduations } from './graduationRow';
import { findRows } from './seekRows';
import { type EdgeRow, strokesBeside } from './strokesBeside';
import { withoutRims } from './withoutRims';

export type RulerFault =
  /** No row of even strokes near the click. */
  | 'no-strokes'
  /** Nearer to one another than they can be told apart. */
  | 'too-fine'
  /** Too few of them to be a reference. */
  | 'too-few'
  /** So many are hidden that their count is in doubt. */
  | 'hidden';

export type RulerResult =
  | {
      ok: true;
      /** The first and the last stroke found. */
      from: PixelPick;
      to: PixelPick;
      /** Spacings between both. */
      count: number;
      seen: number;
      /** What the long and the short strokes say of the spacing; null where they do not tell. */
      family: Family | null;
      /** What they may mean where they leave it open, the likeliest first: to be asked, never guessed. */
      families: readonly Family[];
      graduations: Omit<Graduations, 'spacingMm'>;
      /** The row of strokes goes on out of the picture, at either end. */
      runsOut: boolean;
    }
  | { ok: false; reason: RulerFault };

/** Strokes nearer than this cannot be located one by one, px. */
const LEAST_PERIOD_PX = 5;
const FEWEST_GRADUATIONS = 8;
/** Share of strokes that may be hidden before the count is not believed. */
const MOST_HIDDEN = 0.3;

/** Of the strokes of a row along an edge so many are seen one by one. */
const SEEN_SHARE = 0.6;
/** A click is meant for the row within so much of it, px. */
const BESIDE_CLICK_PX = 220;

/**
 * Finds a ruler from one click on or beside its graduations: the strokes that stand on a straight edge near it, however
 * faint; where there are none, the way in which the picture repeats itself there, then stroke after stroke both ways,
 * each foretold by those before it, so that a gap does not shift the count.
 * In: the picture and a place, px. Out: both ends, each stroke as a line by its number, and what spacing the long and
 * the short strokes tell of.
 */
export function findRuler(pixels: Pixels, click: PicturePoint): RulerResult {
  const beside = strokesBeside(pixels, linesOf(pixels), click)
    .map((row) => ({ row, away: awayOf(row, click) }))
    .filter(({ away }) => away < BESIDE_CLICK_PX)
    .sort((p, q) => p.away - q.away);
  for (const { row } of beside) {
    const found = rulerOf(pixels, row);
    if (found.ok) return found;
  }
  return rulerOfRows(pixels, click);
}

/** The rulers of a picture whose strokes stand on straight edges, but for those whose middle is somewhere that is off. */
export function rulersBeside(
  pixels: Pixels,
  lines: PictureLines,
  isOff: (at: Vec2) => boolean,
): Extract<RulerResult, { ok: true }>[] {
  return strokesBeside(pixels, lines, null, isOff).flatMap((row) => {
    const found = rulerOf(pixels, row);
    return found.ok ? [found] : [];
  });
}

function awayOf({ strokes }: EdgeRow, { uPx, vPx }: PicturePoint): number {
  return Math.min(...strokes.map(({ at }) => Math.hypot(at.x - uPx, at.y - vPx)));
}

/** A ruler of a row along an edge: strokes that are not seen one by one are not taken as places. */
function rulerOf(pixels: Pixels, { strokes, dark }: EdgeRow): RulerResult {
  const own = withoutRims(
    pixels,
    strokes.filter((s) => s.contrast > 0),
  );
  if (own.length < SEEN_SHARE * strokes.length) return { ok: false, reason: 'hidden' };
  const first = own[0]!.n;
  return rulerWith(
    pixels,
    own.map((s) => ({ ...s, n: s.n - first })),
    dark,
  );
}

/** A ruler about a click by how the picture repeats itself there. */
function rulerOfRows(pixels: Pixels, click: PicturePoint): RulerResult {
  const seeds = findRows(pixels, { x: click.uPx, y: click.vPx });
  if (seeds.length === 0) return { ok: false, reason: 'no-strokes' };
  if (seeds.every((seed) => seed.period < LEAST_PERIOD_PX)) return { ok: false, reason: 'too-fine' };
  // Nearly every ruler has dark strokes on light ground, and strokes are narrower than what is between them; the other
  // way round counts only where that leads nowhere, since what lies between the strokes is as even as they are.
  const rows: { strokes: FollowedStroke[]; dark: boolean; likely: boolean }[] = [];
  for (const seed of seeds) {
    if (seed.period < LEAST_PERIOD_PX) continue;
    const looks = seed.skew < LIGHT_SKEW;
    for (const dark of [looks, !looks]) {
      const strokes = withoutRims(pixels, followRow(pixels, seed, dark).strokes);
      rows.push({ strokes, dark, likely: dark === looks });
      if (strokes.length >= FEWEST_GRADUATIONS) break;
    }
  }
  const long = rows.filter((r) => r.strokes.length >= FEWEST_GRADUATIONS);
  const chosen = long.some((r) => r.likely) ? long.filter((r) => r.likely) : long;
  if (chosen.length === 0) return { ok: false, reason: 'too-few' };
  const row = chosen.reduce((best, r) => (r.strokes.length > best.strokes.length ? r : best));
  const strokes = numbered(row.strokes);
  return strokes ? rulerWith(pixels, strokes, row.dark) : { ok: false, reason: 'hidden' };
}

/** A ruler of strokes numbered from the first one on. */
function rulerWith(pixels: Pixels, strokes: readonly FollowedStroke[], dark: boolean): RulerResult {
  const last = strokes[strokes.length - 1]!;
  const count = last.n;
  if (strokes.length < (1 - MOST_HIDDEN) * (count + 1)) return { ok: false, reason: 'hidden' };
  const period = Math.hypot(last.at.x - strokes[0]!.at.x, last.at.y - strokes[0]!.at.y) / count;
  const taken = takeGraduations(pixels, strokes, period, dark);
  if (taken.graduations.length < FEWEST_GRADUATIONS) return { ok: false, reason: 'too-few' };
  const families = tellFamilies(strokes.map(({ n, length }) => ({ n, length })));
  const pick = ({ at, sigmaPx }: FollowedStroke): PixelPick => ({ uPx: at.x, vPx: at.y, sigmaPx });
  return {
    ok: true,
    from: pick(strokes[0]!),
    to: pick(last),
    count,
    seen: strokes.length,
    family: families.length === 1 ? families[0]! : null,
    families,
    graduations: taken,
    runsOut: [strokes[0]!, last].some(({ at }) => isAtRim(pixels, at, 2 * period)),
  };
}

const isAtRim = ({ width, height }: Pixels, { x, y }: Vec2, near: number): boolean =>
  Math.min(x, y, width - x, height - y) < near;

/** From this skew on the strokes are taken to be light on dark ground. */
const LIGHT_SKEW = 0.4;
