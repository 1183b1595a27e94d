export * from './camera';
