export * from './writeGridSheet';
export * from './writePdf';
