export * from './coins';
export * from './drawings';
export * from './holes';
export * from './lying';
export * from './rulers';
