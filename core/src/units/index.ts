export * from './fits';
export * from './formatLength';
export * from './formula';
export * from './parseLength';
