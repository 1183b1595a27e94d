export * from './adviseJoined';
export * from './adviseNext';
export * from './calibrator';
export type { Contradiction } from './findContradiction';
export * from './placing';
