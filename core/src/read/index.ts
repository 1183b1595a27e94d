export * from './readDrawing';
export * from './readRulerFigures';
export type { FigureDoubt, FigureUnit } from './rulerFigures';
export * from './text';
