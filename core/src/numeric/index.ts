export * from './cholesky';
export * from './descend';
export * from './leastSquares';
export type { NormalEquations } from './normalEquations';
export * from './random';
export * from './sparse/ldl';
export * from './sparse/selectedInverse';
