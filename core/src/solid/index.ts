export * from './bodyMesh';
export * from './fewer';
export * from './halfProfile';
export * from './materials';
export * from './names';
export * from './plan';
export * from './planBody';

export { markFaults } from './profiles';
export * from './region';
export * from './space';
export * from './view';
export * from './weld';
