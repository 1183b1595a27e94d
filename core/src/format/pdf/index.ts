export * from './writeGridSheet';
export { writePdf } from './writePdf';
export * from './writeTiledPdf';
