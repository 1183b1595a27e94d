export * from './locate';
