export * from './writeSvg';
