export * from './flatDrawings';
export * from './prepare';
export * from './writeBodies';
export * from './writeBody';
