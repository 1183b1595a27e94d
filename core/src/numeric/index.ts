export * from './cholesky';
export * from './leastSquares';
export * from './random';
export * from './sparse/ldl';
export * from './sparse/selectedInverse';
