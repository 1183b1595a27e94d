export type { Kernel } from './arena';
export type { BodyState } from './body';
export * from './build';
export * from './measure';
export * from './mesh';
export * from './sectionOf';
export * from './surfaceMesh';
export * from './tell';
export * from './writeStep';
