export * from './bodies';
export * from './handOver';
