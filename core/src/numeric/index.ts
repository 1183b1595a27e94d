export * from './cholesky';
export * from './leastSquares';
export * from './random';
