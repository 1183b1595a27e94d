export * from './jobFile';
