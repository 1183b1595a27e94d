export * from './createServer';
export * from './strictHeaders';
