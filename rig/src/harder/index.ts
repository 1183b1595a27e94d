export * from './coins';
export * from './holes';
