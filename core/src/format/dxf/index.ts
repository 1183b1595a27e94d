export * from './writeDxf';
