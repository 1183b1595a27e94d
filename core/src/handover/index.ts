export * from './handOver';
