export * from './forms';
export * from './outline';
export * from './scene';
