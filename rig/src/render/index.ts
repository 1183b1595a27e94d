export * from './develop';
export * from './expose';
export { onText } from './figures';
export { formsOf, RULE } from './surfaces';
