export type { Kernel } from './arena';
export type { BodyState } from './body';
export * from './build';
export * from './deviation';
export * from './measure';
export * from './mesh';
export * from './sectionOf';
export * from './tell';
export * from './writeStep';
