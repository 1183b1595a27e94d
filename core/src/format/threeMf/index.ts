export * from './write3mf';
