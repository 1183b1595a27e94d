export * from './fewerTriangles';
export { squareToTriangle } from './nearTriangle';
