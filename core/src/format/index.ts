export * from './digest';
export * from './dxf';
export * from './flatProfile';
export * from './jobFile';
export * from './pdf';
export * from './picture';
export * from './svg';
