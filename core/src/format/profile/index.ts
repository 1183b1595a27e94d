export * from './compensate';
export * from './dashes';
export * from './dxfOptions';
export * from './flatProfile';
export * from './profileOf';
export * from './sheetOf';
export * from './sizesOf';
