export * from './kinds';
