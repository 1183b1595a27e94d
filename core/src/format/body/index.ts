export * from './writeBodies';
export * from './writeBody';
