export * from './readDrawing';
export * from './readRulerFigures';

export * from './text';
