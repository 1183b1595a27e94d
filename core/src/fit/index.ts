export * from './fitCircle';
export * from './fitEllipse';
