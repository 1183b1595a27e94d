export type { Looking } from './foundAlong';
export type { PieceSettled, SettledPick, SettleFault, SettleResult } from './settled';
export * from './settlePath';
