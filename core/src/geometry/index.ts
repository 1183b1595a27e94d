export * from './nearest';
export * from './run';
export * from './segment';
export * from './vector';
