import type { PicturePoint } from '../../calibration';
import type { Ellipse } from '../../fit';
import type { Pixels } from '../../raster';
import { type CoinFound, type CoinHints, findCoin } from './findCoin';
import { type DiscResult, findRound } from './findRound';

/** What is seen less than that of a coin's upper rim is left to the finder that takes a part of a rim. */
const LEAST_SEEN = 0.7;
/** Two ellipses are one and the same, and of one rim, where their sizes and their forms differ by less, as shares. */
const SAME = { size: 0.006, form: 0.012 } as const;
const ONE_RIM = { size: 0.015, form: 0.03 } as const;

/**
 * Finds a coin or any disc from one click inside it. Where the foot of its wall is seen below its upper rim, both circles
 * together tell the rim and the tilt. Where it is not, the outline against the ground has a say as well: what both ways find
 * alike is taken, and where they differ the other one is told and offered.
 */
export function findDisc(pixels: Pixels, click: PicturePoint, hints: CoinHints = {}): DiscResult {
  const coin = findCoin(pixels, click, hints);
  const isSeen = coin !== null && coin.seen >= LEAST_SEEN;
  if (isSeen && coin.showsFoot) return asFound(coin);
  const round = findRound(pixels, click);
  if (!isSeen) return round;
  if (!round.ok) return { ...asFound(coin), doubt: 'ragged' };
  if (isLike(coin.ellipse, round.ellipse, SAME)) return asFound(coin);
  // Light, bevel and shadow each draw a line of their own along one rim: the outline is the ground's against it.
  if (isLike(coin.ellipse, round.ellipse, ONE_RIM)) return round;
  const { rim, foot, ellipse } = coin;
  return { ...round, doubt: round.doubt ?? 'another-circle', other: round.other ?? { rim, foot, ellipse } };
}

function isLike(p: Ellipse, q: Ellipse, within: { size: number; form: number }): boolean {
  const size = Math.sqrt((p.a * p.b) / (q.a * q.b));
  return Math.abs(size - 1) < within.size && Math.abs(p.b / p.a - q.b / q.a) < within.form;
}

/** A coin as the finder of any disc has it. */
export function asFound({
  rim,
  foot,
  ellipse,
  seen,
  isUneven,
  opposite,
}: CoinFound): Extract<DiscResult, { ok: true }> {
  return {
    ok: true,
    rim,
    foot,
    ellipse,
    seen,
    doubt: opposite ? 'opposite' : isUneven ? 'ragged' : null,
    other: opposite && { rim: opposite.rim, foot: opposite.foot, ellipse: opposite.ellipse },
  };
}
