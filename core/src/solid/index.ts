export * from './halfProfile';
export * from './materials';
export * from './names';
export * from './plan';
export * from './planBody';
export type { PlanInput, SketchSide } from './planState';
export * from './region';
export * from './space';
export * from './weld';
