export * from './latchPlate';
