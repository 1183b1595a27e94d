export * from './digest';
export * from './dxf';
export * from './jobFile';
export * from './pdf';
export * from './picture';
export * from './profile';
export * from './svg';
export * from './writeProfile';
