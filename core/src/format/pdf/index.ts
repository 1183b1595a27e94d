export * from './writeGridSheet';
export { writePdf } from './writePdf';
export * from './writeSheet';
export * from './writeTiledPdf';
