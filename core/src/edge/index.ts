export * from './clingCircle';
export * from './locate';
