export * from './fitCircle';
