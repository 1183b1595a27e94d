export * from './writePdf';
