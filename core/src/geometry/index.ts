export * from './lineUp';
export * from './nearest';
export * from './pathData';
export * from './run';
export * from './segment';
export * from './split';
export * from './vector';
