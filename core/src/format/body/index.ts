export * from './flatDrawings';
export * from './names';
export * from './writeBodies';
export * from './writeBody';
