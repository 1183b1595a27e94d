export type { Looking } from './foundAlong';
export type { SettledPick, SettleFault, SettleResult } from './settled';
export * from './settlePath';
