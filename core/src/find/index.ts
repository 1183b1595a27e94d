export * from './countStrokes';
