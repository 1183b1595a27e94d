export * from './halfProfile';
export * from './materials';
export * from './names';
export * from './plan';
export * from './planBody';
export * from './region';
export * from './space';
export * from './weld';
