export * from './caliper';
