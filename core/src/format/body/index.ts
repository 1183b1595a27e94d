export * from './names';
export * from './sectionDrawing';
export * from './writeBodies';
export * from './writeBody';
