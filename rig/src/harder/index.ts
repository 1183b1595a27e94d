export * from './coins';
export * from './drawings';
export * from './holes';
export * from './rulers';
