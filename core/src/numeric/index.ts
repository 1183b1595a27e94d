export * from './cholesky';
export * from './descend';
export * from './leastSquares';
export { medianOf } from './median';
export { factorScaled, type NormalEquations, solveScaled } from './normalEquations';
export * from './random';
export * from './sparse/ldl';
export * from './sparse/selectedInverse';
