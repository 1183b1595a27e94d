export * from './formatLength';
export * from './parseLength';
