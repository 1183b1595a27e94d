export * from './develop';
export * from './expose';
export { formsOf, RULE } from './surfaces';
