export * from './develop';
export * from './expose';

export { formsOf } from './surfaces';
