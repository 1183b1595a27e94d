import type { Id, Observation } from '../sketch';

/** What was seen of the end of a piece, the top of an arc, a handle or a rim. */
export type SettledPick = Pick<Observation, 'uPx' | 'vPx' | 'sigmaPx'>;

export type SettleFault =
  /** Part of it was seen in another picture, or on another plane. */
  | 'not-here'
  /** A circle about a typed middle has no rim that was seen. */
  | 'no-rim'
  /** Along none of it an edge was found. */
  | 'no-edge';

export interface PieceSettled {
  curve: Id;
  /** Places with an edge that counts, of all that were looked at. */
  found: number;
  asked: number;
  /** How far those lie off the settled piece, px. */
  rmsPx: number;
  /** Too little was found: it lies as it did. */
  isDoubtful: boolean;
}

export type SettleResult =
  | {
      ok: true;
      picks: Record<Id, SettledPick>;
      /** How far the end that moved most did, or a rim, in units of the map. */
      moved: number;
      /** Every piece that was asked, in the order of the path. */
      pieces: readonly PieceSettled[];
    }
  | { ok: false; reason: SettleFault };

/** How far an edge is looked for, px: from what a hand drew, then from what was fitted to that; and at how many places of a piece. */
export const LOOKS = [
  { searchPx: 10, most: 10 },
  { searchPx: 5, most: 28 },
] as const;

/**
 * What all places along an edge have in common, whatever their scatter, px: the tone curve and what no model here holds. Less
 * than along a rim (edge/snapCircle.ts), round which a wall shows as well.
 */
export const COMMON_PX = 0.06;
